import { valueIn } from '../../geometry/index.ts';
import type { Level } from '../../level/index.ts';
import { compile } from '../compile/compile.ts';
import { findClearPlace } from '../rules/places.ts';
import { createSession } from '../start.ts';
import { NONE } from '../state/lines.ts';
import { placementOf } from '../state/naming.ts';

/** What is put at a random clear place: a thing of the level, a player, or something new that reaches so far. */
export type Seeker = { readonly placement: string } | 'player' | { readonly reach: number };

/** So many random places are looked for. */
const LOOKED_FOR = 20;

/**
 * Tells how often a random clear place is not found, of 1, in a level as it is at the start: all tries fail, and the clearest of them is
 * taken. Looked for as a session does it, so with what is placed there, and the same each time.
 */
export function roomIn(level: Level): (seeker: Seeker, clear: { readonly distance: number; readonly margin: number }) => number {
  const session = createSession(compile(level));
  const { compiled, state } = session;
  return (seeker, { distance, margin }) => {
    const thing = typeof seeker === 'object' && 'placement' in seeker ? placementOf(session, seeker.placement) : NONE;
    const reach =
      seeker === 'player'
        ? compiled.bodyReach
        : 'reach' in seeker
          ? seeker.reach
          : valueIn(compiled.forms.reach, valueIn(state.form, thing));
    // The first player, and a thing, are not in their own way.
    const self = seeker === 'player' ? -2 : thing;
    let crowded = 0;
    for (let nth = 0; nth < LOOKED_FOR; nth += 1) {
      // Drawn as for a player who comes back: no rule of a thing is needed for it.
      if (findClearPlace(session, reach, distance, margin, self, NONE, NONE, 0).crowded) crowded += 1;
    }
    return crowded / LOOKED_FOR;
  };
}
