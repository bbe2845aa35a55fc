import { entry, type Level } from '@dial/core/level';
import type { Walker } from '@dial/core/players';
import type { Walks } from '../slices/opening.ts';

/** Who walks in place of a run's inputs, as a level has them, else as another does; null when nobody does, or one of them is gone. */
export function walkerOn(level: Level, drawn: Walks | null, otherwise: Level = level): Walker | null {
  if (drawn === null) return null;
  const { route: routeId, personas: ids = [], seconds = null } = drawn;
  const route = routeId === undefined ? null : (entry(level.routes, routeId) ?? entry(otherwise.routes, routeId));
  const personas = ids.flatMap((id) => entry(level.personas, id) ?? entry(otherwise.personas, id) ?? []);
  if (route === undefined || personas.length < ids.length) return null;
  return route === null && personas.length === 0 ? null : { route, personas, seconds };
}
