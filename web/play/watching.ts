import { pairText, placementName, plainNumber } from '@dial/core/formats';
import { entry, inOrder, type Level } from '@dial/core/level';
import type { Moment, PlacementMoment, PlayerMoment } from '@dial/core/session';

/** A value that can be watched live. Its key is `player N word` or `thing ID`. */
export interface Watchable {
  readonly key: string;
  readonly name: string;
}

const PLAYER_VALUES: Readonly<Record<string, (player: PlayerMoment) => string>> = {
  'speed now': ({ velocityX, velocityY }) => `${plainNumber(Math.hypot(velocityX, velocityY), 1)} u/s`,
  'walk speed': ({ movement }) => `${plainNumber(movement.speed)} u/s`,
  'jump speed': ({ movement }) => `${plainNumber(movement.jump)} u/s`,
  control: ({ movement }) => plainNumber(movement.control),
  place: ({ x, y }) => pairText(x, y, 1),
  shield: ({ shieldSeconds }) => `${plainNumber(shieldSeconds, 1)} s`,
  grace: ({ graceSeconds }) => `${plainNumber(graceSeconds, 1)} s`,
};

/** The phase of a thing and how long it lasts still. */
export function phaseText({ phase, secondsLeft }: Pick<PlacementMoment, 'phase' | 'secondsLeft'>): string {
  return secondsLeft === null ? phase : `${phase}, ${plainNumber(secondsLeft, 1)} s left`;
}

/** Everything of a moment that can be watched. */
export function watchables(level: Level, moment: Moment): readonly Watchable[] {
  const several = moment.players.length > 1;
  const players = moment.players.flatMap((_, index) => {
    const who = `player ${String(index + 1)}`;
    const names = [
      ...inOrder(level.meters).map(([id, { name }]) => [`meter ${id}`, name]),
      ...inOrder(level.items).map(([id, { name }]) => [`item ${id}`, name]),
      ...Object.keys(PLAYER_VALUES).map((name) => [name, name]),
    ];
    return names.map(([what = '', name = '']) => ({ key: `${who} ${what}`, name: several ? `${who}: ${name}` : name }));
  });
  const things = Object.keys(moment.placements).map((id) => ({ key: `thing ${id}`, name: placementName(level, id) }));
  return [...players, ...things];
}

/** What a watched value is at a moment; null when there is none any more. */
export function watchedText(moment: Moment, key: string): string | null {
  const thing = /^thing (.+)$/.exec(key)?.[1];
  if (thing !== undefined) {
    const at = entry(moment.placements, thing);
    return at === undefined ? null : phaseText(at);
  }
  const [, number = '', what = ''] = /^player (\d) (.+)$/.exec(key) ?? [];
  const player = moment.players[Number(number) - 1];
  if (player === undefined) return null;
  const [sort, id = ''] = what.split(/ (.*)/s);
  if (sort === 'meter' || sort === 'item') {
    const value = entry(sort === 'meter' ? player.meters : player.items, id);
    return value === undefined ? null : plainNumber(value, 1);
  }
  return entry(PLAYER_VALUES, what)?.(player) ?? null;
}
