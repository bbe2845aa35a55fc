type Input = string | number | boolean | object | null;

const isList = (input: Input): input is ArrayLike<unknown> & object => Array.isArray(input) || ArrayBuffer.isView(input);

function sameList(a: ArrayLike<unknown>, b: ArrayLike<unknown>): boolean {
  if (a.length !== b.length) return false;
  for (let at = 0; at < a.length; at += 1) if (a[at] !== b[at]) return false;
  return true;
}

const same = (a: Input, b: Input): boolean => a === b || (isList(a) && isList(b) && sameList(a, b));

/** How many results are kept: of the level at hand, the one compared, and what was undone. */
const KEPT = 4;

/**
 * Keeps the last few results of a part of compiling, so that after a turned dial only what depends on it is worked out anew. Of
 * inputs that are lists the entries are compared, of all others the identity. Results are shared: they are never changed.
 */
export function keeping<Value>(): (inputs: readonly Input[], make: () => Value) => Value {
  const kept: { readonly inputs: readonly Input[]; readonly value: Value }[] = [];
  return (inputs, make) => {
    const at = kept.findIndex((one) => one.inputs.every((input, index) => same(input, inputs[index] as Input)));
    const found = at < 0 ? { inputs, value: make() } : (kept[at] as (typeof kept)[number]);
    if (at >= 0) kept.splice(at, 1);
    kept.unshift(found);
    kept.length = Math.min(kept.length, KEPT);
    return found.value;
  };
}
