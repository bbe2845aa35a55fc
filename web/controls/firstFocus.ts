/**
 * The ref of a field that has the focus as soon as it appears. One function for all: a ref that is made anew at each drawing is called anew as
 * well, and takes the focus from the field that has it by then.
 */
export const hasFocusAtFirst = (field: HTMLInputElement | null): void => field?.focus();

/** The ref of a field that appears with what stands in it chosen, to be typed over. */
export const isChosenAtFirst = (field: HTMLInputElement | null): void => field?.select();
