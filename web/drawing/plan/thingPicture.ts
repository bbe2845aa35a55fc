import { extentOf, type Kind, type Shape } from '@dial/core/level';
import { MARK_SHAPES } from '../marks.ts';
import { tiled, type Palette } from '../palette.ts';
import { ROLE_PATTERNS } from '../roles.ts';

/** What of a thing is seen: things that look alike share one picture. */
export interface ThingLook {
  readonly kind: Pick<Kind, 'shapes' | 'solid' | 'role' | 'mark'>;
  /** Whether its solid box stops players now. */
  readonly stops: boolean;
  /** How strongly its shapes and mark are drawn, and its solid box. 0 to 1. */
  readonly strength: number;
  readonly boxStrength: number;
  /** Pixels a unit. */
  readonly size: number;
}

/** Half the width of everything a kind's shapes and solid box cover. Units. */
export function reachOf(kind: ThingLook['kind']): number {
  const solid = kind.solid === null ? 0 : Math.max(kind.solid.width, kind.solid.height) / 2;
  const shapes = Object.values(kind.shapes).map((shape) => extentOf(shape).most + Math.max(Math.abs(shape.x), Math.abs(shape.y)));
  return Math.max(0.2, solid, ...shapes);
}

/** How far anything of a kind is from its middle, however it is turned. Units. */
function radiusOf({ shapes, solid }: ThingLook['kind']): number {
  const far = (width: number, height: number): number => Math.hypot(width, height) / 2;
  return Math.max(
    solid === null ? 0 : Math.hypot(solid.x, solid.y) + far(solid.width, solid.height),
    ...Object.values(shapes).map(
      (shape) => Math.hypot(shape.x, shape.y) + (shape.type === 'box' ? far(shape.width, shape.height) : extentOf(shape).most),
    ),
  );
}

/** The disc its mark lies on. Pixels. */
function markRadius({ kind, size }: ThingLook): number {
  const smallest = Math.min(reachOf(kind), ...Object.values(kind.shapes).map((shape) => extentOf(shape).least));
  return Math.max(4.5, Math.min(8.5, smallest * size * 0.72));
}

/** Puts a shape in the path, with its own corner or centre at nought, where its pattern begins. */
function placeShape(context: CanvasRenderingContext2D, shape: Shape, size: number): void {
  context.translate(shape.x * size, -shape.y * size);
  context.beginPath();
  if (shape.type === 'circle') {
    context.arc(0, 0, shape.radius * size, 0, 2 * Math.PI);
    return;
  }
  context.rotate((-shape.rotation * Math.PI) / 180);
  if (shape.type === 'polygon') {
    for (const [x, y] of shape.points) context.lineTo(x * size, -y * size);
    context.closePath();
    return;
  }
  const [width, height] = [shape.width * size, shape.height * size];
  context.translate(-width / 2, -height / 2);
  context.rect(0, 0, width, height);
}

/** Puts a thing's solid box in the path. */
function placeBox(context: CanvasRenderingContext2D, { width, height, x, y }: NonNullable<Kind['solid']>, size: number): void {
  context.beginPath();
  context.rect((x - width / 2) * size, -(y + height / 2) * size, width * size, height * size);
}

/** A thing round nought: its box (a strong edge while it stops players, else a dashed one), its shapes with the pattern of its role, its mark. */
function drawThing(context: CanvasRenderingContext2D, look: ThingLook, palette: Palette): void {
  const { kind, size } = look;
  if (kind.solid !== null) {
    context.save();
    context.globalAlpha = look.boxStrength;
    context.strokeStyle = palette.ink;
    context.lineWidth = look.stops ? 2.6 : 1;
    if (!look.stops) context.setLineDash([3, 3]);
    placeBox(context, kind.solid, size);
    context.stroke();
    context.restore();
  }
  context.globalAlpha = look.strength;
  // The smaller lie upon the larger: a rule may be tied to either.
  for (const shape of Object.values(kind.shapes).sort((one, other) => extentOf(other).most - extentOf(one).most)) {
    context.save();
    placeShape(context, shape, size);
    context.fillStyle = tiled(context, palette.tile[kind.role], ROLE_PATTERNS[kind.role].turned);
    context.fill();
    context.strokeStyle = palette.role[kind.role];
    context.lineWidth = 1.4;
    if (kind.role === 'lethal') context.setLineDash([5, 3]);
    context.stroke();
    context.restore();
  }
  const mark = MARK_SHAPES[kind.mark];
  const radius = markRadius(look);
  const grow = (radius * 1.25) / 24;
  context.save();
  context.fillStyle = palette.card;
  context.beginPath();
  context.arc(0, 0, radius, 0, 2 * Math.PI);
  context.fill();
  context.scale(grow, grow);
  context.translate(-12, -12);
  context.fillStyle = context.strokeStyle = palette.ink;
  context.lineWidth = mark.filled ? 1 : 3.4;
  context.lineCap = context.lineJoin = 'round';
  const path = new Path2D(mark.path);
  if (mark.filled) context.fill(path);
  context.stroke(path);
  context.restore();
  context.globalAlpha = 1;
}

/** Puts all of a thing that can be pressed into paths, one after the other. */
export function tracePressed(context: CanvasRenderingContext2D, look: ThingLook, fill: () => void): void {
  const { kind, size } = look;
  for (const shape of Object.values(kind.shapes)) {
    context.save();
    placeShape(context, shape, size);
    fill();
    context.restore();
  }
  if (kind.solid !== null) {
    placeBox(context, kind.solid, size);
    fill();
  }
  context.beginPath();
  context.arc(0, 0, markRadius(look), 0, 2 * Math.PI);
  fill();
}

/** Room for the outer half of a stroke. Pixels. */
const EDGE = 3;

/** Larger things are drawn each time: few are, and their pictures would take much memory. Pixels. */
const LARGEST_PICTURE = 256;
/** With more, as when one zooms, all are made anew. */
const MOST_PICTURES = 128;

const pictures = new WeakMap<Palette, Map<string, HTMLCanvasElement>>();

function pictureOf(look: ThingLook, half: number, ratio: number, palette: Palette): HTMLCanvasElement {
  const known = pictures.get(palette) ?? new Map<string, HTMLCanvasElement>();
  pictures.set(palette, known);
  const { shapes, solid, role, mark } = look.kind;
  const key = JSON.stringify([shapes, solid, role, mark, look.stops, look.strength, look.boxStrength, look.size, ratio]);
  const found = known.get(key);
  if (found !== undefined) return found;
  if (known.size >= MOST_PICTURES) known.clear();
  const picture = document.createElement('canvas');
  picture.width = picture.height = Math.round(2 * half * ratio);
  const context = picture.getContext('2d');
  context?.scale(ratio, ratio);
  context?.translate(half, half);
  if (context !== null) drawThing(context, look, palette);
  known.set(key, picture);
  return picture;
}

/** Draws a thing round nought, from a picture of those that look alike. `ratio` is pixels of the surface to a pixel of the page. */
export function showThing(context: CanvasRenderingContext2D, look: ThingLook, ratio: number, palette: Palette): void {
  const half = Math.ceil(Math.max(radiusOf(look.kind) * look.size, markRadius(look)) + EDGE);
  if (2 * half * ratio > LARGEST_PICTURE) drawThing(context, look, palette);
  else context.drawImage(pictureOf(look, half, ratio, palette), -half, -half, 2 * half, 2 * half);
}
