import { clockTime, plainNumber } from '@dial/core/formats';
import { inOrder, kindOf, type Level } from '@dial/core/level';
import type { Recording } from '@dial/core/players';
import type { Outcome, PlacementOutcome, PlayerOutcome } from '@dial/core/session';

function playerWords(level: Level, player: PlayerOutcome): string {
  const meters = inOrder(level.meters).map(([id, { name }]) => `${name} ${plainNumber(player.meters[id] ?? 0)}`);
  const items = inOrder(level.items).flatMap(([id, { name }]) => {
    const count = player.items[id] ?? 0;
    return count === 0 ? [] : [`${name} ${plainNumber(count)}`];
  });
  return [...meters, ...items].join(', ');
}

function kindWords(one: PlacementOutcome): string {
  const parts = [
    `used ${String(one.uses)}`,
    ...(one.nothings > 0 ? [`came to nothing ${String(one.nothings)}`] : []),
    `refused ${String(one.refusals)}`,
  ];
  if (one.healed > 0 || one.wasted > 0) parts.push(`healed ${plainNumber(one.healed)}, wasted ${plainNumber(one.wasted)}`);
  if (one.hurt > 0) parts.push(`took ${plainNumber(one.hurt)} health`);
  if (one.scored > 0) parts.push(`scored ${plainNumber(one.scored)}`);
  return parts.join(', ');
}

/** What a session came to, for people. */
export function outcomeWords(level: Level, { outcome, partsAtSeconds }: Recording): string {
  const players = outcome.players.map((player, index) => {
    const who = outcome.players.length === 1 ? '' : `player ${String(index + 1)}: `;
    return who + playerWords(level, player);
  });
  const deaths = outcome.deaths.map(({ seconds, player, kind, x, y }) => {
    const cause = kind === null ? '' : ` of ${kindOf(level, kind)?.name ?? kind}`;
    return `  player ${String(player)} died${cause} at ${plainNumber(x, 1)}, ${plainNumber(y, 1)} after ${clockTime(seconds)}`;
  });
  const rows = Object.entries(outcome.perKind).map(([id, one]) => `  ${kindOf(level, id)?.name ?? id}: ${kindWords(one)}`);
  const parts = partsAtSeconds === null ? [] : [`parts from the recording at ${clockTime(partsAtSeconds, 0)}`];
  return [`${outcome.ended.how} at ${clockTime(outcome.ended.seconds)}: ${players.join('; ')}`, ...parts, ...deaths, ...rows].join('\n');
}

/** One row of a comparison: what it is, and its value in both. */
export interface Difference {
  readonly what: string;
  readonly a: unknown;
  readonly b: unknown;
}

function collect(value: unknown, path: string, into: Map<string, unknown>): void {
  if (typeof value !== 'object' || value === null) {
    into.set(path, value);
    return;
  }
  for (const [key, one] of Object.entries(value)) collect(one, path === '' ? key : `${path}/${key}`, into);
}

/** Everything in which two outcomes differ, thing by thing left out: kinds say it shorter. */
export function differences(a: Outcome, b: Outcome): Difference[] {
  const [first, second] = [a, b].map((outcome) => {
    const fields = new Map<string, unknown>();
    collect({ ended: outcome.ended, players: outcome.players, perKind: outcome.perKind }, '', fields);
    return fields;
  });
  const names = new Set([...(first?.keys() ?? []), ...(second?.keys() ?? [])]);
  return [...names].flatMap((what): Difference[] => {
    const [valueA, valueB] = [first?.get(what), second?.get(what)];
    return Object.is(valueA, valueB) ? [] : [{ what, a: valueA ?? null, b: valueB ?? null }];
  });
}

const show = (value: unknown): string => {
  if (typeof value === 'number') return plainNumber(value);
  return typeof value === 'string' || typeof value === 'boolean' ? String(value) : '–';
};

/** Two outcomes side by side, for people. */
export function differenceWords(rows: readonly Difference[]): string {
  const width = Math.max(...rows.map(({ what }) => what.length));
  const left = Math.max(...rows.map(({ a }) => show(a).length));
  return rows.map(({ what, a, b }) => `  ${what.padEnd(width)}  ${show(a).padStart(left)}  ${show(b)}`).join('\n');
}
