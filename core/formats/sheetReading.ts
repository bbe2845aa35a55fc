import { allKinds, type Level, type LevelNumber } from '../level/index.ts';
import { writeAll, type Write } from './sheet.ts';
import { readNumber } from './typed.ts';
import { plainNumber } from './numerals.ts';

/** Part of a file that was not taken: its line, counted from 1, what stands there, and why. */
export interface RefusedCell {
  readonly line: number;
  readonly text: string;
  readonly why: string;
}

/** One change a file makes, in words: "cooling basin: rests for (s) 9 → 6.5". */
export interface SheetChange extends Write {
  readonly line: number;
  readonly words: string;
}

/** What a file would change, before anything is. */
export interface SheetReading {
  /** The level with all changes made. */
  readonly level: Level;
  readonly changes: readonly SheetChange[];
  readonly refused: readonly RefusedCell[];
  /** Values that are in the level already. */
  readonly same: number;
}

/** A reading of a file of which nothing can be taken. */
export const nothingRead = (level: Level, why: string): SheetReading => ({
  level,
  changes: [],
  refused: [{ line: 1, text: '', why }],
  same: 0,
});

/** Gathers what the cells of a file come to. */
export function gathering(level: Level) {
  const writes: SheetChange[] = [];
  const refused: RefusedCell[] = [];
  let same = 0;
  return {
    refuse: (line: number, text: string, why: string): void => void refused.push({ line, text, why }),
    write: (change: SheetChange): void => void writes.push(change),
    /** Takes a cell that means a number there is. */
    number: (line: number, name: string, number: LevelNumber, path: string, text: string): void => {
      const read = readNumber(text, number.range, level.scale, number.sign);
      const unit = number.range.unit === '' ? '' : ` ${number.range.unit}`;
      if (!read.ok) refused.push({ line, text, why: `${name}, ${number.label}: ${read.why}` });
      else if (read.value === number.value) same += 1;
      else {
        const words = `${name}: ${number.label} ${plainNumber(number.value)} → ${plainNumber(read.value)}${unit}`;
        writes.push({ line, words, path, value: read.value });
      }
    },
    reading: (): SheetReading => {
      const done = writeAll(level, writes);
      const late = done.refused.map(({ write, why }) => ({ line: write.line, text: write.words, why }));
      const all = [...refused, ...late].sort((a, b) => a.line - b.line);
      return { level: done.level, changes: done.written, refused: all, same };
    },
  };
}

/** The id of the kind with this id or name. */
export function kindCalled(level: Level, text: string): string | undefined {
  const called = text.toLowerCase();
  return allKinds(level).find(([id, { name }]) => id === called || name.toLowerCase() === called)?.[0];
}
