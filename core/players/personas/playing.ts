import { documentHash, entry, type Persona, type Route } from '../../level/index.ts';
import { createSession, hasEnded, INPUT_WIDTH, step, stepOf, type Compiled } from '../../session/index.ts';
import { createRunWriter, MOST_SECONDS, type Run } from '../run.ts';
import { createMind, type Ending, type Mind } from './mind.ts';
import type { Decision, Hands } from './hands.ts';
import { pressKeys } from './persona.ts';
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
    const persona = personas[Math.min(player, personas.length - 1)] as Persona;
    return { world, session, persona, mind: createMind(world), player, route, note: (decision) => decisions.push(decision) };
  });
  const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
  const writer = createRunWriter(compiled.rate, compiled.playerCount, { seed, start });
  const last = Math.min(seconds, MOST_SECONDS) * compiled.rate;
  while (!hasEnded(session) && stepOf(session) < last) {
    for (const hands of all) pressKeys(hands, inputs);
    if (all.every(({ mind }) => mind.ended !== null)) break;
    writer.write(stepOf(session) + 1, inputs);
    step(session, inputs);
  }
  const name = personas.map((persona) => persona.name).join(' and ');
  return {
    run: writer.finish(`${name}, seed ${String(seed)}`, hashOf(compiled)),
    decisions,
    endings: all.map(({ mind }: { mind: Mind }) => mind.ended ?? (hasEnded(session) ? null : 'time')),
  };
}

/** The persona of a level by its id, or by its name. */
export function personaOf({ personas }: Compiled['level'], wanted: string): Persona | null {
  return entry(personas, wanted) ?? Object.values(personas).find(({ name }) => name === wanted) ?? null;
}
