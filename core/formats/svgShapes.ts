import { reasonOf } from '../level/index.ts';
import { XMLParser } from 'fast-xml-parser';
import svgpath from 'svgpath';
import type { Corner } from './outline.ts';

/** Files larger than this are refused, in characters. */
const MOST_TEXT = 5_000_000;
const MOST_SHAPES = 5000;
/** Pieces a curve or a circle is made of. */
const PIECES = 12;

/** A closed outline of an SVG file, in its pixels, y down. */
export interface SvgShape {
  /** What says of which kind it is: its id, its class or that of its group, or the layer it is in. */
  readonly names: { readonly id: string; readonly class: string; readonly layer: string };
  readonly corners: readonly Corner[];
  /** It is round: its middle and radius. */
  readonly circle: { readonly x: number; readonly y: number; readonly radius: number } | null;
}

export interface SvgReading {
  readonly ok: true;
  readonly shapes: readonly SvgShape[];
  /** What was left out, and why. */
  readonly refused: readonly string[];
}

type Attributes = Readonly<Record<string, unknown>>;
type Node = Readonly<Record<string, unknown>>;

const number = (attributes: Attributes, name: string, otherwise = 0): number => {
  const read = Number.parseFloat(typeof attributes[name] === 'string' ? attributes[name] : '');
  return Number.isFinite(read) ? read : otherwise;
};
const text = (attributes: Attributes, name: string): string => (typeof attributes[name] === 'string' ? attributes[name].trim() : '');

/** The outline of an element as path data; null when it is no shape. */
function pathOf(tag: string, attributes: Attributes): string | null {
  const of = (name: string): number => number(attributes, name);
  switch (tag) {
    case 'rect': {
      const [x, y, width, height] = [of('x'), of('y'), of('width'), of('height')];
      return width > 0 && height > 0 ? `M${String(x)} ${String(y)}h${String(width)}v${String(height)}h${String(-width)}z` : null;
    }
    case 'circle':
    case 'ellipse': {
      const [rx, ry] = tag === 'circle' ? [of('r'), of('r')] : [of('rx'), of('ry')];
      if (!(rx > 0 && ry > 0)) return null;
      const arc = (way: number): string => `a${String(rx)} ${String(ry)} 0 1 0 ${String(way * 2 * rx)} 0`;
      return `M${String(of('cx') - rx)} ${String(of('cy'))}${arc(1)}${arc(-1)}z`;
    }
    case 'polygon':
    case 'polyline':
      return /\d/.test(text(attributes, 'points')) ? `M${text(attributes, 'points')}z` : null;
    case 'path':
      return text(attributes, 'd') === '' ? null : text(attributes, 'd');
    default:
      return null;
  }
}

/** The corners of a path, its curves in straight pieces. */
function cornersOf(path: string, transforms: readonly string[]): Corner[] {
  let drawn = svgpath(path).abs().unarc().unshort();
  for (const transform of transforms) drawn = drawn.transform(transform);
  const corners: Corner[] = [];
  drawn.iterate((segment, _, x, y) => {
    const [command, ...numbers] = segment;
    const at = (index: number): number => numbers[index] ?? 0;
    if (command === 'M' || command === 'L') corners.push([at(0), at(1)]);
    else if (command === 'H') corners.push([at(0), y]);
    else if (command === 'V') corners.push([x, at(0)]);
    else if (command === 'C' || command === 'Q') {
      for (let piece = 1; piece <= PIECES; piece++) {
        const t = piece / PIECES;
        const u = 1 - t;
        const along = (from: number, axis: number): number =>
          command === 'Q'
            ? u * u * from + 2 * u * t * at(axis) + t * t * at(2 + axis)
            : u * u * u * from + 3 * u * u * t * at(axis) + 3 * u * t * t * at(2 + axis) + t * t * t * at(4 + axis);
        corners.push([along(x, 0), along(y, 1)]);
      }
    }
  });
  return corners.filter((corner) => corner.every(Number.isFinite));
}

/** The middle and radius of a circle or ellipse that is round still when it has been transformed. */
function circleOf(tag: string, corners: readonly Corner[]): SvgShape['circle'] {
  if (tag !== 'circle' && tag !== 'ellipse') return null;
  const [xs, ys] = [corners.map(([x]) => x), corners.map(([, y]) => y)];
  const [left, right, top, bottom] = [Math.min(...xs), Math.max(...xs), Math.min(...ys), Math.max(...ys)];
  const [x, y] = [(left + right) / 2, (top + bottom) / 2];
  const radii = corners.map((corner) => Math.sqrt((corner[0] - x) * (corner[0] - x) + (corner[1] - y) * (corner[1] - y)));
  const [least, most] = [Math.min(...radii), Math.max(...radii)];
  // Its extent is exact; between its quarters a curve only comes near a circle.
  return most - least < 0.02 * most ? { x, y, radius: (right - left) / 2 } : null;
}

/** What the groups about an element say of it. */
interface Around {
  /** From the innermost out. */
  readonly transforms: readonly string[];
  readonly class: string;
  readonly layer: string;
}

/** What is in these is not drawn where it stands. */
const UNSEEN = new Set(['defs', 'clipPath', 'mask', 'symbol', 'pattern', 'marker']);

const parser = new XMLParser({
  preserveOrder: true,
  ignoreAttributes: false,
  attributeNamePrefix: '',
  // The name a drawing program gives a layer may have any prefix.
  transformAttributeName: (name) => name.replace(/^[a-z]+:label$/, 'label'),
  parseAttributeValue: false,
  // Entities can be made to grow without bound; a drawing of shapes needs none.
  processEntities: false,
});

/**
 * The shapes of an SVG file: rect, circle, ellipse, polygon, closed polyline and path, with their transforms. Scripts,
 * styles, text, images and links are never looked at.
 */
export function readSvg(source: string): SvgReading | { readonly ok: false; readonly why: string } {
  if (source.length > MOST_TEXT) return { ok: false, why: 'the file is larger than 5 million characters' };
  let nodes: Node[];
  try {
    nodes = parser.parse(source) as Node[];
  } catch (error) {
    return { ok: false, why: `it is not XML: ${reasonOf(error)}` };
  }
  const shapes: SvgShape[] = [];
  const refused: string[] = [];
  const visit = (node: Node, around: Around): void => {
    const tag = Object.keys(node).find((name) => name !== ':@') ?? '';
    if (UNSEEN.has(tag)) return;
    const attributes = (node[':@'] ?? {}) as Attributes;
    const transform = text(attributes, 'transform');
    const transforms = transform === '' ? around.transforms : [transform, ...around.transforms];
    const cssClass = text(attributes, 'class').split(/\s+/)[0] || around.class;
    if (tag === 'svg' || tag === 'g' || tag === 'a') {
      const layer = tag === 'g' ? text(attributes, 'label') || text(attributes, 'id') || around.layer : around.layer;
      const shifted = tag === 'svg' ? [...origin(attributes), ...transforms] : transforms;
      const inner = Array.isArray(node[tag]) ? (node[tag] as Node[]) : [];
      for (const one of inner) visit(one, { transforms: shifted, class: cssClass, layer });
      return;
    }
    const path = pathOf(tag, attributes);
    if (path === null) return;
    if (shapes.length >= MOST_SHAPES) {
      if (shapes.length === MOST_SHAPES) refused.push(`more than ${String(MOST_SHAPES)} shapes; the rest was left out`);
      return;
    }
    const corners = cornersOf(path, transforms);
    const id = text(attributes, 'id');
    if (corners.length < 3) {
      refused.push(`${tag}${id === '' ? '' : ` “${id}”`} has no outline`);
      return;
    }
    const names = { id, class: cssClass, layer: around.layer };
    shapes.push({ names, corners, circle: circleOf(tag, corners) });
  };
  for (const node of nodes) visit(node, { transforms: [], class: '', layer: '' });
  if (!nodes.some((node) => 'svg' in node)) return { ok: false, why: 'there is no <svg> in it' };
  return { ok: true, shapes, refused: [...new Set(refused)] };
}

/** What brings the corner of a view box to nought. */
function origin(attributes: Attributes): string[] {
  const [left = 0, top = 0] = text(attributes, 'viewBox')
    .split(/[\s,]+/)
    .map(Number);
  return left === 0 && top === 0 ? [] : [`translate(${String(-left)} ${String(-top)})`];
}
