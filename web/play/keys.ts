import { BUTTON, INPUT_WIDTH } from '@dial/core/session';
import { isTyping } from '../controls/keyboard.ts';
import { USUAL_KEYS, type Action, type PlayKeys } from './playKeys.ts';

type Way = readonly [right: number, up: number];

const WAYS: readonly (readonly [action: Action, way: Way])[] = [
  ['left', [-1, 0]],
  ['right', [1, 0]],
  ['up', [0, 1]],
  ['down', [0, -1]],
];
const BUTTONS = ['jump', 'use', 'nextHeld', 'useHeld', 'drop'] as const;

type KeySet = PlayKeys['players'][number];

/** Whose keys are whose: alone, the first two sets are one player's. */
const keySets = ({ players }: PlayKeys, count: number): KeySet[][] =>
  count < 2 ? [players.slice(0, 2)] : players.slice(0, count).map((own) => [own]);

/** Buttons of a gamepad in the standard layout of the W3C Gamepad specification. */
const PAD_BUTTONS: readonly (readonly [index: number, button: number])[] = [
  [0, BUTTON.jump],
  [2, BUTTON.use],
  [3, BUTTON.nextHeld],
  [1, BUTTON.useHeld],
  [5, BUTTON.drop],
];
const PAD_WAYS: readonly (readonly [index: number, way: Way])[] = [
  [12, [0, 1]],
  [13, [0, -1]],
  [14, [-1, 0]],
  [15, [1, 0]],
];
/** A stick at rest is not quite in the middle. */
const DEAD_ZONE = 0.18;
const FULL = 127;

/** A gamepad as far as play needs it. */
export interface Pad {
  readonly axes: readonly number[];
  readonly buttons: readonly { readonly pressed: boolean }[];
}

/** What a gamepad says: its way, each from −1 to 1, and the buttons held. */
export function padState({ axes, buttons }: Pad): { readonly x: number; readonly y: number; readonly held: number } {
  const stick = (value = 0): number => (Math.abs(value) < DEAD_ZONE ? 0 : Math.max(-1, Math.min(1, value)));
  let [x, y] = [stick(axes[0]), -stick(axes[1])];
  let held = 0;
  for (const [index, [right, up]] of PAD_WAYS) {
    if (buttons[index]?.pressed !== true) continue;
    x += right;
    y += up;
  }
  for (const [index, button] of PAD_BUTTONS) if (buttons[index]?.pressed === true) held |= button;
  return { x: Math.max(-1, Math.min(1, x)), y: Math.max(-1, Math.min(1, y)), held };
}

/** The gamepads that are there, in their order. */
const connectedPads = (): Pad[] => navigator.getGamepads().filter((pad) => pad !== null);

interface Watched {
  /** Fills the inputs of all players with what is pressed now. */
  read(inputs: Int8Array): void;
  stop(): void;
}

/**
 * Watches keys and gamepads. A key tapped between two steps still counts for one: it is held until it has been read. Whose
 * keys and gamepads are whose is asked each time.
 */
export function watchInputs(
  target: Window,
  view: 'top' | 'side',
  players: number,
  keys: () => PlayKeys = () => USUAL_KEYS,
  pads: () => readonly Pad[] = connectedPads,
): Watched {
  const isPlay = (code: string): boolean => keySets(keys(), players).some((own) => own.some((set) => Object.values(set).includes(code)));
  const buttonOf = (set: KeySet, code: string): number => {
    const button = BUTTONS.find((action) => set[action] === code);
    return (button === undefined ? 0 : BUTTON[button]) | (view === 'side' && code === set.up ? BUTTON.jump : 0);
  };
  const held = new Set<string>();
  const tapped = new Set<string>();
  const padsBefore: number[] = [];
  const down = (event: KeyboardEvent): void => {
    // A button that is focused is pressed with Space or Enter; all else is for the player.
    const presses = event.target instanceof HTMLButtonElement && (event.code === 'Space' || event.code === 'Enter');
    if (!isPlay(event.code) || event.ctrlKey || event.metaKey || event.altKey || presses || isTyping(event.target)) return;
    event.preventDefault();
    if (!event.repeat) tapped.add(event.code);
    held.add(event.code);
  };
  const up = (event: KeyboardEvent): void => {
    held.delete(event.code);
  };
  const letGo = (): void => {
    held.clear();
    tapped.clear();
  };
  target.addEventListener('keydown', down);
  target.addEventListener('keyup', up);
  target.addEventListener('blur', letGo);
  return {
    read(inputs) {
      inputs.fill(0);
      const present = pads();
      const whose = keys();
      keySets(whose, players).forEach((own, player) => {
        let [x, y, pressed, downNow] = [0, 0, 0, 0];
        for (const set of own) {
          for (const code of held) downNow |= buttonOf(set, code);
          for (const code of tapped) pressed |= buttonOf(set, code);
          for (const [action, [right, above]] of WAYS) {
            if (!held.has(set[action]) && !tapped.has(set[action])) continue;
            x += right;
            y += above;
          }
        }
        let [padX, padY] = [0, 0];
        present.forEach((pad, index) => {
          if (players > 1 ? whose.pads[index] !== player + 1 : index > 0) return;
          const { x: right, y: above, held: padHeld } = padState(pad);
          [padX, padY] = [padX + right, padY + above];
          pressed |= padHeld & ~(padsBefore[index] ?? 0);
          padsBefore[index] = padHeld;
          downNow |= padHeld;
        });
        const at = player * INPUT_WIDTH;
        const most = (value: number): number => Math.round(Math.max(-1, Math.min(1, value)) * FULL);
        inputs[at] = x !== 0 ? Math.sign(x) * FULL : most(padX);
        inputs[at + 1] = y !== 0 ? Math.sign(y) * FULL : most(padY);
        inputs[at + 2] = downNow;
        inputs[at + 3] = pressed;
      });
      tapped.clear();
    },
    stop() {
      target.removeEventListener('keydown', down);
      target.removeEventListener('keyup', up);
      target.removeEventListener('blur', letGo);
    },
  };
}
