import { kindOf, type Level, type Role } from '@dial/core/level';
import { ROLE_PATTERNS } from '../ui/roles.ts';
import { TILE_SCALE, type Palette } from '../ui/palette.ts';
import type { StripRow } from './rows.ts';

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
export const ROW_HEIGHT = 17;

/** Seconds between two marks of the time axis: round figures, never closer than they can be read. */
export function tickSeconds(duration: number, width: number): number {
  const wanted = (duration / Math.max(1, width)) * 90;
  return [0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3600].find((step) => step >= wanted) ?? 7200;
}

/** Traces a line: for each pixel column the least and the greatest value, so that nothing is lost however long the run. Answers the first and the last column. */
function trace(
  context: CanvasRenderingContext2D,
  { values, beginsAt }: LaneLine,
  width: number,
  view: TimeView,
  rate: number,
  y: (value: number) => number,
): readonly [first: number, last: number] {
  const perPixel = ((view.to - view.from) * rate) / width;
  const offset = (view.from - beginsAt) * rate;
  let first = -1;
  let last = 0;
  context.beginPath();
  for (let column = 0; column <= width; column += 1) {
    const from = Math.max(0, Math.floor(offset + column * perPixel));
    if (from >= values.length) break;
    const until = Math.floor(offset + (column + 1) * perPixel);
    if (until < 0) continue;
    const to = Math.min(values.length, Math.max(from + 1, until));
    let least = Infinity;
    let most = -Infinity;
    for (let step = from; step < to; step += 1) {
      const value = values[step] as number;
      if (value < least) least = value;
      if (value > most) most = value;
    }
    const begun = values[from] as number;
    const final = values[to - 1] as number;
    if (first < 0) {
      context.moveTo(column, y(begun));
      first = column;
    } else context.lineTo(column, y(begun));
    if (most > Math.max(begun, final) || least < Math.min(begun, final)) {
      context.lineTo(column, y(most));
      context.lineTo(column, y(least));
    }
    context.lineTo(column, y(final));
    last = column;
  }
  return [Math.max(0, first), last];
}

/** Widths of the lines of a lane: the first, then others beside it, told apart by dashes too. */
const DASHES: readonly (readonly number[])[] = [[], [7, 3], [2, 3], [9, 3, 2, 3], [4, 4], [1, 4]];

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
    const [first, last] = trace(context, main, width, view, rate, y);
    context.lineTo(last, top + lane.height);
    context.lineTo(first, top + lane.height);
    context.closePath();
    context.globalAlpha = 0.13;
    context.fillStyle = lane.colour;
    context.fill();
    context.globalAlpha = 1;
  }
  others.forEach((line, index) => {
    trace(context, line, width, view, rate, y);
    context.setLineDash(line.dashed ? [4, 3] : [...(DASHES[(index + 1) % DASHES.length] ?? [])]);
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

function gridLines(context: CanvasRenderingContext2D, width: number, height: number, view: TimeView, palette: Palette): void {
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

function rolePattern(context: CanvasRenderingContext2D, role: Role, palette: Palette): CanvasPattern | string {
  const pattern = context.createPattern(palette.tile[role], 'repeat');
  pattern?.setTransform(new DOMMatrix().rotate(ROLE_PATTERNS[role].turned).scale(1 / TILE_SCALE));
  return pattern ?? palette.role[role];
}

function hatch(context: CanvasRenderingContext2D, x: number, y: number, width: number, height: number, palette: Palette): void {
  context.save();
  context.beginPath();
  context.rect(x, y, width, height);
  context.clip();
  context.strokeStyle = palette.soft;
  context.lineWidth = 1;
  context.beginPath();
  for (let at = x - height; at < x + width; at += 6) {
    context.moveTo(at, y);
    context.lineTo(at + height, y + height);
  }
  context.stroke();
  context.restore();
  context.strokeStyle = palette.line;
  context.strokeRect(x + 0.5, y + 0.5, width - 1, height - 1);
}

function drawCrosses(context: CanvasRenderingContext2D, centres: readonly number[], middle: number, arm: number, colour: string): void {
  context.strokeStyle = colour;
  context.lineWidth = 1.5;
  context.beginPath();
  for (const centre of centres) {
    context.moveTo(centre - arm, middle - arm);
    context.lineTo(centre + arm, middle + arm);
    context.moveTo(centre + arm, middle - arm);
    context.lineTo(centre - arm, middle + arm);
  }
  context.stroke();
}

export function drawRows(
  context: CanvasRenderingContext2D,
  rows: readonly StripRow[],
  level: Level,
  selected: (row: StripRow) => boolean,
  width: number,
  view: TimeView,
  palette: Palette,
): void {
  gridLines(context, width, rows.length * ROW_HEIGHT, view, palette);
  const x = (seconds: number): number => ((seconds - view.from) / (view.to - view.from)) * width;
  const inView = ({ from, to }: TimeView): boolean => to >= view.from && from <= view.to;
  /** No further out than can be seen: a pattern drawn over an hour would be dear. */
  const clipped = (at: number): number => Math.max(-4, Math.min(width + 4, x(at)));
  rows.forEach((row, index) => {
    const top = index * ROW_HEIGHT;
    const role = kindOf(level, row.kind)?.role ?? 'score';
    if (selected(row)) {
      context.globalAlpha = 0.1;
      context.fillStyle = palette.needle;
      context.fillRect(0, top, width, ROW_HEIGHT);
      context.globalAlpha = 1;
    }
    for (const { from, to } of row.resting.filter(inView)) {
      hatch(context, clipped(from), top + 4, Math.max(2, clipped(to) - clipped(from)), ROW_HEIGHT - 8, palette);
    }
    context.fillStyle = rolePattern(context, role, palette);
    context.strokeStyle = palette.role[role];
    context.lineWidth = 1.2;
    for (const { from, to } of row.inside.filter(inView)) {
      const span = Math.max(3, clipped(to) - clipped(from));
      context.fillRect(clipped(from), top + 3, span, ROW_HEIGHT - 6);
      context.strokeRect(clipped(from), top + 3, span, ROW_HEIGHT - 6);
    }
    const refusals = row.refusals.filter(({ at }) => at >= view.from && at <= view.to);
    // Movers are refused all day long; what players were refused must not drown in that.
    drawCrosses(
      context,
      refusals.filter(({ ofPlayer }) => !ofPlayer).map(({ at }) => x(at)),
      top + ROW_HEIGHT / 2,
      1.8,
      palette.line,
    );
    drawCrosses(
      context,
      refusals.filter(({ ofPlayer }) => ofPlayer).map(({ at }) => x(at)),
      top + ROW_HEIGHT / 2,
      3,
      palette.ink,
    );
    context.strokeStyle = palette.line;
    context.lineWidth = 0.7;
    context.strokeRect(-1, top + ROW_HEIGHT - 0.5, width + 2, 0);
  });
}
