import { valueIn } from '../../geometry/index.ts';
import * as codes from './codes.ts';
import type { FormColumns } from './compileThings.ts';

interface Ruled {
  /** The first rule of each form, and one more. */
  readonly ruleStart: Int32Array;
  readonly setOffBy: Uint8Array;
  readonly keepTrying: Uint8Array;
  readonly zone: Uint8Array;
  readonly effectStart: Int32Array;
}

/** The rules of a form: from, and up to but not with. */
const rulesOf = (ruleStart: Int32Array, form: number): [number, number] => [valueIn(ruleStart, form), valueIn(ruleStart, form + 1)];

/** By form: which zones rules are tied to, as bits, and which ways of being set off it has. */
export function compileFormRules({ ruleStart, setOffBy, zone }: Ruled) {
  const forms = ruleStart.length - 1;
  const has = (set: number): Uint8Array =>
    Uint8Array.from({ length: forms }, (_, form) => {
      const [from, to] = rulesOf(ruleStart, form);
      return setOffBy.subarray(from, to).includes(set) ? 1 : 0;
    });
  return {
    ruleStart,
    zones: Int32Array.from({ length: forms }, (_, form) => {
      const tied = zone.subarray(...rulesOf(ruleStart, form)).filter((one) => one !== codes.WHOLE && one !== codes.NOWHERE);
      return tied.reduce((bits, one) => bits | (1 << one), 0);
    }),
    arriving: has(codes.SET_OFF_BY.arriving),
    inside: has(codes.SET_OFF_BY.inside),
    leaving: has(codes.SET_OFF_BY.leaving),
  };
}

/** Inside rules keep their spans in slots of the contact: one for each effect, at least one. By rule, and how many a contact needs. */
export function compilePairSlots({ ruleStart, setOffBy, keepTrying, effectStart }: Ruled): { slot: Int32Array; slotsPerPair: number } {
  const slot = new Int32Array(setOffBy.length);
  let slotsPerPair = 0;
  for (let form = 0; form < ruleStart.length - 1; form += 1) {
    const [from, to] = rulesOf(ruleStart, form);
    let next = 0;
    for (let rule = from; rule < to; rule += 1) {
      slot[rule] = next;
      if (setOffBy[rule] !== codes.SET_OFF_BY.inside && keepTrying[rule] !== 1) continue;
      next += Math.max(1, valueIn(effectStart, rule + 1) - valueIn(effectStart, rule));
    }
    slotsPerPair = Math.max(slotsPerPair, next);
  }
  return { slot, slotsPerPair };
}

/** Where each placement keeps what is counted by rule, and what it draws by chance. Room for a spawned thing takes as much as any form needs. */
export function compilePlacementSlots(formOf: readonly number[], count: number, ruleStart: Int32Array, { draws }: FormColumns) {
  const rulesIn = (form: number): number => valueIn(ruleStart, form + 1) - valueIn(ruleStart, form);
  const most = Array.from({ length: ruleStart.length - 1 }, (_, form) => rulesIn(form)).reduce((a, b) => Math.max(a, b), 0);
  const ruleSlot = new Int32Array(count + 1);
  const drawSlot = new Int32Array(count + 1);
  for (let index = 0; index < count; index += 1) {
    const form = formOf[index];
    const own = form === undefined ? most : rulesIn(form);
    ruleSlot[index + 1] = valueIn(ruleSlot, index) + own;
    drawSlot[index + 1] = valueIn(drawSlot, index) + (form === undefined || draws[form] === 1 ? own : 0);
  }
  return { ruleSlot, drawSlot };
}
