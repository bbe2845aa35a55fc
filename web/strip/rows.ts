import { placementName } from '@dial/core/formats';
import { allKinds, inOrder } from '@dial/core/level';
import { isStopped, CONTACT_WIDTH, thingId, type LedgerLine } from '@dial/core/session';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';

interface Stretch {
  readonly from: number;
  readonly to: number;
  readonly placement: string;
}

interface Refusal {
  readonly at: number;
  readonly placement: string;
  readonly ofPlayer: boolean;
}

/** One row of the Strip: a thing that was touched, or several of one kind folded together. Times in seconds, the earliest first. */
export interface StripRow {
  readonly key: string;
  readonly name: string;
  readonly kind: string;
  readonly placements: readonly string[];
  readonly inside: readonly Stretch[];
  readonly resting: readonly Stretch[];
  /** While it is drawn to a player. */
  readonly drawn: readonly Stretch[];
  readonly refusals: readonly Refusal[];
}

/** A kind with more touched things than this is folded into one row. */
const FOLD_BEYOND = 3;

interface Touches {
  readonly inside: Stretch[];
  readonly resting: Stretch[];
  readonly drawn: Stretch[];
  readonly refusals: Refusal[];
}

function collect(run: ShownRun): Map<string, Touches> {
  const touches = new Map<string, Touches>();
  const of = (placement: string): Touches => {
    const known = touches.get(placement) ?? { inside: [], resting: [], drawn: [], refusals: [] };
    touches.set(placement, known);
    return known;
  };
  const end = run.steps / run.rate;
  const drawnFrom = new Map<string, number>();
  for (let row = 0; row < run.contacts.count; row += 1) {
    const [toucher = 0, index = 0, from = 0, to = 0] = run.contacts.values.subarray(row * CONTACT_WIDTH, (row + 1) * CONTACT_WIDTH);
    const placement = thingId(run.names, index);
    if (toucher < run.names.playerCount && placement !== null) of(placement).inside.push({ from, to, placement });
  }
  ledgerOf(run).forEach((line: LedgerLine) => {
    if (isStopped(line) && line.placement !== null) {
      const ofPlayer = line.toucher !== null && line.toucher.startsWith('player ');
      of(line.placement).refusals.push({ at: line.seconds, placement: line.placement, ofPlayer });
    }
    if (line.type === 'drawn' && line.begun) drawnFrom.set(line.placement, line.seconds);
    // Taken, it is no longer drawn, and no line says so.
    else if (line.type === 'drawn' || line.type === 'phase' || line.type === 'relocated') {
      const from = drawnFrom.get(line.placement);
      if (from !== undefined) of(line.placement).drawn.push({ from, to: line.seconds, placement: line.placement });
      drawnFrom.delete(line.placement);
    }
    if (line.type === 'phase' && line.phase === 'resting') {
      of(line.placement).resting.push({ from: line.seconds, to: Math.min(end, line.untilSeconds ?? end), placement: line.placement });
    }
  });
  for (const [placement, from] of drawnFrom) of(placement).drawn.push({ from, to: end, placement });
  return touches;
}

/** What the things spawned in a run were of. */
function spawnedKinds(run: ShownRun): Map<string, string> {
  return new Map(ledgerOf(run).flatMap((line) => (line.type === 'spawned' ? [[line.placement, line.kind] as const] : [])));
}

/** The rows of a run. Kinds in `unfolded` are shown thing by thing however many there are. */
export function stripRows(run: ShownRun, unfolded: ReadonlySet<string>): StripRow[] {
  const { level } = run;
  const touches = collect(run);
  const spawned = spawnedKinds(run);
  return allKinds(level).flatMap(([kindId, kind]): StripRow[] => {
    const placed = inOrder(level.placements).flatMap(([id, placement]) => (placement.kind === kindId ? [id] : []));
    const made = [...spawned].flatMap(([id, ofKind]) => (ofKind === kindId ? [id] : []));
    const row = (key: string, name: string, ids: readonly string[]): StripRow => {
      const parts = ids.flatMap((id) => touches.get(id) ?? []);
      return {
        key,
        name,
        kind: kindId,
        placements: ids,
        inside: parts.flatMap(({ inside }) => inside).sort((a, b) => a.from - b.from),
        resting: parts.flatMap(({ resting }) => resting).sort((a, b) => a.from - b.from),
        drawn: parts.flatMap(({ drawn }) => drawn).sort((a, b) => a.from - b.from),
        refusals: parts.flatMap(({ refusals }) => refusals).sort((a, b) => a.at - b.at),
      };
    };
    const ids = [...placed, ...made].filter((id) => touches.has(id));
    if (ids.length > FOLD_BEYOND && !unfolded.has(kindId)) return [row(kindId, kind.name, ids)];
    return ids.map((id) => row(id, placementName(level, id), [id]));
  });
}
