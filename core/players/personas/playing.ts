import type { Place } from '../../geometry/index.ts';
import { documentHash, entry, type Persona, type Route } from '../../level/index.ts';
import { createSession, exists, hasEnded, idOf, INPUT_WIDTH, restore, step, stepOf, type Compiled } from '../../session/index.ts';
import { createRunWriter, MOST_SECONDS, sessionOptions, type Run } from '../run.ts';
import { SNAPSHOT_SECONDS, type Recording } from '../simulate.ts';
import { copyMind, createMind, type Ending, type Mind } from './mind.ts';
import type { Decision, Hands } from './hands.ts';
import { pressKeys } from './persona.ts';
import { knows } from './thinker.ts';
import { restOfWay } from './walking.ts';
import { worldOf } from './world.ts';

/** Who plays, and for how long at most. */
export interface PersonaOptions {
  readonly seed?: number;
  readonly start?: Run['start'];
  /** Seconds after which the session is broken off. */
  readonly seconds?: number;
  /** Way-points to be followed, with the errors of the persona. */
  readonly route?: Route['wayPoints'] | null;
}

/** What came of it: the run, what was decided in it, and how each ended by itself; null where the session ended, or goes on. */
export interface PersonaPlay {
  readonly run: Run;
  readonly decisions: readonly Decision[];
  readonly endings: readonly (Ending | null)[];
  /** What each knew and meant, as often as a recording has snapshots. */
  readonly minds: readonly (readonly Mind[])[];
}

/** A session is broken off after this long, if nothing else is said. Seconds. */
export const USUAL_SECONDS = 300;

const hashes = new WeakMap<Compiled, string>();

/** The hash of a compiled level, worked out once. */
function hashOf(compiled: Compiled): string {
  const hash = hashes.get(compiled) ?? documentHash(compiled.level);
  hashes.set(compiled, hash);
  return hash;
}

/** Who plays a player: one persona each from the first on, the last one all that are left. */
export const playedBy = <One>(personas: readonly One[], player: number): One => personas[Math.min(player, personas.length - 1)] as One;

/** Lets personas play a level, one for each player from the first on; the last plays those for whom none is given. The whole session is a run. */
export function playPersonas(
  compiled: Compiled,
  personas: readonly Persona[],
  { seed = 1, start = null, seconds = USUAL_SECONDS, route = null }: PersonaOptions = {},
): PersonaPlay {
  const session = createSession(compiled, null, { seed, start });
  const world = worldOf(compiled);
  const decisions: Decision[] = [];
  const all = Array.from({ length: compiled.playerCount }, (_, player): Hands => {
    const persona = playedBy(personas, player);
    return { world, session, persona, mind: createMind(world), player, route, note: (decision) => decisions.push(decision) };
  });
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const writer = createRunWriter(compiled.rate, compiled.playerCount, { seed, start });
  const last = Math.min(seconds, MOST_SECONDS) * compiled.rate;
  const minds: Mind[][] = [];
  while (!hasEnded(session) && stepOf(session) < last) {
    if (stepOf(session) % (SNAPSHOT_SECONDS * compiled.rate) === 0) minds.push(all.map(({ mind }) => copyMind(mind)));
    let ended = 0;
    for (const hands of all) {
      pressKeys(hands, inputs);
      if (hands.mind.ended !== null) ended += 1;
    }
    if (ended === all.length) break;
    writer.write(stepOf(session) + 1, inputs);
    step(session, inputs);
  }
  const name = personas.map((persona) => persona.name).join(' and ');
  return {
    run: writer.finish(`${name}, seed ${String(seed)}`, hashOf(compiled)),
    decisions,
    minds,
    endings: all.map(({ mind }: { mind: Mind }) => mind.ended ?? (hasEnded(session) ? null : 'time')),
  };
}

/** The persona of a level by its id, or by its name. */
export function personaOf({ personas }: Compiled['level'], wanted: string): Persona | null {
  return entry(personas, wanted) ?? Object.values(personas).find(({ name }) => name === wanted) ?? null;
}

/** What a persona knows and means at a moment. */
export interface Thought {
  /** Things it does not know of: never seen, or forgotten. */
  readonly unknown: readonly string[];
  /** The way it means to go, from where it stands. Units. */
  readonly way: readonly Place[];
}

/** What the first persona of a run that was just played knew and meant at a step of it. */
export function thoughtAt(
  compiled: Compiled,
  {
    personas,
    route,
    minds,
  }: { readonly personas: readonly Persona[]; readonly route: Route['wayPoints'] | null; readonly minds: PersonaPlay['minds'] },
  run: Run,
  recording: Recording,
  target: number,
): Thought | null {
  const session = createSession(compiled, null, sessionOptions(compiled, run));
  const at = Math.min(Math.floor(Math.max(0, target) / recording.snapshotSteps), minds.length - 1);
  const saved = recording.snapshots[at];
  const known = minds[at];
  if (saved === undefined || known === undefined) return null;
  restore(session, saved);
  const world = worldOf(compiled);
  const all = known.map((mind, player): Hands => ({
    world,
    session,
    persona: playedBy(personas, player),
    mind: copyMind(mind),
    player,
    route,
    note: null,
  }));
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  while (stepOf(session) < target && !hasEnded(session)) {
    for (const hands of all) pressKeys(hands, inputs);
    step(session, inputs);
  }
  const [hands] = all;
  if (hands === undefined) return null;
  const ids = compiled.ids.placements.flatMap((_, placement) => {
    const id = exists(session, placement) && !knows(hands, placement) ? idOf(session, placement) : null;
    return id === null ? [] : [id];
  });
  return { unknown: ids, way: hands.mind.ended === null ? restOfWay(hands) : [] };
}
