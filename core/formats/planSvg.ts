import { inOrder, kindOfPlacement, ROLES, type Level, type Role, type Shape } from '../level/index.ts';
import { placementName } from './words.ts';
import { escaped } from './xml.ts';

/** A role's colour and, on a tile of 8 by 8 pixels, its pattern: for drawings that stand by themselves. */
const LOOKS: Readonly<Record<Role, readonly [colour: string, pattern: string, turned: number]>> = {
  mend: ['#1f8a70', '<circle cx="2" cy="2" r="1" fill="#1f8a70"/><circle cx="6" cy="6" r="1" fill="#1f8a70"/>', 0],
  harm: ['#a61e2b', '<path d="M0 0H2V8H0Z" fill="#a61e2b"/>', 45],
  lethal: ['#2a1a1f', '<path d="M0 0H8M0 0V8" stroke="#2a1a1f" stroke-width="1.6"/>', 45],
  score: ['#b97a0a', '<circle cx="4" cy="4" r="2.2" fill="none" stroke="#b97a0a"/>', 0],
  carry: ['#6b4aa5', '<path d="M0 4H8M4 0V8" stroke="#6b4aa5" stroke-width=".9"/>', 0],
  movement: ['#1c6db5', '<path d="M1 1L5 4L1 7" fill="none" stroke="#1c6db5" stroke-width="1.3"/>', 0],
  return: ['#56666d', '<path d="M0 8A4 4 0 0 1 8 8" fill="none" stroke="#56666d"/>', 0],
};

const PAPER = '#f7f4ec';
const INK = '#1d2b33';
/** Pixels of the drawing for one unit. */
const SCALE = 32;

const fixed = (value: number): string => String(Number((value * SCALE).toFixed(2)));

/** A shape about a place; y points down in a drawing. */
function shapeText(shape: Shape, x: number, y: number, look: string): string {
  const [cx, cy] = [fixed(x + shape.x), fixed(y - shape.y)];
  if (shape.type === 'circle') return `<circle cx="${cx}" cy="${cy}" r="${fixed(shape.radius)}" ${look}/>`;
  const turn = shape.rotation === 0 ? '' : ` transform="rotate(${String(-shape.rotation)} ${cx} ${cy})"`;
  if (shape.type === 'polygon') {
    const points = shape.points.map(([px, py]) => `${fixed(x + shape.x + px)},${fixed(y - shape.y - py)}`).join(' ');
    return `<polygon points="${points}"${turn} ${look}/>`;
  }
  const [left, top] = [fixed(x + shape.x - shape.width / 2), fixed(y - shape.y - shape.height / 2)];
  return `<rect x="${left}" y="${top}" width="${fixed(shape.width)}" height="${fixed(shape.height)}"${turn} ${look}/>`;
}

/** The way of a run: of its steps as many as a drawing can show. */
function trackText({ x, y }: { readonly x: Float32Array; readonly y: Float32Array }, down: (y: number) => number): string {
  const every = Math.max(1, Math.floor(x.length / 2000));
  const points: string[] = [];
  for (let step = 0; step < x.length; step += every) points.push(`${fixed(x[step] as number)},${fixed(down(y[step] as number))}`);
  return `<polyline class="run" points="${points.join(' ')}" fill="none" stroke="${INK}" stroke-width="3"/>`;
}

/** The Plan of a level as an SVG file: 32 pixels a unit; each thing in a group of the class of its kind, with its id and name; a run's way over it, where one is given. */
export function planSvgText(level: Level, track?: { readonly x: Float32Array; readonly y: Float32Array }): string {
  const { width, height } = level.size;
  const down = (y: number): number => height - y;
  const patterns = ROLES.map((role) => {
    const [colour, pattern, turned] = LOOKS[role];
    return `<pattern id="role-${role}" width="8" height="8" patternUnits="userSpaceOnUse" patternTransform="rotate(${String(turned)})"><rect width="8" height="8" fill="${colour}" opacity=".12"/>${pattern}</pattern>`;
  });
  const things = inOrder(level.placements).flatMap(([id, { kind: kindId, x, y }]) => {
    const kind = kindOfPlacement(level, id);
    if (kind === undefined) return [];
    const dash = kind.role === 'lethal' ? ' stroke-dasharray="5 3"' : '';
    const look = `fill="url(#role-${kind.role})" stroke="${LOOKS[kind.role][0]}" stroke-width="1.4"${dash}`;
    const shapes = Object.values(kind.shapes).map((shape) => shapeText(shape, x, down(y), look));
    return [`<g id="${id}" class="${kindId}"><title>${escaped(placementName(level, id))}</title>${shapes.join('')}</g>`];
  });
  const solids = inOrder(level.solids).map(([id, solid]) => {
    const faint = solid.sides.length === 4 ? '' : ' opacity=".4"';
    return `<rect id="${id}" class="solid" x="${fixed(solid.x)}" y="${fixed(down(solid.y + solid.height))}" width="${fixed(solid.width)}" height="${fixed(solid.height)}" fill="${INK}"${faint}/>`;
  });
  const ways = inOrder(level.paths).map(([id, { name, wayPoints, round }]) => {
    const points = wayPoints.map(({ x, y }) => `${fixed(x)},${fixed(down(y))}`).join(' ');
    const tag = round === 'loop' ? 'polygon' : 'polyline';
    return `<${tag} id="${id}" class="path" points="${points}" fill="none" stroke="${INK}" stroke-width="1.2" stroke-dasharray="6 3"><title>${escaped(name)}</title></${tag}>`;
  });
  const points = [['start', { name: 'start', ...level.start }] as const, ...inOrder(level.points)].map(
    ([id, { name, x, y }]) =>
      `<g id="${id === 'start' ? 'start' : `point-${id}`}" class="point"><path d="M${fixed(x)} ${fixed(down(y) - 0.3)}v${fixed(0.6)}M${fixed(x - 0.3)} ${fixed(down(y))}h${fixed(0.6)}" stroke="${INK}"/><text x="${fixed(x + 0.35)}" y="${fixed(down(y) + 0.4)}" font-family="Archivo, sans-serif" font-size="11" fill="${INK}">${escaped(name)}</text></g>`,
  );
  return [
    `<svg xmlns="http://www.w3.org/2000/svg" width="${fixed(width)}" height="${fixed(height)}" viewBox="0 0 ${fixed(width)} ${fixed(height)}">`,
    `<title>${escaped(level.name)}</title>`,
    `<defs>${patterns.join('')}</defs>`,
    `<rect class="paper" width="100%" height="100%" fill="${PAPER}"/>`,
    ...ways,
    ...solids,
    ...things,
    ...points,
    ...(track === undefined ? [] : [trackText(track, down)]),
    '</svg>',
    '',
  ].join('\n');
}
