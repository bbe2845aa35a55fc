import { kindOf, type Level, type Role } from '@dial/core/level';
import { ROLE_PATTERNS } from '../ui/roles.ts';
import { TILE_SCALE, type Palette } from '../ui/palette.ts';
import type { StripRow } from './rows.ts';

/** A lane: one number over the session. */
export interface Lane {
  readonly key: string;
  readonly name: string;
  readonly height: number;
  readonly colour: string;
  readonly filled: boolean;
  readonly low: number;
  readonly high: number;
  readonly now: Float32Array;
  readonly ghost: Float32Array | null;
}

export const AXIS_HEIGHT = 18;
export const ROW_HEIGHT = 17;

/** Seconds between two marks of the time axis: round figures, never closer than they can be read. */
export function tickSeconds(duration: number, width: number): number {
  const wanted = (duration / Math.max(1, width)) * 90;
  return [0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3600].find((step) => step >= wanted) ?? 7200;
}

/** Traces a lane: for each pixel column the least and the greatest value, so that nothing is lost however long the run. */
function trace(
  context: CanvasRenderingContext2D,
  values: Float32Array,
  width: number,
  stepsAcross: number,
  y: (value: number) => number,
): number {
  const perPixel = stepsAcross / width;
  let last = 0;
  context.beginPath();
  for (let column = 0; column <= width; column += 1) {
    const from = Math.floor(column * perPixel);
    if (from >= values.length) break;
    const to = Math.min(values.length, Math.max(from + 1, Math.floor((column + 1) * perPixel)));
    let least = Infinity;
    let most = -Infinity;
    for (let step = from; step < to; step += 1) {
      const value = values[step] as number;
      if (value < least) least = value;
      if (value > most) most = value;
    }
    const first = values[from] as number;
    const final = values[to - 1] as number;
    if (column === 0) context.moveTo(0, y(first));
    else context.lineTo(column, y(first));
    if (most > Math.max(first, final) || least < Math.min(first, final)) {
      context.lineTo(column, y(most));
      context.lineTo(column, y(least));
    }
    context.lineTo(column, y(final));
    last = column;
  }
  return last;
}

function drawLane(context: CanvasRenderingContext2D, lane: Lane, top: number, width: number, stepsAcross: number, palette: Palette): void {
  const inner = lane.height - 10;
  const y = (value: number): number => top + 5 + inner - ((value - lane.low) / (lane.high - lane.low)) * inner;
  if (lane.filled) {
    const last = trace(context, lane.now, width, stepsAcross, y);
    context.lineTo(last, top + lane.height);
    context.lineTo(0, top + lane.height);
    context.closePath();
    context.globalAlpha = 0.13;
    context.fillStyle = lane.colour;
    context.fill();
    context.globalAlpha = 1;
  }
  if (lane.ghost !== null) {
    trace(context, lane.ghost, width, stepsAcross, y);
    context.setLineDash([4, 3]);
    context.strokeStyle = palette.soft;
    context.lineWidth = 1;
    context.stroke();
    context.setLineDash([]);
  }
  trace(context, lane.now, width, stepsAcross, y);
  context.strokeStyle = lane.colour;
  context.lineWidth = 1.8;
  context.stroke();
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

function gridLines(context: CanvasRenderingContext2D, width: number, height: number, duration: number, palette: Palette): void {
  const every = tickSeconds(duration, width);
  context.strokeStyle = palette.line;
  context.lineWidth = 0.6;
  for (let at = every; at < duration; at += every) {
    const x = Math.round((at / duration) * width) + 0.5;
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
  duration: number,
  rate: number,
  palette: Palette,
): void {
  const height = lanes.reduce((sum, lane) => sum + lane.height, 0);
  gridLines(context, width, height, duration, palette);
  let top = 0;
  for (const lane of lanes) {
    drawLane(context, lane, top, width, duration * rate + 1, palette);
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
  duration: number,
  palette: Palette,
): void {
  gridLines(context, width, rows.length * ROW_HEIGHT, duration, palette);
  const x = (seconds: number): number => (seconds / duration) * width;
  rows.forEach((row, index) => {
    const top = index * ROW_HEIGHT;
    const role = kindOf(level, row.kind)?.role ?? 'score';
    if (selected(row)) {
      context.globalAlpha = 0.1;
      context.fillStyle = palette.needle;
      context.fillRect(0, top, width, ROW_HEIGHT);
      context.globalAlpha = 1;
    }
    for (const { from, to } of row.resting) hatch(context, x(from), top + 4, Math.max(2, x(to) - x(from)), ROW_HEIGHT - 8, palette);
    context.fillStyle = rolePattern(context, role, palette);
    context.strokeStyle = palette.role[role];
    context.lineWidth = 1.2;
    for (const { from, to } of row.inside) {
      const span = Math.max(3, x(to) - x(from));
      context.fillRect(x(from), top + 3, span, ROW_HEIGHT - 6);
      context.strokeRect(x(from), top + 3, span, ROW_HEIGHT - 6);
    }
    // Movers are refused all day long; what players were refused must not drown in that.
    drawCrosses(
      context,
      row.refusals.filter(({ ofPlayer }) => !ofPlayer).map(({ at }) => x(at)),
      top + ROW_HEIGHT / 2,
      1.8,
      palette.line,
    );
    drawCrosses(
      context,
      row.refusals.filter(({ ofPlayer }) => ofPlayer).map(({ at }) => x(at)),
      top + ROW_HEIGHT / 2,
      3,
      palette.ink,
    );
    context.strokeStyle = palette.line;
    context.lineWidth = 0.7;
    context.strokeRect(-1, top + ROW_HEIGHT - 0.5, width + 2, 0);
  });
}
