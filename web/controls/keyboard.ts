/**
 * The keys of a page, by scope: a drag that is under way takes all of them, then what has focus takes what it makes something
 * of, then a field takes what is typed, and what is left is the page's.
 */
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
function watchHeld(): () => void {
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

/** Inputs that take text; ticks, sliders and buttons take no more than a key or two, and handle those themselves. */
const TEXT_TYPES = new Set(['text', 'search', 'number', 'password', 'email', 'url', 'tel', 'date', 'time']);

/** Whether a key goes into a field, a list or a menu, so that it must not be taken as a command. */
export const isTyping = (target: EventTarget | null): boolean =>
  (target instanceof HTMLInputElement && TEXT_TYPES.has(target.type)) ||
  target instanceof HTMLTextAreaElement ||
  (target instanceof Element && target.closest('[data-radix-select-viewport], [role=menu]') !== null);

/** The field that has been typed into and whose text has not been taken over yet: undoing takes back what was typed. */
let typedInto: EventTarget | null = null;

export const hasTyped = (target: EventTarget | null): boolean => target !== null && target === typedInto;

/** Watches what is typed into fields. Answers what ends it. */
function watchTyping(): () => void {
  const typed = ({ target }: Event): void => void (typedInto = target);
  const taken = (): void => void (typedInto = null);
  addEventListener('input', typed, true);
  addEventListener('change', taken, true);
  addEventListener('focusin', taken, true);
  return () => {
    removeEventListener('input', typed, true);
    removeEventListener('change', taken, true);
    removeEventListener('focusin', taken, true);
  };
}

/** Gives a page the keys that are its own; while a field is typed into, only those of which `whileTyping` says so. Answers what ends it. */
export function watchKeys(onKey: (event: KeyboardEvent) => void, whileTyping: (event: KeyboardEvent) => boolean = () => false): () => void {
  const listener = (event: KeyboardEvent): void => {
    // A key handled by what has focus goes no further: Delete on a dial deletes nothing.
    if (event.altKey || event.defaultPrevented || (isTyping(event.target) && !whileTyping(event))) return;
    onKey(event);
  };
  const ends = [watchHeld(), watchTyping()];
  addEventListener('keydown', listener);
  return () => {
    for (const end of ends) end();
    removeEventListener('keydown', listener);
  };
}
