import { useState } from 'react';
import { z } from 'zod';
import { lasting, remember } from '../browser/storage.ts';
import { readText } from '../browser/reading.ts';
import type { Arrangement } from './lanes.ts';

const Keys = z.array(z.string().max(120)).max(200);
const Stored = z.object({ order: Keys, hidden: Keys, folded: Keys });
const NONE: Arrangement = { order: [], hidden: [], folded: [] };
const keyOf = (level: string): string => `dial.lanes.${level}`;

/** How the lanes of a level are arranged here, kept in the browser: it is how one looks at a run, not part of the level. */
export function useArrangement(level: string): readonly [Arrangement, (arrangement: Arrangement) => void] {
  const [arrangement, setArrangement] = useState(() => readText(lasting.get(keyOf(level)), Stored) ?? NONE);
  return [
    arrangement,
    (next) => {
      remember(keyOf(level), JSON.stringify(next));
      setArrangement(next);
    },
  ];
}
