import { z } from 'zod';
import { Heat } from './heat.ts';
import { SessionRow } from './row.ts';

/** What some sessions of a crowd came to. Summaries of disjoint sessions are merged in any order. */
export const Summary = z
  .strictObject({
    /** Of which level, by which simulation: others are never merged with it. */
    level: z.string().max(64),
    simulation: z.int().min(1),
    rate: z.int().min(30).max(240),
    /** In the order of their numbers. */
    rows: z.array(SessionRow),
    heat: Heat,
  })
  .meta({ title: 'Sessions of a crowd' });
export type Summary = z.infer<typeof Summary>;
