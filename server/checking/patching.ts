import { valueAt } from '@dial/core/level';
import { LEVEL_BYTES, type PatchOperation } from '@dial/core/api';
import { applyPatch } from 'rfc6902';

export type Patched =
  { readonly ok: true } | { readonly ok: false; readonly clash: boolean; readonly path: string; readonly message: string };

const isContainer = (value: unknown): boolean => typeof value === 'object' && value !== null;

/**
 * Applies a patch to a document in place, operation by operation, and stops at the first that fails. What `copy` makes the
 * document grow by is added up before each is made, so that a small patch cannot make a document without end.
 */
export function applyWithin(document: unknown, operations: readonly PatchOperation[]): Patched {
  let copied = 0;
  for (const operation of operations) {
    const { op, path } = operation;
    const fail = (message: string, clash = false): Patched => ({ ok: false, clash, path, message });
    if (path === '' && op !== 'test') return fail('the level as a whole cannot be replaced by a patch');
    if (!isContainer(valueAt(document, path.slice(0, Math.max(0, path.lastIndexOf('/')))))) return fail('the level has no such place');
    if (op === 'copy') {
      const value = valueAt(document, operation.from);
      if (value === undefined) return { ok: false, clash: false, path: operation.from, message: 'the level has no such place' };
      copied += JSON.stringify(value).length;
      if (copied > LEVEL_BYTES) return fail('the level would grow beyond what a level may be');
    }
    const [error] = applyPatch(document, [operation]);
    if (error == null) continue;
    return error.name === 'TestError' ? fail('is no longer what the change was made on', true) : fail('the level has no such place');
  }
  return { ok: true };
}
