import { z } from 'zod';
import { entry, inOrder, tryOf, type Level, type Persona, type Problem, type StartingState } from '../level/index.ts';
import { MOST_SECONDS, MOST_SEED } from '../players/index.ts';

/** A crowd of more sessions than this is refused, with what it would cost. */
export const MOST_SESSIONS = 100_000;

/** So many sessions a study of values has at most. */
export const MOST_STUDIED = 1_000_000;

/** Up to so many sessions of a persona it is said what they would cost. */
const MOST_COUNTED = 1e9;

/** How many sessions of each persona, how long each at most, from which seed on. */
export const CrowdSettings = z
  .strictObject({
    personas: z
      .array(
        z.strictObject({
          persona: z.string().min(1).max(64).meta({ description: 'Id of a persona of the level.' }),
          sessions: z
            .int('sessions are counted in whole numbers')
            .min(1, 'who plays, plays at least one session')
            .max(MOST_COUNTED, 'more sessions than can be counted'),
        }),
      )
      .min(1, 'a crowd needs at least one session')
      .max(32),
    seconds: z
      .number('a session lasts a number of seconds')
      .min(1, 'a session lasts at least 1 s')
      .max(MOST_SECONDS, `a session lasts at most ${String(MOST_SECONDS)} s`)
      .default(120)
      .meta({ description: 'A session that goes on is cut off after so long.' }),
    seed: z
      .int()
      .min(0)
      .max(MOST_SEED)
      .default(1)
      .meta({ description: 'Seed of the first session of each persona; the next has the next.' }),
    start: z
      .string()
      .min(1)
      .max(64)
      .nullable()
      .default(null)
      .meta({ description: 'Id of a starting state of the level; null: its own start.' }),
  })
  .meta({ title: 'Crowd', description: 'What a crowd is asked for: who plays, how often, how long, from which seed.' });

export type CrowdSettings = z.infer<typeof CrowdSettings>;

/** The crowd that is played when nothing else is said: the one that the level states, else a hundred of each of its personas. */
export function usualCrowd(level: Level): CrowdSettings {
  const { crowd } = level;
  if (crowd === null) return CrowdSettings.parse({ personas: idsOf(level).map((persona) => ({ persona, sessions: 100 })) });
  const { personas, ...rest } = crowd;
  const stated = idsOf(level).filter((persona) => Object.hasOwn(personas, persona));
  return { ...rest, personas: stated.map((persona) => ({ persona, sessions: personas[persona] ?? 0 })) };
}

const idsOf = (level: Level): string[] => inOrder(level.personas).map(([id]) => id);

/** So many sessions in all, shared out evenly among personas; the first ones get what is left over. */
export function sharedOut(personas: readonly string[], sessions: number): CrowdSettings['personas'] {
  const share = (at: number): number => Math.floor(sessions / personas.length) + (at < sessions % personas.length ? 1 : 0);
  return personas.map((persona, at) => ({ persona, sessions: share(at) })).filter((one) => one.sessions > 0);
}

/** So many sessions in all, shared out evenly among the personas of a level; the first ones get what is left over. */
export function smallCrowd(level: Level, sessions: number, seconds: number): CrowdSettings {
  return CrowdSettings.parse({ personas: sharedOut(idsOf(level), sessions), seconds });
}

export const sessionCount = ({ personas }: Pick<CrowdSettings, 'personas'>): number =>
  personas.reduce((sum, { sessions }) => sum + sessions, 0);

/** What in the settings of a crowd does not fit a level, or asks for too much. */
export function crowdProblems(level: Level, settings: CrowdSettings): Problem[] {
  const { personas, start } = settings;
  const problems = personas.flatMap(({ persona }, at): Problem[] => {
    const path = `/personas/${String(at)}/persona`;
    if (entry(level.personas, persona) === undefined) return [{ path, message: `the level has no persona “${persona}”` }];
    const twice = personas.findIndex((one) => one.persona === persona) < at;
    return twice ? [{ path, message: `“${persona}” is there twice` }] : [];
  });
  if (start !== null && tryOf(level, start) === null)
    problems.push({ path: '/start', message: `the level has no starting state “${start}”` });
  const sessions = sessionCount(settings);
  if (sessions > MOST_SESSIONS) {
    const cost = `${String(sessions)} sessions, ${playedFor(settings, sessions)}, are more than a crowd may have`;
    problems.push({ path: '/personas', message: `${cost}: at most ${String(MOST_SESSIONS)}` });
  }
  return problems;
}

/** How much play so many sessions may be, in words. */
const playedFor = ({ seconds }: Pick<CrowdSettings, 'seconds'>, sessions: number): string =>
  `up to ${String(Math.ceil((sessions * seconds) / 3600))} hours of play`;

/** That a study of values asks for too much, with what it would cost: a crowd at each of several settings of the dials. */
export function costProblems(crowd: CrowdSettings, settings: number): Problem[] {
  const sessions = settings * sessionCount(crowd);
  if (sessions <= MOST_STUDIED) return [];
  const cost = `${String(settings)} settings of the dials × ${String(sessionCount(crowd))} sessions are ${String(sessions)} sessions`;
  return [{ path: '/crowd', message: `${cost}, ${playedFor(crowd, sessions)}: at most ${String(MOST_STUDIED)}` }];
}

/** One session of a crowd. */
export interface CrowdSession {
  /** Its number among all, from 0. */
  readonly index: number;
  /** Which of the settings' personas plays it. */
  readonly persona: number;
  readonly seed: number;
}

const listed = new WeakMap<CrowdSettings, { readonly persona: Uint8Array; readonly nth: Int32Array }>();

/** Who plays which session: the first of each persona, then the second of each, so that any first part is a fair sample. */
function listOf(settings: CrowdSettings): { readonly persona: Uint8Array; readonly nth: Int32Array } {
  const known = listed.get(settings);
  if (known !== undefined) return known;
  const count = sessionCount(settings);
  const list = { persona: new Uint8Array(count), nth: new Int32Array(count) };
  let at = 0;
  for (let nth = 0; at < count; nth += 1) {
    settings.personas.forEach(({ sessions }, persona) => {
      if (nth >= sessions) return;
      list.persona[at] = persona;
      list.nth[at] = nth;
      at += 1;
    });
  }
  listed.set(settings, list);
  return list;
}

/** The session of a number. The same number is the same persona with the same seed on every level: so crowds are compared pair by pair. */
export function sessionAt(settings: CrowdSettings, index: number): CrowdSession {
  const { persona, nth } = listOf(settings);
  return { index, persona: persona[index] as number, seed: (settings.seed + (nth[index] as number)) % (MOST_SEED + 1) };
}

/** The personas and the starting state of a crowd, as a level has them. Throws for what the level has not. */
export function crowdOf(level: Level, { personas, start }: CrowdSettings): { personas: Persona[]; start: StartingState | null } {
  return {
    personas: personas.map(({ persona }) => {
      const found = entry(level.personas, persona);
      if (found === undefined) throw new Error(`the level has no persona “${persona}”`);
      return found;
    }),
    start: start === null ? null : tryOf(level, start),
  };
}
