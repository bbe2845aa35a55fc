import { broughtBy } from '../beginnings/brought.ts';
import { blank, blankCase, fieldAt, levelFields, named } from './fields.ts';
import { addKind } from '../beginnings/beginnings.ts';
import { newLevel } from '../beginnings/begin.ts';
import { parseLevel } from '../reading/parse.ts';
import type { Level } from '../document/schema.ts';

/** A level with one of everything that a field may name. */
function furnished(): Level {
  const level = newLevel({ name: 'yard', view: 'side', width: 20, height: 10, unitsPerPixel: 0.03, framesPerSecond: 60 });
  addKind(level, 'carry');
  return {
    ...level,
    meters: { ...level.meters, lives: { ...level.meters['health']!, name: 'lives', whole: true, upper: 9, start: 3 } },
    points: { post: { name: 'post', order: 1, x: 3, y: 3 } },
    flourishes: { ring: { name: 'ring', order: 1, shape: 'ring', tone: null, seconds: 0.3, volume: 0.5 } },
  };
}

/** The level with one more effect, condition or the like in its kind's rule. */
function withPart(level: Level, map: string, part: object): unknown {
  const kind = level.kinds['pickup']!;
  const rule = kind.rules['act']!;
  const set = map === 'effects' || map === 'provided' ? { [map]: { one: part } } : { [map]: part };
  // A push needs a rate; what lasts for a while, a contact.
  const inside = (part as { type: string }).type === 'push' ? { setOffBy: { type: 'inside', pulse: null } } : {};
  return { ...level, kinds: { pickup: { ...kind, rules: { act: { ...rule, ...set, ...inside } } } } };
}

describe.each(['effects/one', 'provided/one', 'setOffBy', 'becomes', 'active'])('whatever is chosen for %s', (where) => {
  const level = furnished();
  const field = fieldAt(levelFields(), level, `/kinds/pickup/rules/act/${where}`);
  const cases = field?.type === 'cases' ? Object.keys(field.cases) : [];
  test.each(cases)('%s begins with values the level takes', (type) => {
    const part = field?.type === 'cases' ? blankCase(field, type, level, { order: 4 }) : undefined;
    const parsed = parseLevel(withPart(level, where.split('/')[0]!, part!));
    expect(parsed.ok ? [] : parsed.problems).toEqual([]);
    expect(part).toMatchObject(where.includes('/') ? { type, order: 4 } : { type });
  });
});

test('a part that would name something the level has none of names what comes with it; a kind cannot come', () => {
  const level = { ...furnished(), points: {} };
  const to = fieldAt(levelFields(), level, '/death/returnTo');
  const made = to?.type === 'cases' ? blankCase(to, 'point', level, null) : undefined;
  expect(made).toEqual({ type: 'point', point: 'point' });
  const parsed = parseLevel({ ...level, death: { ...level.death, returnTo: made } });
  const lacked = parsed.ok ? null : broughtBy(level, parsed.problems[0]!.message);
  expect(lacked).toMatchObject({ id: 'point', none: 'no points' });
  lacked!.add(level);
  expect(Object.values(level.points)).toEqual([{ name: 'point', order: 1, x: level.size.width / 2, y: level.size.height / 2 }]);
  // One more comes where the next of them is meant; where something else is missing, nothing comes.
  expect(broughtBy(level, 'there is no point "point-2"')).toMatchObject({ id: 'point-2', none: null });
  expect([broughtBy(level, 'there is no point "point"'), broughtBy(level, 'there is no item "jar"')]).toEqual([null, null]);
  const resets = fieldAt(levelFields(), level, '/death/resets');
  expect(resets?.type === 'list' && blank(resets.of, { ...level, kinds: {} })).toBeUndefined();
  expect(named(level, 'tags')).toEqual([['player', 'player']]);
});

test('what a thing has of its own is checked like what its kind has', () => {
  const level = furnished();
  const push = { type: 'push', order: 1, as: 'velocity', degrees: 0, strength: 3 };
  const own = { '/rules/act/effects/push': push };
  const placement = { kind: 'pickup', order: 1, x: 1, y: 1, travel: null, own, starts: { type: 'ready' } };
  const parsed = parseLevel({ ...level, placements: { one: placement, other: { ...placement, x: 2 } } });
  expect(parsed.ok ? [] : parsed.problems).toEqual([
    { path: '/placements/one/own/rules/act/effects/push', message: expect.stringContaining('a push needs a rate') as string },
  ]);
});
