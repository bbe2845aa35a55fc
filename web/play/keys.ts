import { BUTTON } from '@dial/core/session';

/** What the keys of play mean. Both sets work at once. */
const MOVES: Readonly<Record<string, readonly [number, number]>> = {
  ArrowLeft: [-1, 0],
  ArrowRight: [1, 0],
  ArrowUp: [0, 1],
  ArrowDown: [0, -1],
  KeyA: [-1, 0],
  KeyD: [1, 0],
  KeyW: [0, 1],
  KeyS: [0, -1],
};

/** Keys that press buttons. Up jumps where one is seen from the side. */
const BUTTONS: Readonly<Record<string, number>> = {
  Space: BUTTON.jump,
  KeyE: BUTTON.use,
  Enter: BUTTON.use,
  KeyQ: BUTTON.nextHeld,
  KeyF: BUTTON.useHeld,
  KeyX: BUTTON.drop,
};

const FULL = 127;

/**
 * Watches the keys of play. A key tapped between two steps still counts for one: it is held until it has been read.
 */
export function watchKeys(target: Window, view: 'top' | 'side'): { read(inputs: Int8Array): void; stop(): void } {
  const buttonOf = (code: string): number =>
    (BUTTONS[code] ?? 0) | (view === 'side' && (code === 'ArrowUp' || code === 'KeyW') ? BUTTON.jump : 0);
  const held = new Set<string>();
  const tapped = new Set<string>();
  const down = (event: KeyboardEvent): void => {
    if (!(event.code in MOVES || event.code in BUTTONS) || event.ctrlKey || event.metaKey || event.altKey) return;
    event.preventDefault();
    held.add(event.code);
    tapped.add(event.code);
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
      let x = 0;
      let y = 0;
      let pressed = 0;
      let down = 0;
      for (const code of held) down |= buttonOf(code);
      for (const code of tapped) pressed |= buttonOf(code);
      for (const code of new Set([...held, ...tapped])) {
        const [right = 0, above = 0] = MOVES[code] ?? [];
        x += right;
        y += above;
      }
      tapped.clear();
      inputs[0] = Math.sign(x) * FULL;
      inputs[1] = Math.sign(y) * FULL;
      inputs[2] = down;
      inputs[3] = pressed;
    },
    stop() {
      target.removeEventListener('keydown', down);
      target.removeEventListener('keyup', up);
      target.removeEventListener('blur', letGo);
    },
  };
}
