import { useLayoutEffect, useRef, type RefObject } from 'react';

/** What is drawn below each other on one canvas. */
export interface Band {
  /** CSS pixels. */
  readonly height: number;
}

/** How bands are drawn. `Look` is what all of them depend on, such as the stretch of time in view. */
export interface BandDrawing<One extends Band, Look extends { readonly width: number }> {
  /** Whether two bands look the same in the same look. */
  readonly same: (one: One, other: One) => boolean;
  /** Draws a band whose upper left corner is the origin. Nothing outside it is touched. */
  readonly draw: (context: CanvasRenderingContext2D, one: One, look: Look) => void;
}

/** Whether two lists look the same, one thing after the other. */
export const sameList = <One>(one: readonly One[], other: readonly One[], same: (a: One, b: One) => boolean): boolean =>
  one.length === other.length && one.every((entry, index) => same(entry, other[index] as One));

interface Drawn<One, Look> {
  readonly canvas: HTMLCanvasElement;
  readonly bands: readonly One[];
  readonly look: Look;
}

const heightOf = (bands: readonly Band[]): number => bands.reduce((sum, { height }) => sum + height, 0);

/** Draws bands on a canvas; of those that are drawn already only what looks another. */
export function drawBands<One extends Band, Look extends { readonly width: number }>(
  canvas: HTMLCanvasElement,
  { same, draw }: BandDrawing<One, Look>,
  bands: readonly One[],
  look: Look,
  before: Drawn<One, Look> | null,
): Drawn<One, Look> {
  const density = devicePixelRatio;
  const [width, height] = [Math.round(look.width * density), Math.round(heightOf(bands) * density)];
  const kept = canvas === before?.canvas && look === before.look && width === canvas.width && height === canvas.height;
  if (width !== canvas.width) canvas.width = width;
  if (height !== canvas.height) canvas.height = height;
  const context = canvas.getContext('2d');
  let top = 0;
  let topBefore = 0;
  bands.forEach((band, index) => {
    const was = kept ? before.bands[index] : undefined;
    if (context !== null && (was === undefined || top !== topBefore || was.height !== band.height || !same(was, band))) {
      context.save();
      context.setTransform(density, 0, 0, density, 0, top * density);
      context.beginPath();
      context.rect(0, 0, look.width, band.height);
      context.clip();
      context.clearRect(0, 0, look.width, band.height);
      draw(context, band, look);
      context.restore();
    }
    top += band.height;
    topBefore += was?.height ?? 0;
  });
  return { canvas, bands, look };
}

/** Keeps bands drawn on a canvas. `drawing` and `look` are objects that stay the same as long as they mean the same. */
export function useBands<One extends Band, Look extends { readonly width: number }>(
  canvas: RefObject<HTMLCanvasElement | null>,
  drawing: BandDrawing<One, Look>,
  bands: readonly One[],
  look: Look,
): void {
  const drawn = useRef<Drawn<One, Look> | null>(null);
  useLayoutEffect(() => {
    drawn.current = canvas.current === null ? null : drawBands(canvas.current, drawing, bands, look, drawn.current);
  }, [canvas, drawing, bands, look]);
}
