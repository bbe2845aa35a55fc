import { extremes, findExtremes } from './extremes.ts';
import type { Palette } from './palette.ts';

const BAR_TEXT = '10.5px "IBM Plex Mono"';

/** The stretch of time in view. Seconds. */
export interface TimeView {
  readonly from: number;
  readonly to: number;
}

/** One line of a lane: numbers of step k stand at index k. */
export interface LaneLine {
  readonly values: Float32Array;
  readonly dashed: boolean;
  /** Seconds of the axis at which its step 0 lies. */
  readonly beginsAt: number;
}

/** Something in force for a while. */
export interface LaneBar {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** A lane: one number over the session, or what is in force when. */
export interface Lane {
  readonly key: string;
  readonly name: string;
  readonly height: number;
  readonly colour: string;
  readonly filled: boolean;
  readonly low: number;
  readonly high: number;
  /** The first is the one that hover and labels speak of. */
  readonly lines: readonly LaneLine[];
  readonly bars: readonly LaneBar[];
}

export const AXIS_HEIGHT = 18;

/** Seconds between two marks of the time axis: round figures, never closer than they can be read. */
export function tickSeconds(duration: number, width: number): number {
  const wanted = (duration / Math.max(1, width)) * 90;
  return [0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3600].find((step) => step >= wanted) ?? 7200;
}

/** The corners of a traced line, x after y; reused from line to line. */
let corners = new Float64Array(0);
let cornerCount = 0;

function addCorner(x: number, y: number): void {
  corners[cornerCount] = x;
  corners[cornerCount + 1] = y;
  cornerCount += 2;
}

/** Begins a path along a line, its corners in `corners`: for each pixel column the least and the greatest value, so that nothing is lost however long the run. */
function trace(
  context: CanvasRenderingContext2D,
  { values, beginsAt }: LaneLine,
  width: number,
  view: TimeView,
  rate: number,
  y: (value: number) => number,
): void {
  const perPixel = ((view.to - view.from) * rate) / width;
  const offset = (view.from - beginsAt) * rate;
  const most = (Math.ceil(width) + 1) * 8;
  if (corners.length < most) corners = new Float64Array(most);
  cornerCount = 0;
  for (let column = 0; column <= width; column += 1) {
    const from = Math.max(0, Math.floor(offset + column * perPixel));
    if (from >= values.length) break;
    const until = Math.floor(offset + (column + 1) * perPixel);
    if (until < 0) continue;
    const to = Math.min(values.length, Math.max(from + 1, until));
    const begun = values[from] as number;
    const final = values[to - 1] as number;
    findExtremes(values, from, to);
    addCorner(column, y(begun));
    if (extremes.most > Math.max(begun, final) || extremes.least < Math.min(begun, final)) {
      addCorner(column, y(extremes.most));
      addCorner(column, y(extremes.least));
    }
    if (final !== begun) addCorner(column, y(final));
  }
  context.beginPath();
  for (let at = 0; at < cornerCount; at += 2) {
    const [x, y] = [corners[at] as number, corners[at + 1] as number];
    // A corner in the middle of a level stretch changes nothing.
    const level = at > 0 && at + 2 < cornerCount && corners[at - 1] === y && corners[at + 3] === y;
    if (at === 0) context.moveTo(x, y);
    else if (!level) context.lineTo(x, y);
  }
}

/** Widths of the lines of a lane: the first, then others beside it, told apart by dashes too. */
const DASHES: readonly (readonly number[])[] = [[], [7, 3], [2, 3], [9, 3, 2, 3], [4, 4], [1, 4]];

/** The dashes of a lane's line that lies beside others. */
export const laneDash = (index: number): readonly number[] => DASHES[index % DASHES.length] ?? [];

function drawLane(
  context: CanvasRenderingContext2D,
  lane: Lane,
  top: number,
  width: number,
  view: TimeView,
  rate: number,
  palette: Palette,
): void {
  const inner = Math.max(4, lane.height - 10);
  const pad = (lane.height - inner) / 2;
  const y = (value: number): number => top + pad + inner - ((value - lane.low) / Math.max(1e-9, lane.high - lane.low)) * inner;
  const x = (seconds: number): number => ((seconds - view.from) / (view.to - view.from)) * width;
  const [main, ...others] = lane.lines;
  if (lane.filled && main !== undefined) {
    trace(context, main, width, view, rate, y);
    const last = cornerCount > 0 ? (corners[cornerCount - 2] as number) : 0;
    context.lineTo(last, top + lane.height);
    context.lineTo(cornerCount > 0 ? (corners[0] as number) : 0, top + lane.height);
    context.closePath();
    context.globalAlpha = 0.13;
    context.fillStyle = lane.colour;
    context.fill();
    context.globalAlpha = 1;
  }
  others.forEach((line, index) => {
    trace(context, line, width, view, rate, y);
    context.setLineDash(line.dashed ? [4, 3] : [...laneDash(index + 1)]);
    context.strokeStyle = line.dashed ? palette.soft : lane.colour;
    context.lineWidth = line.dashed ? 1 : 1.4;
    context.stroke();
    context.setLineDash([]);
  });
  if (main !== undefined) {
    trace(context, main, width, view, rate, y);
    context.strokeStyle = lane.colour;
    context.lineWidth = 1.8;
    context.stroke();
  }
  context.font = BAR_TEXT;
  for (const { from, to, text } of lane.bars) {
    if (to < view.from || from > view.to) continue;
    const [left, right] = [Math.max(-2, x(from)), Math.min(width + 2, x(to))];
    const span = Math.max(2, right - left);
    context.globalAlpha = 0.14;
    context.fillStyle = lane.colour;
    context.fillRect(left, top + 3, span, lane.height - 6);
    context.globalAlpha = 1;
    context.strokeStyle = lane.colour;
    context.lineWidth = 1.2;
    context.strokeRect(left, top + 3, span, lane.height - 6);
    context.fillStyle = palette.ink;
    if (span > 40) context.fillText(text, left + 4, top + lane.height / 2 + 3.5, span - 8);
  }
}

/** Sizes a canvas for the screen and clears it. */
export function prepare(canvas: HTMLCanvasElement, width: number, height: number): CanvasRenderingContext2D | null {
  const density = devicePixelRatio;
  canvas.width = Math.round(width * density);
  canvas.height = Math.round(height * density);
  const context = canvas.getContext('2d');
  context?.scale(density, density);
  return context;
}

/** Draws the lines of the time axis. */
export function gridLines(context: CanvasRenderingContext2D, width: number, height: number, view: TimeView, palette: Palette): void {
  const span = view.to - view.from;
  const every = tickSeconds(span, width);
  context.strokeStyle = palette.line;
  context.lineWidth = 0.6;
  for (let at = Math.ceil(view.from / every) * every; at < view.to; at += every) {
    const x = Math.round(((at - view.from) / span) * width) + 0.5;
    context.beginPath();
    context.moveTo(x, 0);
    context.lineTo(x, height);
    context.stroke();
  }
}

export function drawLanes(
  context: CanvasRenderingContext2D,
  lanes: readonly Lane[],
  width: number,
  view: TimeView,
  rate: number,
  palette: Palette,
): void {
  const height = lanes.reduce((sum, lane) => sum + lane.height, 0);
  gridLines(context, width, height, view, palette);
  let top = 0;
  for (const lane of lanes) {
    drawLane(context, lane, top, width, view, rate, palette);
    top += lane.height;
    context.strokeStyle = palette.line;
    context.lineWidth = 1;
    context.strokeRect(-1, top - 0.5, width + 2, 0);
  }
}
