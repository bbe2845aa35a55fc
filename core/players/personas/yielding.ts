import { kindOfPlacement, type Kind, type Rule } from '../../level/index.ts';
import type { Compiled } from '../../session/index.ts';

const BY_COMING: ReadonlySet<Rule['setOffBy']['type']> = new Set<Rule['setOffBy']['type']>(['arriving', 'inside']);

/** For how long a thing holds who comes onto it; Infinity when it does not give way. Seconds. */
function holdsFor({ rules, phases }: Kind): number {
  const times = Object.values(rules).map(({ setOffBy, windUp, active, becomes }) => {
    if (!BY_COMING.has(setOffBy.type)) return Infinity;
    const wound = windUp?.seconds ?? 0;
    if (wound > 0 && !phases.windingUp.solid) return 0;
    if (active.type !== 'instant' && !phases.active.solid) return wound;
    const goes = (becomes.type === 'rests' && !phases.resting.solid) || (becomes.type === 'spent' && !phases.spent.solid);
    return goes ? wound + (active.type === 'for' ? active.seconds : 0) : Infinity;
  });
  return Math.min(Infinity, ...times);
}

/** The solids that stay and give way, and after how long. Seconds. */
export function yieldingOf({ level, ids, solids }: Compiled): Map<number, number> {
  const known = new Map<Kind, number>();
  const found = new Map<number, number>();
  for (let item = 0; item < solids.firstMoving; item += 1) {
    const id = ids.placements[solids.owner[item] as number];
    const kind = id === undefined ? undefined : kindOfPlacement(level, id);
    if (kind === undefined) continue;
    const seconds = known.get(kind) ?? holdsFor(kind);
    known.set(kind, seconds);
    if (seconds < Infinity) found.set(item, seconds);
  }
  return found;
}
