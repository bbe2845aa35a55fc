import { entry, type Level } from '@dial/core/level';
import type { Walker } from '@dial/core/players';
import type { Walks } from '../slices/opening.ts';

/** Who walks in place of a run's inputs, as a level has them, else as another does; null when nobody does, or one of them is gone. */
export function walkerOn(level: Level, drawn: Walks | null, otherwise: Level = level): Walker | null {
  if (drawn === null) return null;
  const { route: routeId, persona: personaId } = drawn;
  const route = routeId === undefined ? null : (entry(level.routes, routeId) ?? entry(otherwise.routes, routeId));
  const persona = personaId === undefined ? null : (entry(level.personas, personaId) ?? entry(otherwise.personas, personaId));
  if (route === undefined || persona === undefined) return null;
  return route === null && persona === null ? null : { route, persona };
}
