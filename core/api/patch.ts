import { z } from 'zod';
import { textProblem } from '../level/index.ts';
import { PATCH_BYTES, PATCH_OPERATIONS } from './limits.ts';

const Pointer = z
  .string()
  .max(1000)
  .regex(/^(\/([^~/]|~[01])*)*$/, 'not a JSON Pointer')
  .refine((path) => !/\/(__proto__|constructor|prototype)(\/|$)/.test(path), 'this path is not allowed')
  .refine((path) => textProblem(path) === null, 'contains a character that cannot be kept');

// What comes from `JSON.parse` is JSON already; that the level it leads to is valid is checked as a whole.
const Value = z.unknown().refine((value) => value !== undefined, 'is missing: a value');

export const PatchOperation = z.discriminatedUnion('op', [
  z.strictObject({ op: z.literal(['add', 'replace', 'test']), path: Pointer, value: Value }),
  z.strictObject({ op: z.literal('remove'), path: Pointer }),
  z.strictObject({ op: z.literal(['move', 'copy']), from: Pointer, path: Pointer }),
]);
export type PatchOperation = z.infer<typeof PatchOperation>;

export const JsonPatch = z
  .array(PatchOperation)
  .min(1)
  .max(PATCH_OPERATIONS, `a patch has at most ${String(PATCH_OPERATIONS)} operations`)
  .meta({ description: 'A JSON Patch (RFC 6902).' });

/** Why the server would not take an edit, whatever the level; null when nothing of its form stands in the way. */
export function patchTooLarge(operations: readonly unknown[]): string | null {
  if (operations.length > PATCH_OPERATIONS) {
    return `this changes ${String(operations.length)} places at once, more than the ${String(PATCH_OPERATIONS)} that can be saved as one edit; do it in parts`;
  }
  // A text takes at most three bytes a code unit; only large edits are measured exactly.
  const text = JSON.stringify(operations);
  const bytes = text.length * 3 <= PATCH_BYTES ? 0 : bytesOf(text);
  return bytes <= PATCH_BYTES ? null : 'this edit is larger than can be saved as one; do it in parts';
}

/** Bytes of a text in UTF-8. */
function bytesOf(text: string): number {
  let bytes = 0;
  for (let at = 0; at < text.length; at += 1) {
    const unit = text.charCodeAt(at);
    // Each half of a pair counts two of its four bytes.
    bytes += unit < 0x80 ? 1 : unit < 0x800 || (unit >= 0xd800 && unit < 0xe000) ? 2 : 3;
  }
  return bytes;
}
