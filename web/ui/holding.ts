/** What takes back each drag that is under way. */
const held = new Set<() => void>();

/** Begins a drag: until it is let go, the keyboard does nothing but take it back by Escape. Answers what ends it. */
export function hold(takeBack: () => void): () => void {
  held.add(takeBack);
  return () => held.delete(takeBack);
}

function takeAllBack(): void {
  const all = [...held];
  held.clear();
  for (const takeBack of all) takeBack();
}

const MODIFIERS = new Set(['Alt', 'Control', 'Meta', 'Shift']);

function onKey(event: KeyboardEvent): void {
  if (held.size === 0 || MODIFIERS.has(event.key)) return;
  event.preventDefault();
  event.stopImmediatePropagation();
  if (event.key === 'Escape') takeAllBack();
}

/** A button let go outside the window, or a window that was left: nothing will ever end the drag. */
function onMove(event: PointerEvent): void {
  if (held.size > 0 && event.buttons === 0) takeAllBack();
}

/** Watches over the drags of a page. Answers what ends it. */
export function watchHeld(): () => void {
  addEventListener('keydown', onKey, true);
  addEventListener('pointermove', onMove, true);
  addEventListener('pointercancel', takeAllBack, true);
  addEventListener('blur', takeAllBack);
  return () => {
    removeEventListener('keydown', onKey, true);
    removeEventListener('pointermove', onMove, true);
    removeEventListener('pointercancel', takeAllBack, true);
    removeEventListener('blur', takeAllBack);
  };
}
