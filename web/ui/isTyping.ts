/** Inputs that take text; ticks, sliders and buttons take no more than a key or two, and handle those themselves. */
const TEXT_TYPES = new Set(['text', 'search', 'number', 'password', 'email', 'url', 'tel', 'date', 'time']);

/** Whether a key goes into a field, so that it must not be taken as a command. */
export const isTyping = (target: EventTarget | null): boolean =>
  (target instanceof HTMLInputElement && TEXT_TYPES.has(target.type)) ||
  target instanceof HTMLSelectElement ||
  target instanceof HTMLTextAreaElement;
