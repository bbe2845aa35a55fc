import { BUTTON, INPUT_WIDTH } from '@dial/core/session';
import { isTyping } from '../ui/isTyping.ts';

type Way = readonly [right: number, up: number];

/** What the keys of one player mean, by `KeyboardEvent.code`. */
interface KeySet {
  readonly moves: Readonly<Record<string, Way>>;
  readonly buttons: Readonly<Record<string, number>>;
  /** Keys that move up; seen from the side they jump too. */
  readonly up: string;
}

const LETTERS: KeySet = {
  moves: { KeyA: [-1, 0], KeyD: [1, 0], KeyW: [0, 1], KeyS: [0, -1] },
  buttons: { Space: BUTTON.jump, KeyE: BUTTON.use, KeyQ: BUTTON.nextHeld, KeyF: BUTTON.useHeld, KeyX: BUTTON.drop },
  up: 'KeyW',
};

const ARROWS: KeySet = {
  moves: { ArrowLeft: [-1, 0], ArrowRight: [1, 0], ArrowUp: [0, 1], ArrowDown: [0, -1] },
  buttons: {
    ShiftRight: BUTTON.jump,
    Enter: BUTTON.use,
    Comma: BUTTON.nextHeld,
    Period: BUTTON.useHeld,
    Slash: BUTTON.drop,
  },
  up: 'ArrowUp',
};

/** Whose keys are whose: alone, both sets are one player's. */
const keySets = (players: number): readonly (readonly KeySet[])[] => (players < 2 ? [[LETTERS, ARROWS]] : [[LETTERS], [ARROWS]]);

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
 * Watches keys and gamepads. A key tapped between two steps still counts for one: it is held until it has been read. The
 * first gamepad is the first player's, the second the second's.
 */
export function watchInputs(target: Window, view: 'top' | 'side', players: number, pads: () => readonly Pad[] = connectedPads): Watched {
  const sets = keySets(players);
  const all = sets.flat();
  const isPlay = (code: string): boolean => all.some(({ moves, buttons }) => code in moves || code in buttons);
  const buttonOf = ({ buttons, up }: KeySet, code: string): number =>
    (buttons[code] ?? 0) | (view === 'side' && code === up ? BUTTON.jump : 0);
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
      sets.forEach((own, player) => {
        let [x, y, pressed, downNow] = [0, 0, 0, 0];
        for (const set of own) {
          for (const code of held) downNow |= buttonOf(set, code);
          for (const code of tapped) pressed |= buttonOf(set, code);
          for (const code of new Set([...held, ...tapped])) {
            const [right = 0, above = 0] = set.moves[code] ?? [];
            x += right;
            y += above;
          }
        }
        const pad = present[player];
        const { x: padX, y: padY, held: padHeld } = pad === undefined ? { x: 0, y: 0, held: 0 } : padState(pad);
        pressed |= padHeld & ~(padsBefore[player] ?? 0);
        padsBefore[player] = padHeld;
        const at = player * INPUT_WIDTH;
        if (at + INPUT_WIDTH > inputs.length) return;
        inputs[at] = x !== 0 ? Math.sign(x) * FULL : Math.round(padX * FULL);
        inputs[at + 1] = y !== 0 ? Math.sign(y) * FULL : Math.round(padY * FULL);
        inputs[at + 2] = downNow | padHeld;
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
