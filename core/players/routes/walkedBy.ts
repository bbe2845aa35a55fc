import type { Persona, Route } from '../../level/index.ts';
import type { Compiled } from '../../session/index.ts';
import { playPersonas, type Decision, type Ending, type PersonaOptions, type PersonaPlay } from '../personas/index.ts';
import { walkRoute, type Walk, type WalkOptions } from './walker.ts';

/** Who walks a level in place of recorded inputs: personas, one for each player from the first on, along a route or by their own way; without any the plain walker. */
export interface Walker {
  readonly route: Route | null;
  /** The last plays those for whom none is given. */
  readonly personas: readonly Persona[];
  /** After which personas are cut off; null: as long as they usually are. */
  readonly seconds: number | null;
}

/** What came of a walk, and why it went as it did. */
export interface Walked extends Walk {
  readonly decisions: readonly Decision[];
  /** How a persona ended it by itself; null when it did not. */
  readonly ending: Ending | null;
  /** What it knew and meant, as often as a recording has snapshots. */
  readonly minds: PersonaPlay['minds'];
  /** All that was kept of it; null where that was not asked for, or nobody plays. */
  readonly recording: PersonaPlay['recording'];
}

/** Lets a walker walk a level. Null when there is neither a persona nor a route. */
export function walkedBy(
  compiled: Compiled,
  { route, personas, seconds }: Walker,
  options: WalkOptions & Pick<PersonaOptions, 'records'>,
): Walked | null {
  if (personas.length > 0) {
    const { endings, ...played } = playPersonas(compiled, personas, {
      ...options,
      route: route?.wayPoints ?? null,
      ...(seconds === null ? {} : { seconds }),
    });
    return { ...played, stuckAt: null, ending: endings[0] ?? null };
  }
  return route === null ? null : { ...walkRoute(compiled, route, options), decisions: [], ending: null, minds: [], recording: null };
}
