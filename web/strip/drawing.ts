import { kindOf, type Level, type Role } from '@dial/core/level';
import { gridLines, type TimeView } from '../ui/laneDrawing.ts';
import { TILE_SCALE, type Palette } from '../ui/palette.ts';
import { ROLE_PATTERNS } from '../ui/roles.ts';
import type { StripRow } from './rows.ts';

export const ROW_HEIGHT = 17;

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
