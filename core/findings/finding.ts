import { parseLevel, writeAt, type Level, type Parsed } from '../level/index.ts';
import type { LevelView } from './view.ts';

/** How grave what is found is, the gravest first. */
export const SEVERITIES = ['breaks it', 'probably not meant', 'worth a look'] as const;
export type Severity = (typeof SEVERITIES)[number];

/** What lies where on the Plan. */
export interface Where {
  readonly placements: readonly string[];
  readonly points: readonly string[];
  readonly solids: readonly string[];
  readonly paths: readonly string[];
}

/** A change that ends what is found: values to be written, each with its pointer; without a value it is removed. */
export interface Mend {
  readonly words: string;
  readonly changes: readonly { readonly path: string; readonly value?: unknown }[];
}

/** What a mistake is told of in one place. */
export interface Found {
  /** What it is on, told apart from others of its sort: ids with strokes between. */
  readonly subject: string;
  /** Pointer to the value that is at fault. */
  readonly at: string;
  readonly where?: Partial<Where>;
  /** What is wrong, as a sentence. */
  readonly what: string;
  /** Why it matters in this level, with its numbers. */
  readonly why: string;
  /** What it rests on: when this is another, it is another finding. */
  readonly cause: unknown;
  readonly mend?: Mend | null;
  /** Where it is other than that of its sort. */
  readonly severity?: Severity;
}

/** A sort of mistake, and how it is found. */
export interface Mistake {
  /** Told apart by it, and named so in reports. */
  readonly code: string;
  /** In few words. */
  readonly title: string;
  readonly severity: Severity;
  readonly find: (view: LevelView) => Found[];
}

/** Something that is wrong with a level, or worth a look. */
export interface Finding {
  /** `code subject`: the same for as long as it is the same finding. */
  readonly id: string;
  /** Under which it is set aside in a level. */
  readonly key: string;
  readonly code: string;
  readonly title: string;
  readonly severity: Severity;
  readonly at: string;
  readonly where: Where;
  readonly what: string;
  readonly why: string;
  /** Sixteen hexadecimal digits. */
  readonly cause: string;
  readonly mend: Mend | null;
  /** Why it is meant so, where it is set aside; null: it is not. */
  readonly meant: string | null;
}

/** Whether a finding is not set aside. */
export const isOpen = ({ meant }: Finding): boolean => meant === null;

/** A level as a mend would make it; or why that is no valid level. */
export function mended(level: Level, { changes }: Mend): Parsed<Level> {
  const made = structuredClone(level);
  for (const { path, value } of changes) writeAt(level, made, path, value);
  return parseLevel(made);
}
