import {
  BOX,
  contact,
  contactDirection,
  DiscMotion,
  grown,
  Motion,
  POLYGON,
  sweepCircle,
  sweepShapes,
  type ShapeTable,
  Span,
  type Track,
} from '../../geometry/index.ts';
import { ENDING } from '../compile/codes.ts';
import type { Narrow, Session, Stretches, Turning } from '../state/running.ts';
import { readTurn, trackOf, turnDegrees } from '../state/things.ts';

/** Shares of a step closer than this are one moment: rounding must not end a contact and begin it anew. */
export const SAME_SHARE = 1e-9;

/** Room at first for separate stretches of one step during which a pair touches; and the most there can be: with more the session ends. */
const FIRST_STRETCHES = 16;
const MOST_STRETCHES = 4096;

export const createNarrow = (): Narrow => ({
  stretches: {
    count: 0,
    from: new Float64Array(FIRST_STRETCHES),
    to: new Float64Array(FIRST_STRETCHES),
    normalX: new Float64Array(FIRST_STRETCHES),
    normalY: new Float64Array(FIRST_STRETCHES),
  },
  stretch: { from: 0, to: 0, normalX: 0, normalY: 0 },
  piece: new Motion(),
  between: { from: 0, to: 0 },
  span: new Span(),
  reach: new DiscMotion(),
});

/** Moves the stretches from one place on to another. */
function moveStretches(stretches: Stretches, from: number, to: number): void {
  if (from === stretches.count) return;
  stretches.from.copyWithin(to, from, stretches.count);
  stretches.to.copyWithin(to, from, stretches.count);
  stretches.normalX.copyWithin(to, from, stretches.count);
  stretches.normalY.copyWithin(to, from, stretches.count);
}

/** Whether there may be more of something than so many. Where that would be too many, the session ends with this step. */
export function mayGrow({ scratch }: Session, count: number, most: number): boolean {
  if (count >= most) scratch.overfull = ENDING.contacts;
  return count < most;
}

/** Makes room for twice as many stretches. */
function makeRoom({ scratch }: Session): void {
  const { stretches } = scratch.narrow;
  stretches.from = grown(stretches.from);
  stretches.to = grown(stretches.to);
  stretches.normalX = grown(stretches.normalX);
  stretches.normalY = grown(stretches.normalY);
}

/** Adds `stretch`, joined to those it meets. */
function addStretch(session: Session): void {
  const { stretches, stretch } = session.scratch.narrow;
  const { count } = stretches;
  const { from, to, normalX, normalY } = stretch;
  let index = 0;
  while (index < count && (stretches.to[index] as number) < from - SAME_SHARE) index += 1;
  if (index === count || (stretches.from[index] as number) > to + SAME_SHARE) {
    if (!mayGrow(session, count, MOST_STRETCHES)) return;
    if (count === stretches.from.length) makeRoom(session);
    moveStretches(stretches, index, index + 1);
    stretches.from[index] = from;
    stretches.to[index] = to;
    stretches.normalX[index] = normalX;
    stretches.normalY[index] = normalY;
    stretches.count += 1;
    return;
  }
  if (from < (stretches.from[index] as number)) {
    stretches.from[index] = from;
    stretches.normalX[index] = normalX;
    stretches.normalY[index] = normalY;
  }
  let end = Math.max(stretches.to[index] as number, to);
  let next = index + 1;
  while (next < count && (stretches.from[next] as number) <= end + SAME_SHARE) {
    end = Math.max(end, stretches.to[next] as number);
    next += 1;
  }
  stretches.to[index] = end;
  if (next > index + 1) moveStretches(stretches, next, index + 1);
  stretches.count -= next - index - 1;
}

/** Notes the span of one piece, and the direction at its first moment, unless they overlapped there when the step began. */
function readSpan({ between, stretch, piece, span }: Narrow, table: ShapeTable, i: number, j: number): void {
  const length = between.to - between.from;
  stretch.from = between.from + length * span.enter;
  stretch.to = between.from + length * span.leave;
  if (stretch.from > 0) contactDirection(table, i, j, piece, span);
  stretch.normalX = contact.x;
  stretch.normalY = contact.y;
}

/** Puts shape `from` of the table into row `to` of the scratch table, turned about a pivot. */
function turnShape(table: ShapeTable, from: number, turned: ShapeTable, to: number, turning: Turning): void {
  const { cos, sin } = turning;
  const x = (table.x[from] as number) - turning.x;
  const y = (table.y[from] as number) - turning.y;
  turned.type[to] = table.type[from] === BOX ? POLYGON : (table.type[from] as number);
  turned.a[to] = table.a[from] as number;
  turned.x[to] = turning.x + x * cos - y * sin;
  turned.y[to] = turning.y + x * sin + y * cos;
  turned.reach[to] = table.reach[from] as number;
  const first = table.cornerStart[from] as number;
  const count = (table.cornerStart[from + 1] as number) - first;
  const begin = to * 16;
  // Rows of sixteen corners, of which the last begins where the first row ends.
  turned.cornerStart[to] = to === 0 ? 16 - count : 16;
  turned.cornerStart[to + 1] = turned.cornerStart[to] + count;
  for (let corner = 0; corner < count; corner += 1) {
    const cx = table.cornerX[first + corner] as number;
    const cy = table.cornerY[first + corner] as number;
    const at = (to === 0 ? 16 - count : begin) + corner;
    turned.cornerX[at] = cx * cos - cy * sin;
    turned.cornerY[at] = cx * sin + cy * cos;
  }
}

const UNTURNED: Turning = { x: 0, y: 0, cos: 1, sin: 0 };

/** Largest turn within which a thing counts as not turning. Degrees. */
const SMALL_TURN = 2;

/** A piece of motion against a thing that turns: cut fine, with the thing as it stands in the middle of each cut. */
function sweepTurning(session: Session, placement: number, shape: number, own: number): void {
  const { scratch, compiled } = session;
  const { narrow } = scratch;
  const { piece, between, stretch, span } = narrow;
  const { x, y, dx, dy } = piece;
  const { from, to } = between;
  const turned = Math.abs(turnDegrees(session, placement, to) - turnDegrees(session, placement, from));
  const cuts = Math.min(64, Math.max(1, Math.ceil(turned / SMALL_TURN)));
  for (let cut = 0; cut < cuts; cut += 1) {
    const turning = readTurn(session, placement, from + ((to - from) * (cut + 0.5)) / cuts);
    const { cos, sin } = turning;
    turnShape(compiled.shapes, shape, scratch.turned, 1, turning);
    turnShape(compiled.shapes, own, scratch.turned, 0, UNTURNED);
    between.from = from + ((to - from) * cut) / cuts;
    between.to = from + ((to - from) * (cut + 1)) / cuts;
    piece.x = x + (dx * cut) / cuts;
    piece.y = y + (dy * cut) / cuts;
    piece.dx = dx / cuts;
    piece.dy = dy / cuts;
    if (!sweepShapes(scratch.turned, 0, 1, piece, span)) continue;
    readSpan(narrow, scratch.turned, 0, 1);
    // The face touched is meant in the thing's own frame.
    stretch.normalX = contact.x * cos + contact.y * sin;
    stretch.normalY = contact.y * cos - contact.x * sin;
    addStretch(session);
  }
  Object.assign(piece, { x, y, dx, dy });
  Object.assign(between, { from, to });
}

/** One piece of motion of a toucher against all shapes of a thing, or the one of a zone. */
function sweepPiece(session: Session, toucher: number, placement: number, zone: number, pulled: boolean): void {
  const { compiled, state, scratch } = session;
  const { narrow } = scratch;
  const { piece, between, stretch, span, reach } = narrow;
  const { forms, shapes } = compiled;
  const form = state.form[placement] as number;
  const takenAt = pulled ? (compiled.magnets.takenAt[form] as number) : -1;
  if (takenAt >= 0) {
    reach.x = piece.x;
    reach.y = piece.y;
    reach.dx = piece.dx;
    reach.dy = piece.dy;
    reach.radius = takenAt;
    if (sweepCircle(reach, span)) {
      const length = between.to - between.from;
      stretch.from = between.from + length * span.enter;
      stretch.to = between.from + length * span.leave;
      stretch.normalX = 0;
      stretch.normalY = 1;
      addStretch(session);
    }
    return;
  }
  const isPlayer = toucher < compiled.playerCount;
  const ownForm = isPlayer ? -1 : (state.form[compiled.travellers.placement[toucher - compiled.playerCount] as number] as number);
  const ownStart = isPlayer ? 0 : (forms.shapeStart[ownForm] as number);
  const ownEnd = isPlayer ? 1 : (forms.shapeStart[ownForm + 1] as number);
  piece.grow = forms.grow[form] as number;
  const turns = forms.turns[form] === 1 && turnDegrees(session, placement, 1) !== 0;
  const start = forms.shapeStart[form] as number;
  const shapeEnd = zone > 0 ? start + zone : (forms.shapeStart[form + 1] as number);
  for (let shape = zone > 0 ? start + zone - 1 : start; shape < shapeEnd; shape += 1) {
    for (let own = ownStart; own < ownEnd; own += 1) {
      if (turns) sweepTurning(session, placement, shape, own);
      else if (sweepShapes(shapes, own, shape, piece, span)) {
        readSpan(narrow, shapes, own, shape);
        addStretch(session);
      }
    }
  }
}

/** The stretches of this step during which toucher and placement, or a zone of it, touch: one object for all pairs of a session. */
export function sweepPair(session: Session, toucher: number, placement: number, zone: number): Stretches {
  const { compiled, state, scratch } = session;
  const { stretches, piece, between } = scratch.narrow;
  stretches.count = 0;
  const isPlayer = toucher < compiled.playerCount;
  const way = isPlayer ? (scratch.tracks[toucher] as Track) : trackOf(session, toucher - compiled.playerCount);
  const traveller = compiled.placements.traveller[placement] as number;
  const other = traveller < 0 ? null : trackOf(session, traveller);
  const stillX = compiled.placements.x[placement] as number;
  const stillY = compiled.placements.y[placement] as number;
  const pulled = traveller >= 0 && isPlayer && state.drawnBy[traveller] === toucher;
  if (other === null && way.count === 2) {
    // Straight past a thing that stays: what the pieces below come to.
    const wayX = way.x[0] as number;
    const wayY = way.y[0] as number;
    between.from = 0;
    between.to = 1;
    piece.x = wayX - stillX;
    piece.y = wayY - stillY;
    piece.dx = wayX + ((way.x[1] as number) - wayX) - stillX - piece.x;
    piece.dy = wayY + ((way.y[1] as number) - wayY) - stillY - piece.y;
    sweepPiece(session, toucher, placement, zone, pulled);
    return stretches;
  }

  let i = 0;
  let j = 0;
  let from = 0;
  while (i < way.count - 1 && (other === null || j < other.count - 1)) {
    const wayFrom = way.at[i] as number;
    const wayTo = way.at[i + 1] as number;
    const otherFrom = other === null ? 0 : (other.at[j] as number);
    const otherTo = other === null ? 1 : (other.at[j + 1] as number);
    const to = Math.min(wayTo, otherTo);
    if (to > from) {
      // Both ends of this piece, for toucher and thing.
      const wayStart = (from - wayFrom) / (wayTo - wayFrom);
      const wayEnd = (to - wayFrom) / (wayTo - wayFrom);
      const wayX = way.x[i] as number;
      const wayY = way.y[i] as number;
      const spanX = (way.x[i + 1] as number) - wayX;
      const spanY = (way.y[i + 1] as number) - wayY;
      let startX = wayX + spanX * wayStart;
      let startY = wayY + spanY * wayStart;
      let endX = wayX + spanX * wayEnd;
      let endY = wayY + spanY * wayEnd;
      if (other === null) {
        startX -= stillX;
        startY -= stillY;
        endX -= stillX;
        endY -= stillY;
      } else {
        const otherStart = (from - otherFrom) / (otherTo - otherFrom);
        const otherEnd = (to - otherFrom) / (otherTo - otherFrom);
        const otherX = other.x[j] as number;
        const otherY = other.y[j] as number;
        const otherSpanX = (other.x[j + 1] as number) - otherX;
        const otherSpanY = (other.y[j + 1] as number) - otherY;
        startX -= otherX + otherSpanX * otherStart;
        startY -= otherY + otherSpanY * otherStart;
        endX -= otherX + otherSpanX * otherEnd;
        endY -= otherY + otherSpanY * otherEnd;
      }
      between.from = from;
      between.to = to;
      piece.x = startX;
      piece.y = startY;
      piece.dx = endX - startX;
      piece.dy = endY - startY;
      sweepPiece(session, toucher, placement, zone, pulled);
      from = to;
    }
    if (wayTo <= to) i += 1;
    if (other !== null && otherTo <= to) j += 1;
  }
  return stretches;
}
