import { sameNumbers } from '@dial/core/players';
import { sameList, type BandDrawing } from './bands.ts';
import { extremes, findExtremes } from './extremes.ts';
import type { Palette } from '../palette.ts';

/** Room that the text of a bar takes, at most. Pixels. */
const TEXT_ROOM = 90;
const BAR_TEXT = '10.5px "IBM Plex Mono"';
const TARGET_TEXT = '9.5px Archivo';

/** The stretch of time in view. Seconds. */
export interface TimeView {
  readonly from: number;
  readonly to: number;
}

/** One line of a lane: numbers of step k stand at index k. */
export interface LaneLine {
  readonly values: Float32Array;
  readonly dashed: boolean;
}

/** Where a number lies for most of many sessions, a number for each second. */
interface LaneBand {
  readonly tenth: Float32Array;
  readonly median: Float32Array;
  readonly ninetieth: Float32Array;
}

/** Something in force for a while. */
export interface LaneBar {
  readonly from: number;
  readonly to: number;
  readonly text: string;
}

/** Where a target wishes a number to lie. Infinite: no limit there. */
export interface LaneTarget {
  readonly from: number;
  readonly to: number;
  /** Seconds at which it is meant; null: throughout. */
  readonly at: number | null;
  /** Whom it speaks of. */
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
  /** Behind the lines. */
  readonly band?: LaneBand | null;
  /** Where targets wish it to lie. */
  readonly wished?: readonly LaneTarget[];
}

/** What all lanes and rows on one canvas depend on. */
export interface StripLook {
  /** CSS pixels. */
  readonly width: number;
  readonly view: TimeView;
  /** Steps a second. */
  readonly rate: number;
  readonly palette: Palette;
}

export const AXIS_HEIGHT = 18;

/** Seconds between two marks of the time axis: round figures, never closer than they can be read. */
export function tickSeconds(duration: number, width: number): number {
  const wanted = (duration / Math.max(1, width)) * 90;
  return [0.1, 0.2, 0.5, 1, 2, 5, 10, 15, 30, 60, 120, 300, 600, 1200, 3600].find((step) => step >= wanted) ?? 7200;
}

/** From so many steps in a pixel on, a line is drawn as the band it covers: thousands of strokes up and down are dear, and say no more. */
const DENSE = 12;

/** The upper and the lower edge of a traced line: one entry a pixel column from `first` up to, not including, `last`. */
interface Edges {
  first: number;
  last: number;
  top: Float32Array;
  bottom: Float32Array;
}

const noEdges = (): Edges => ({ first: 0, last: 0, top: new Float32Array(0), bottom: new Float32Array(0) });
/** Reused from lane to lane: of the first line, and of one beside it. */
const mainEdges = noEdges();
const otherEdges = noEdges();

/** Finds the edges of a line: for each pixel column the greatest and the least value, so that nothing is lost however long the run. */
function traceEdges(edges: Edges, { values }: LaneLine, { width, view, rate }: StripLook, y: (value: number) => number): void {
  const perPixel = ((view.to - view.from) * rate) / width;
  const offset = view.from * rate;
  if (edges.top.length <= width) Object.assign(edges, { top: new Float32Array(width + 1), bottom: new Float32Array(width + 1) });
  edges.first = -1;
  edges.last = 0;
  for (let column = 0; column <= width; column += 1) {
    const from = Math.max(0, Math.floor(offset + column * perPixel));
    const until = Math.floor(offset + (column + 1) * perPixel);
    if (from >= values.length) break;
    if (until < 0) continue;
    // The step before it is part of each column, so that the band has no gaps.
    findExtremes(values, Math.max(0, from - 1), Math.min(values.length, Math.max(from + 1, until)));
    if (edges.first < 0) edges.first = column;
    edges.top[column] = y(extremes.most);
    edges.bottom[column] = y(extremes.least);
    edges.last = column + 1;
  }
  edges.first = Math.max(0, edges.first);
}

/** Fills what a line covers, or all below its upper edge. */
function fillBand(context: CanvasRenderingContext2D, { first, last, top, bottom }: Edges, thickness: number, floor: number | null): void {
  const half = thickness / 2;
  context.beginPath();
  for (let column = first; column < last; column += 1) context.lineTo(column, (top[column] as number) - half);
  for (let column = last - 1; column >= first; column -= 1) context.lineTo(column, floor ?? (bottom[column] as number) + half);
  context.closePath();
  context.fill();
}

/** Begins a path along both edges of a line. */
function pathOfEdges(context: CanvasRenderingContext2D, { first, last, top, bottom }: Edges): void {
  context.beginPath();
  for (const edge of [top, bottom]) {
    for (let column = first; column < last; column += 1) {
      if (column === first) context.moveTo(column, edge[column] as number);
      else context.lineTo(column, edge[column] as number);
    }
  }
}

/** Begins a path along a line, step by step. Answers where it begins and ends. */
function trace(
  context: CanvasRenderingContext2D,
  { values }: LaneLine,
  { width, view, rate }: StripLook,
  y: (value: number) => number,
): readonly [from: number, to: number] {
  const perStep = width / ((view.to - view.from) * rate);
  const offset = view.from * rate;
  const first = Math.max(0, Math.floor(offset));
  const last = Math.min(values.length - 1, Math.ceil(offset + width / perStep));
  const x = (step: number): number => Math.max(0, Math.min(width, (step - offset) * perStep));
  context.beginPath();
  for (let step = first; step <= last; step += 1) {
    const value = values[step] as number;
    // A step in the middle of a level stretch changes nothing.
    if (step > first && step < last && values[step - 1] === value && values[step + 1] === value) continue;
    context.lineTo(x(step), y(value));
  }
  return [x(first), x(last)];
}

/** Pixels of the first line of a lane. */
const THICKNESS = 1.8;

/** Dashes of the lines of a lane: the first, then others beside it, told apart by dashes too. */
const DASHES: readonly (readonly number[])[] = [[], [7, 3], [2, 3], [9, 3, 2, 3], [4, 4], [1, 4]];

/** The dashes of a lane's line that lies beside others. */
export const laneDash = (index: number): readonly number[] => DASHES[index % DASHES.length] ?? [];

/** Whether two lanes look the same. */
const sameLane = (one: Lane, other: Lane): boolean =>
  one.colour === other.colour &&
  one.filled === other.filled &&
  one.low === other.low &&
  one.high === other.high &&
  sameList(one.lines, other.lines, (a, b) => a.dashed === b.dashed && (a.values === b.values || sameNumbers(a.values, b.values))) &&
  one.band === other.band &&
  sameList(one.wished ?? [], other.wished ?? [], (a, b) => a.from === b.from && a.to === b.to && a.at === b.at && a.text === b.text) &&
  sameList(one.bars, other.bars, (a, b) => a.from === b.from && a.to === b.to && a.text === b.text);

/** Draws the band of a lane as a tint, and what lies in the middle of it as a row of dots. */
function drawBand(
  context: CanvasRenderingContext2D,
  { tenth, median, ninetieth }: LaneBand,
  colour: string,
  { x, y }: { readonly x: (seconds: number) => number; readonly y: (value: number) => number },
): void {
  context.beginPath();
  ninetieth.forEach((value, second) => context.lineTo(x(second), y(value)));
  for (let second = tenth.length - 1; second >= 0; second -= 1) context.lineTo(x(second), y(tenth[second] as number));
  context.closePath();
  context.globalAlpha = 0.17;
  context.fillStyle = colour;
  context.fill();
  context.globalAlpha = 1;
  context.beginPath();
  median.forEach((value, second) => context.lineTo(x(second), y(value)));
  context.setLineDash([1, 3]);
  context.strokeStyle = colour;
  context.lineWidth = 1.2;
  context.stroke();
  context.setLineDash([]);
}

/** What is meant for one moment takes so many pixels before it. */
const MOMENT_WIDTH = 22;

/** Draws the range of a target: a tint where it is meant, a dashed line at each limit, and whom it speaks of. */
function drawTarget(
  context: CanvasRenderingContext2D,
  { from, to, at, text }: LaneTarget,
  { low, high, colour }: Lane,
  { x, y, width }: { readonly x: (seconds: number) => number; readonly y: (value: number) => number; readonly width: number },
): void {
  const right = at === null ? width : x(at);
  const left = at === null ? 0 : right - MOMENT_WIDTH;
  const [top, bottom] = [y(Math.min(to, high)), y(Math.max(from, low))];
  context.globalAlpha = 0.22;
  context.fillStyle = colour;
  context.fillRect(left, top, right - left, bottom - top);
  context.globalAlpha = 1;
  context.strokeStyle = colour;
  context.lineWidth = 1.2;
  context.setLineDash([3, 2]);
  for (const edge of [from, to].filter((one) => one >= low && one <= high)) {
    context.beginPath();
    context.moveTo(left, y(edge));
    context.lineTo(right, y(edge));
    context.stroke();
  }
  context.setLineDash([]);
  context.fillStyle = colour;
  context.font = TARGET_TEXT;
  context.textAlign = 'right';
  context.fillText(text, (at === null ? width : left) - 3, Math.max(8, Math.min(bottom, (top + bottom) / 2 + 3)));
  context.textAlign = 'left';
}

function drawLane(context: CanvasRenderingContext2D, lane: Lane, look: StripLook): void {
  const { width, view, rate, palette } = look;
  gridLines(context, lane.height, look);
  const inner = Math.max(4, lane.height - 10);
  const pad = (lane.height - inner) / 2;
  const y = (value: number): number => pad + inner - ((value - lane.low) / Math.max(1e-9, lane.high - lane.low)) * inner;
  const x = (seconds: number): number => ((seconds - view.from) / (view.to - view.from)) * width;
  const [main, ...others] = lane.lines;
  if (lane.band != null) drawBand(context, lane.band, lane.colour, { x, y });
  for (const target of lane.wished ?? []) drawTarget(context, target, lane, { x, y, width });
  const dense = ((view.to - view.from) * rate) / width > DENSE;
  const stroke = (line: LaneLine, colour: string, thickness: number): void => {
    if (dense) {
      traceEdges(otherEdges, line, look, y);
      pathOfEdges(context, otherEdges);
    } else trace(context, line, look, y);
    context.strokeStyle = colour;
    context.lineWidth = thickness;
    context.stroke();
  };
  if (main !== undefined && dense) traceEdges(mainEdges, main, look, y);
  if (lane.filled && main !== undefined) {
    const floor = lane.height;
    context.globalAlpha = 0.13;
    context.fillStyle = lane.colour;
    if (dense) fillBand(context, mainEdges, 0, floor);
    else {
      const [from, to] = trace(context, main, look, y);
      context.lineTo(to, floor);
      context.lineTo(from, floor);
      context.closePath();
      context.fill();
    }
    context.globalAlpha = 1;
  }
  others.forEach((line, index) => {
    context.setLineDash(line.dashed ? [4, 3] : [...laneDash(index + 1)]);
    stroke(line, line.dashed ? palette.soft : lane.colour, line.dashed ? 1 : 1.4);
    context.setLineDash([]);
  });
  if (main !== undefined && dense) {
    context.fillStyle = lane.colour;
    fillBand(context, mainEdges, THICKNESS, null);
  } else if (main !== undefined) stroke(main, lane.colour, THICKNESS);
  context.font = BAR_TEXT;
  // What several changes say at one time is not written over each other.
  let written = -Infinity;
  for (const { from, to, text } of lane.bars) {
    if (to < view.from || from > view.to) continue;
    const [left, right] = [Math.max(-2, x(from)), Math.min(width + 2, x(to))];
    const span = Math.max(2, right - left);
    context.globalAlpha = 0.14;
    context.fillStyle = lane.colour;
    context.fillRect(left, 3, span, lane.height - 6);
    context.globalAlpha = 1;
    context.strokeStyle = lane.colour;
    context.lineWidth = 1.2;
    context.strokeRect(left, 3, span, lane.height - 6);
    context.fillStyle = palette.ink;
    if (span <= 40 || left < written) continue;
    context.fillText(text, left + 4, lane.height / 2 + 3.5, span - 8);
    written = left + Math.min(span, TEXT_ROOM);
  }
  context.strokeStyle = palette.line;
  context.lineWidth = 1;
  context.strokeRect(-1, lane.height - 0.5, width + 2, 0);
}

/** Draws the lines of the time axis. */
export function gridLines(
  context: CanvasRenderingContext2D,
  height: number,
  { width, view, palette }: Pick<StripLook, 'width' | 'view' | 'palette'>,
): void {
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

export const LANE_DRAWING: BandDrawing<Lane, StripLook> = { same: sameLane, draw: drawLane };
