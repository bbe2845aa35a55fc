/** What charts have in common: typefaces, axes, and what is told where one is pointed at. */
import type { Palette } from '../drawing/palette.ts';

/** Typefaces of words and of figures: on the page, and in a file, which cannot count on having those. */
export interface Faces {
  readonly words: string;
  readonly figures: string;
}
export const ON_PAGE: Faces = { words: 'Archivo, sans-serif', figures: 'IBM Plex Mono, monospace' };
export const IN_FILE: Faces = { words: 'sans-serif', figures: 'monospace' };
export const SIZE = 11;

/** What a chart is drawn with. */
export interface Look {
  readonly palette: Palette;
  readonly faces: Faces;
  /** CSS pixels. */
  readonly height: number;
  /** Nothing moves. */
  readonly still: boolean;
}

/** What is told of where the chart is pointed at. Made of elements: a page of ours lets no style in that comes as text. */
export function tipOf(head: string, rows: readonly string[]): HTMLElement {
  const tip = document.createElement('div');
  for (const [index, text] of [head, ...rows].entries()) {
    const row = document.createElement('p');
    row.textContent = text;
    if (index === 0) row.className = 'font-mono font-semibold';
    tip.append(row);
  }
  return tip;
}

export const tip = ({ palette, faces }: Look): object => ({
  confine: true,
  backgroundColor: palette.card,
  borderColor: palette.ink,
  borderWidth: 1,
  padding: [3, 6],
  extraCssText: 'box-shadow:none;border-radius:3px',
  textStyle: { color: palette.ink, fontFamily: faces.words, fontSize: SIZE },
});

export const axisFigures = ({ palette, faces }: Look): object => ({ color: palette.soft, fontFamily: faces.figures, fontSize: 10 });

export const axisLines = ({ palette }: Look): object => ({
  axisLine: { show: true, lineStyle: { color: palette.line } },
  axisTick: { show: false },
  splitLine: { lineStyle: { color: palette.line, width: 0.6 } },
});
