import { z } from 'zod';

const count = z.int().min(0);

/** What a session left behind at one thing; things are counted as the level has them, in order, then kinds of spawned things. */
export const TouchRow = z.strictObject({
  thing: count,
  uses: count,
  /** null: never used. */
  firstUseSeconds: z.number().nullable(),
  /** Health given and, of that which was given, lost beyond the limit; health taken; score. */
  healed: z.number(),
  wasted: z.number(),
  hurt: z.number(),
  scored: z.number(),
  /** Seconds inside while it rested. */
  waitingSeconds: z.number(),
  /** Refusals of players: reason by its number, and how often. */
  refused: z.array(z.tuple([count, count])),
});
export type TouchRow = z.infer<typeof TouchRow>;

/** What a session of a crowd came to: all that is kept of it. */
export const SessionRow = z
  .strictObject({
    index: count,
    persona: count.meta({ description: 'Which of the personas of the settings.' }),
    seed: count,
    ended: z.string().max(40).meta({ description: 'won, lost, time (the level’s), cut off (the crowd’s), nothing left to do, gave up …' }),
    seconds: z.number().min(0),
    final: z
      .array(z.number())
      .meta({ description: 'Each meter at the end: of the first player by the order of meters, then of the next.' }),
    lowest: z.array(z.number()).meta({ description: 'The least each was; health exactly, others as seen ten times a second.' }),
    items: z.array(z.int()).meta({ description: 'Items carried at the end, in the same way.' }),
    deaths: z.array(
      z.strictObject({
        seconds: z.number(),
        player: count,
        thing: count.nullable(),
        x: z.number(),
        y: z.number(),
      }),
    ),
    deathCount: count,
    distance: z.number().meta({ description: 'Units walked, by all players.' }),
    still: z.number().meta({ description: 'Seconds stood still.' }),
    changed: z.number().meta({ description: 'Seconds with a change of movement in force.' }),
    last: z
      .array(z.number())
      .default([])
      .meta({ description: 'Where each player is in the end: right, up, of the first, then of the next.' }),
    touched: z.array(TouchRow),
    inside: z
      .array(z.tuple([count, z.number(), z.number()]))
      .nullable()
      .default(null)
      .meta({ description: 'Things that players were inside of, from when to when, where that was asked for.' }),
    track: z.array(z.number()).nullable().meta({ description: 'Meters as they were at each second, where that was asked for.' }),
  })
  .meta({ title: 'Session of a crowd' });
export type SessionRow = z.infer<typeof SessionRow>;
