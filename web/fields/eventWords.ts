import { signed } from '@dial/core/formats';
import { entry, named, type Level } from '@dial/core/level';
import type { Outside } from '@dial/core/players';

/** What can be stated to happen from outside, by a value for a list of choices. */
export interface OutsideChoice {
  readonly value: string;
  readonly name: string;
  readonly hasAmount: boolean;
}

export function outsideChoices(level: Level): OutsideChoice[] {
  return [
    ...named(level, 'meters').map(([id, name]) => ({ value: `meter ${id}`, name, hasAmount: true })),
    ...named(level, 'items').map(([id, name]) => ({ value: `item ${id}`, name, hasAmount: true })),
    ...named(level, 'notices').map(([notice]) => ({ value: `notice ${notice}`, name: `notice ${notice}`, hasAmount: false })),
    { value: 'leave', name: 'leaves', hasAmount: false },
    { value: 'join', name: 'joins', hasAmount: false },
  ];
}

/** The event of a choice. */
export function outsideOf(choice: string, step: number, player: number, by: number): Outside {
  const [what = '', id = ''] = choice.split(' ');
  if (what === 'meter') return { what, step, player, meter: id, by };
  if (what === 'item') return { what, step, player, item: id, by: Math.round(by) };
  if (what === 'notice') return { what, step, player, notice: id };
  return { what: what === 'join' ? 'join' : 'leave', step, player };
}

/** An event in words, without its time: `player 1: health −25`. */
export function outsideWords(level: Level, event: Outside): string {
  const who = `player ${String(event.player)}`;
  switch (event.what) {
    case 'meter':
      return `${who}: ${entry(level.meters, event.meter)?.name ?? event.meter} ${signed(event.by)}`;
    case 'item':
      return `${who}: ${entry(level.items, event.item)?.name ?? event.item} ${signed(event.by)}`;
    case 'notice':
      return `${who}: notice ${event.notice}`;
    default:
      return `${who} ${event.what === 'join' ? 'joins' : 'leaves'}`;
  }
}
