import {
  kindSheet,
  kindSheetText,
  personaSheet,
  personaSheetText,
  placementSheet,
  placementSheetText,
  readKindSheet,
  readPersonaSheet,
  readPlacements,
  type SheetReading,
  type Sheet,
} from '@dial/core/formats';
import type { Level } from '@dial/core/level';

interface TableOf {
  readonly sheet: (level: Level) => Sheet;
  /** As CSV, in a file called after the level and this. */
  readonly text: (level: Level) => string;
  readonly file: string;
  readonly read: (level: Level, text: string, yDown: boolean) => SheetReading;
}

const placements = (which: 'own' | 'all'): TableOf => ({
  sheet: (level) => placementSheet(level, which),
  text: placementSheetText,
  file: 'placements',
  read: (level, text, yDown) => readPlacements(level, text, { yDown }),
});

/** The tables of the Sheet, as they are called. */
export const TABLES = {
  kinds: { sheet: kindSheet, text: kindSheetText, file: 'kinds', read: readKindSheet },
  'placements with own values': placements('own'),
  'all placements': placements('all'),
  personas: { sheet: personaSheet, text: personaSheetText, file: 'personas', read: readPersonaSheet },
} as const satisfies Readonly<Record<string, TableOf>>;
export type Table = keyof typeof TABLES;
export const NAMES = Object.keys(TABLES) as Table[];
