import type { Role } from '@dial/core/level';
import { sameList, type BandDrawing } from '../drawing/lanes/bands.ts';
import { gridLines, type StripLook, type TimeView } from '../drawing/lanes/laneDrawing.ts';
import { tiled, type Palette } from '../drawing/palette.ts';
import { ROLE_PATTERNS } from '../drawing/roles.ts';
import type { StripRow } from './rows.ts';

export const ROW_HEIGHT = 17;

function hatch(context: CanvasRenderingContext2D, x: number, y: number, width: number, height: number, palette: Palette): void {
  context.fillStyle = tiled(context, palette.hatch, 0);
  context.fillRect(x, y, width, height);
  context.strokeStyle = palette.line;
  context.lineWidth = 1;
  context.strokeRect(x + 0.5, y + 0.5, width - 1, height - 1);
}

function drawCrosses(
  context: CanvasRenderingContext2D,
  centres: readonly number[],
  middle: number,
  arm: number,
  colour: string,
  paper: string,
): void {
  context.beginPath();
  for (const centre of centres) {
    context.moveTo(centre - arm, middle - arm);
    context.lineTo(centre + arm, middle + arm);
    context.moveTo(centre + arm, middle - arm);
    context.lineTo(centre - arm, middle + arm);
  }
  // On a line of paper, so that it is seen over any bar.
  for (const [width, stroke] of [
    [4, paper],
    [2, colour],
  ] as const) {
    context.lineWidth = width;
    context.strokeStyle = stroke;
    context.stroke();
  }
}

/** Where stretches of time lie, in pixels; those so near each other that no gap would be seen are one. A pattern drawn over an hour, or a thousand times, would be dear. */
function spansInView(
  stretches: readonly TimeView[],
  view: TimeView,
  width: number,
  least: number,
): readonly { readonly left: number; readonly span: number }[] {
  const clipped = (at: number): number => Math.max(-4, Math.min(width + 4, ((at - view.from) / (view.to - view.from)) * width));
  const spans: { left: number; span: number }[] = [];
  for (const { from, to } of stretches) {
    if (to < view.from || from > view.to) continue;
    const left = clipped(from);
    const right = Math.max(left + least, clipped(to));
    const last = spans.at(-1);
    if (last !== undefined && left >= last.left && left - (last.left + last.span) < 1) last.span = Math.max(last.span, right - last.left);
    else spans.push({ left, span: right - left });
  }
  return spans;
}

/** Pixels of moments in view, none so near another that their crosses would be one blot. */
function momentsInView(moments: readonly number[], view: TimeView, width: number, apart: number): number[] {
  const shown: number[] = [];
  for (const at of moments) {
    const x = ((at - view.from) / (view.to - view.from)) * width;
    if (x < 0 || x > width) continue;
    const last = shown.at(-1);
    if (last === undefined || Math.abs(x - last) >= apart) shown.push(x);
  }
  return shown;
}

/** Pixels: a bar is never less wide, and one no wider than the second is plain: between its edges no pattern would be seen. */
const LEAST_BAR = 3;
const NARROW_BAR = 4;
const EDGE = 1.2;

/** A row as it is drawn. */
export interface DrawnRow {
  readonly row: StripRow;
  readonly role: Role;
  readonly selected: boolean;
  /** Of a hundred of the crowd beside the run, how many are there, second by second; null: there is none. */
  readonly crowd: Float32Array | null;
  readonly height: number;
}

const sameStretch = (one: TimeView, other: TimeView): boolean => one.from === other.from && one.to === other.to;

const sameRow = (one: DrawnRow, other: DrawnRow): boolean =>
  one.selected === other.selected &&
  one.role === other.role &&
  one.crowd === other.crowd &&
  sameList(one.row.inside, other.row.inside, sameStretch) &&
  sameList(one.row.resting, other.row.resting, sameStretch) &&
  sameList(one.row.drawn, other.row.drawn, sameStretch) &&
  sameList(one.row.refusals, other.row.refusals, (a, b) => a.at === b.at && a.ofPlayer === b.ofPlayer);

/** How many of the crowd are there, as a thin line: at the top of the row are all of them. */
function drawCrowd(context: CanvasRenderingContext2D, crowd: Float32Array, { width, view, palette }: StripLook): void {
  const x = (seconds: number): number => ((seconds - view.from) / (view.to - view.from)) * width;
  const y = (share: number): number => ROW_HEIGHT - 2 - (share / 100) * (ROW_HEIGHT - 4);
  context.beginPath();
  for (let second = Math.max(0, Math.floor(view.from) - 1); second < crowd.length && second <= view.to + 1; second += 1)
    context.lineTo(x(second + 0.5), y(crowd[second] ?? 0));
  context.strokeStyle = palette.soft;
  context.lineWidth = 1;
  context.stroke();
}

function drawRow(context: CanvasRenderingContext2D, { row, role, selected, crowd }: DrawnRow, look: StripLook): void {
  const { width, view, palette } = look;
  gridLines(context, ROW_HEIGHT, look);
  if (selected) {
    context.globalAlpha = 0.1;
    context.fillStyle = palette.needle;
    context.fillRect(0, 0, width, ROW_HEIGHT);
    context.globalAlpha = 1;
  }
  for (const { left, span } of spansInView(row.resting, view, width, 2)) {
    hatch(context, left, 4, span, ROW_HEIGHT - 8, palette);
  }
  context.fillStyle = palette.role[role];
  for (const { left, span } of spansInView(row.drawn, view, width, 2)) context.fillRect(left, ROW_HEIGHT / 2 - 1, span, 2);
  const pattern = tiled(context, palette.tile[role], ROLE_PATTERNS[role].turned);
  context.strokeStyle = palette.role[role];
  context.lineWidth = EDGE;
  for (const { left, span } of spansInView(row.inside, view, width, LEAST_BAR)) {
    const patterned = span > NARROW_BAR;
    context.fillStyle = patterned ? pattern : palette.role[role];
    context.fillRect(left, 3, span, ROW_HEIGHT - 6);
    if (patterned) context.strokeRect(left, 3, span, ROW_HEIGHT - 6);
  }
  if (crowd !== null) drawCrowd(context, crowd, look);
  // Movers are refused all day long; what players were refused must not drown in that.
  for (const ofPlayer of [false, true]) {
    const moments = row.refusals.filter((refusal) => refusal.ofPlayer === ofPlayer).map(({ at }) => at);
    const arm = ofPlayer ? 3.5 : 2;
    const colour = ofPlayer ? palette.ink : palette.soft;
    drawCrosses(context, momentsInView(moments, view, width, arm), ROW_HEIGHT / 2, arm, colour, palette.card);
  }
  context.strokeStyle = palette.line;
  context.lineWidth = 0.7;
  context.strokeRect(-1, ROW_HEIGHT - 0.5, width + 2, 0);
}

export const ROW_DRAWING: BandDrawing<DrawnRow, StripLook> = { same: sameRow, draw: drawRow };
