/**
 * Limits that the page and the server share: the page keeps to them before an edit is accepted, the server refuses what
 * goes beyond. Sizes in bytes.
 */
import { MOST_LEVEL_BYTES } from '../level/index.ts';

export const LEVEL_BYTES = MOST_LEVEL_BYTES;
/** One edit may hold every value of a level twice: as a guard of what was, and as what is to be. */
export const PATCH_BYTES = 2 * MOST_LEVEL_BYTES + 1024 * 1024;
export const PATCH_OPERATIONS = 60_000;
export const RUN_BYTES = 32 * 1024 * 1024;
export const PICTURE_BYTES = 8 * 1024 * 1024;
/** All other bodies: a name, a star, a token. */
export const SMALL_BYTES = 16 * 1024;
/** Problems told of one refused document; how many more there are is said. */
export const PROBLEMS_TOLD = 20;
/** Entries of a run of two hours, each step a change of its own. */
export const RUN_ENTRIES = 12_000_000;
