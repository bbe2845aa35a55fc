import { z } from 'zod';
import { lasting, remember } from '../browser/storage.ts';
import { readText } from '../browser/reading.ts';

/** What a key can do for a player, with its name. */
export const ACTIONS = {
  left: 'left',
  right: 'right',
  up: 'up',
  down: 'down',
  jump: 'jump',
  use: 'use',
  nextHeld: 'hold the next',
  useHeld: 'use held',
  drop: 'drop held',
} as const;
export type Action = keyof typeof ACTIONS;
export const actions = Object.keys(ACTIONS) as readonly Action[];

/** Keys of Play itself, by `KeyboardEvent.code`, and what they do: no player can have them. */
const PLAY_KEYS: Readonly<Record<string, string>> = {
  KeyP: 'pauses',
  KeyN: 'makes one step',
  KeyR: 'begins again',
  KeyM: 'turns the sound off and on',
  KeyG: 'fills the screen',
  BracketLeft: 'makes it slower',
  BracketRight: 'makes it faster',
  Escape: 'ends the play',
  Tab: 'goes from control to control',
};

export const MOST_EVENT_KEYS = 12;
const Code = z.string().min(1).max(40);
const PlayerKeys = z.record(z.enum(actions as [Action, ...Action[]]), Code);
const Player = z.int().min(1).max(4);

/** The keys of four players, and whom each gamepad plays. */
const PlayKeys = z.object({ players: z.array(PlayerKeys).length(4), pads: z.array(Player).length(4) });
export type PlayKeys = z.infer<typeof PlayKeys>;

/** What a key lets happen from outside; `choice` as in the list of what can happen. */
const EventKey = z.object({ code: Code, choice: z.string().max(80), player: Player, by: z.number().min(-1e6).max(1e6) });
export type EventKey = z.infer<typeof EventKey>;

const keysOf = (ways: string, rest: string): z.infer<typeof PlayerKeys> => {
  const [left, right, up, down] = ways.split(' ') as [string, string, string, string];
  const [jump, use, nextHeld, useHeld, drop] = rest.split(' ') as [string, string, string, string, string];
  return { left, right, up, down, jump, use, nextHeld, useHeld, drop };
};

export const USUAL_KEYS: PlayKeys = {
  players: [
    keysOf('KeyA KeyD KeyW KeyS', 'Space KeyE KeyQ KeyF KeyX'),
    keysOf('ArrowLeft ArrowRight ArrowUp ArrowDown', 'ShiftRight Enter Comma Period Slash'),
    keysOf('KeyJ KeyL KeyI KeyK', 'KeyH KeyU KeyO KeyY KeyB'),
    keysOf('Numpad4 Numpad6 Numpad8 Numpad5', 'Numpad0 NumpadAdd Numpad7 Numpad9 NumpadDecimal'),
  ],
  pads: [1, 2, 3, 4],
};

const KEYS = 'dial.play.keys';
export const readPlayKeys = (): PlayKeys => readText(lasting.get(KEYS), PlayKeys) ?? USUAL_KEYS;
export const keepPlayKeys = (keys: PlayKeys): void => remember(KEYS, JSON.stringify(keys));

const eventsKey = (level: string): string => `dial.play.events.${level}`;
export const readEventKeys = (level: string): readonly EventKey[] =>
  readText(lasting.get(eventsKey(level)), z.array(EventKey).max(MOST_EVENT_KEYS)) ?? [];
export const keepEventKeys = (level: string, keys: readonly EventKey[]): void => remember(eventsKey(level), JSON.stringify(keys));

/** What a key is already for, in words; null when it is free. */
export function ownerOf(keys: PlayKeys, events: readonly EventKey[], code: string): string | null {
  const own = PLAY_KEYS[code];
  if (own !== undefined) return `the key that ${own}`;
  const player = keys.players.findIndex((one) => actions.some((action) => one[action] === code));
  const action = actions.find((one) => keys.players[player]?.[one] === code);
  if (action !== undefined) return `“${ACTIONS[action]}” of player ${String(player + 1)}`;
  return events.some((event) => event.code === code) ? 'the key of something from outside' : null;
}

/** The keys with another one for a player's action. Whoever had that key gets the one that was there before. */
export function withKey(keys: PlayKeys, player: number, action: Action, code: string): PlayKeys {
  const before = keys.players[player]?.[action] ?? '';
  return {
    ...keys,
    players: keys.players.map((own, at) => {
      const swapped = actions.map((one) => [one, own[one] === code ? before : own[one]] as const);
      const next = Object.fromEntries(swapped) as Record<Action, string>;
      return at === player ? { ...next, [action]: code } : next;
    }),
  };
}

const NAMES: Readonly<Record<string, string>> = {
  ArrowLeft: '←',
  ArrowRight: '→',
  ArrowUp: '↑',
  ArrowDown: '↓',
  ShiftRight: 'right Shift',
  ShiftLeft: 'left Shift',
  ControlRight: 'right Ctrl',
  ControlLeft: 'left Ctrl',
  Comma: ',',
  Period: '.',
  Slash: '/',
  Semicolon: ';',
  Quote: "'",
  Minus: '-',
  Equal: '=',
  Backslash: '\\',
};

/** A key as it is called: `E`, `right Shift`, `pad 5`. Letters are those at that place of a keyboard laid out as in English. */
export const keyName = (code: string): string =>
  NAMES[code] ?? code.replace(/^(Key|Digit)(?=.$)/, '').replace(/^Numpad(.+)$/, (_, key: string) => `pad ${key.toLowerCase()}`);

/** What the keys of the players do, in a line. */
export function keysText({ players }: PlayKeys, count: number, side: boolean): string {
  const ofPlayer = (own: (typeof players)[number]): string => {
    const ways = [own.up, own.left, own.down, own.right].map(keyName).join(' ');
    const jump = side ? ` · ${keyName(own.up)} or ${keyName(own.jump)} jumps` : '';
    return `${ways}${jump} · ${keyName(own.use)} uses · held: ${[own.nextHeld, own.useHeld, own.drop].map(keyName).join(' ')}`;
  };
  if (count < 2 && players[0] !== undefined && players[1] !== undefined) {
    const [first, second] = players;
    return `${ofPlayer(first)}, or ${[second.up, second.left, second.down, second.right].map(keyName).join(' ')}`;
  }
  return players
    .slice(0, count)
    .map((own, at) => `${String(at + 1)}: ${ofPlayer(own)}`)
    .join(' — ');
}
