/** The look of the heads of the Ghost's tables. */
export const headClass = 'sticky top-0 border-b border-line bg-panel px-2 py-0.5 text-left text-[11px] font-bold text-soft';
