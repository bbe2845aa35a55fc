import { readFileSync } from 'node:fs';
import { addKind, newLevel, parseLevel, parseLevelText, type Level } from '../level/index.ts';
import { groupsOf, likelyMeaning, placeSvg, planSvgText, readSvg, type SvgReading } from './index.ts';
import { hullOf, outlined } from './outline.ts';

function yard(): Level {
  const level = newLevel({ name: 'yard', view: 'top', width: 20, height: 10, unitsPerPixel: 0.1, framesPerSecond: 60 });
  addKind(level, 'mend');
  return structuredClone(level);
}

function shapesOf(text: string): SvgReading {
  const read = readSvg(text);
  if (!read.ok) throw new Error(read.why);
  return read;
}

const options = (level: Level, shapes: SvgReading['shapes'], by: 'id' | 'class' | 'layer' = 'class') => ({
  by,
  meanings: new Map(groupsOf(shapes, by).map(({ name }) => [name, likelyMeaning(level, name)] as const)),
  unitsPerPixel: 0.1,
});

test('shapes become things with shapes of their own, and solids; transforms, view box and y down are followed', () => {
  const { shapes, refused } = shapesOf(`<?xml version="1.0"?><svg xmlns="http://www.w3.org/2000/svg" viewBox="10 0 200 100">
    <g class="healing-pad" transform="translate(10 0)"><circle cx="50" cy="20" r="10"/><ellipse cx="80" cy="20" rx="10" ry="5"/></g>
    <g id="walls"><rect class="wall" x="10" y="80" width="40" height="20"/></g>
    <path class="healing-pad" d="M110 50 l20 0 q0 20 -20 20 z"/>
    <rect class="healing-pad" width="20" height="10" transform="translate(160 50) rotate(90)"/>
    <polygon class="stranger" points="0,0 1,0 0,1"/><script>alert(1)</script><rect width="0" height="4"/></svg>`);
  expect(refused).toEqual([]);
  const { changes, level } = placeSvg(yard(), shapes, options(yard(), shapes));
  const things = Object.values(level.placements).map(({ x, y, own }) => [x, y, own['/shapes/body']]);
  expect(things[0]).toEqual([5, 8, undefined]);
  expect(things[1]).toMatchObject([8, 8, { type: 'polygon' }]);
  expect(things[2]).toMatchObject([expect.closeTo(11, 1), expect.closeTo(4, 1), { type: 'polygon' }]);
  // 20 by 10 pixels turned about (160, 50): it now hangs from there, 10 wide to the left.
  expect(things[3]).toMatchObject([14.5, 4, { type: 'box', width: 1, height: 2 }]);
  expect(Object.values(level.solids)).toMatchObject([{ x: 0, y: 0, width: 4, height: 2 }]);
  expect(changes).toHaveLength(5);
  expect(parseLevel(level).ok).toBe(true);
});

test('layers and ids can name the kinds as well; what is no box is no solid', () => {
  const { shapes } = shapesOf('<svg><g id="healing pad"><circle id="wall-3" r="5"/></g><circle id="wall" r="5"/></svg>');
  expect(groupsOf(shapes, 'layer')).toEqual([{ name: 'healing pad', count: 1 }, { name: '', count: 1 }]); // prettier-ignore
  expect(placeSvg(yard(), shapes, options(yard(), shapes, 'layer')).changes).toHaveLength(1);
  const { refused } = placeSvg(yard(), shapes, options(yard(), shapes, 'id'));
  expect(refused.map(({ why }) => why)).toEqual(['a solid is an upright box; this is none', 'a solid is an upright box; this is none']);
});

test('the Plan of a demo level as SVG brings its things and solids back', () => {
  const parsed = parseLevelText(readFileSync('demo/night-firing/level.json', 'utf8'));
  if (!parsed.ok) throw new Error('the demo is not valid');
  const level = parsed.value;
  const bare = { ...level, placements: {}, solids: {} };
  const { shapes } = shapesOf(planSvgText(level));
  const back = placeSvg(bare, shapes, { ...options(level, shapes), unitsPerPixel: 1 / 32 });
  expect(Object.keys(back.level.solids)).toHaveLength(Object.keys(level.solids).length);
  expect(back.changes.length).toBe(Object.keys(level.placements).length + Object.keys(level.solids).length);
});

test('an outline that is not convex is taken as its hull, one of many corners with sixteen', () => {
  const dart = outlined([[0, 0], [4, 0], [4, 4], [2, 1]]); // prettier-ignore
  expect([dart?.filled, dart?.shape.type]).toEqual([true, 'polygon']);
  const round = Array.from({ length: 60 }, (_, index): [number, number] => [Math.cos(index / 9.55), Math.sin(index / 9.55)]);
  const shape = outlined(round)?.shape;
  expect(shape?.type === 'polygon' ? shape.points.length : 0).toBe(16);
  expect(hullOf([[0, 0], [1, 0], [2, 0]])).toHaveLength(2); // prettier-ignore
  expect(outlined([[0, 0], [1, 0], [2, 0]])).toBeNull(); // prettier-ignore
});

test.each([
  ['no XML', '<svg><g', 'not XML'],
  ['another document', '<html><body/></html>', 'no <svg>'],
  ['too large', 'x'.repeat(5_000_001), 'larger than'],
])('a file that is %s is refused', (_, text, why) => {
  expect(readSvg(text)).toEqual({ ok: false, why: expect.stringContaining(why) as string });
});

test('a hostile drawing is made harmless', () => {
  const deep = '<svg>' + '<g>'.repeat(4000) + '<circle r="5"/>' + '</g>'.repeat(4000) + '</svg>';
  expect(readSvg(deep)).toEqual({ ok: false, why: expect.stringContaining('nested') as string });
  const many = '<svg>' + '<circle r="5"/>'.repeat(5002) + '</svg>';
  expect([shapesOf(many).shapes.length, shapesOf(many).refused.length]).toEqual([5000, 1]);
  const entity =
    '<!DOCTYPE svg [<!ENTITY a "aaaaaaaaaa"><!ENTITY b "&a;&a;&a;">]><svg><circle class="&b;" r="1e999"/><path d="M0 0 L NaN"/></svg>';
  const read = readSvg(entity);
  expect(read.ok ? placeSvg(yard(), read.shapes, options(yard(), read.shapes)).changes : []).toEqual([]);
});
