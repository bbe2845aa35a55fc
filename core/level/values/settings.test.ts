import { addKind } from '../beginnings/beginnings.ts';
import { addPlacement, addVariant, newLevel } from '../beginnings/begin.ts';
import { derivedOf } from '../figures/derived.ts';
import { jumpOf } from '../figures/jump.ts';
import { rescaleMeter } from './rescale.ts';
import type { Level } from '../document/schema.ts';

const begun = (): Level => newLevel({ name: 'yard', view: 'side', width: 20, height: 10, unitsPerPixel: 0.03, framesPerSecond: 60 });

test('a jump: 12 u/s against 36 u/s² rises 2 u; a fall limit makes the way down longer', () => {
  const { body } = begun();
  const jump = jumpOf({ ...body, jumpSpeed: 12, gravity: 36, fallLimit: 22, speed: 6 });
  expect(jump).toEqual({ height: 2, seconds: 2 / 3, reach: 4 });
  // Up in 1/3 s; down 6 u/s is reached after 1/6 s and 0.5 u, the other 1.5 u take 0.25 s.
  const slow = jumpOf({ ...body, jumpSpeed: 12, gravity: 36, fallLimit: 6, speed: 6 });
  expect([slow?.height, slow?.seconds.toFixed(6)]).toEqual([2, (1 / 3 + 1 / 6 + 0.25).toFixed(6)]);
  expect(jumpOf({ ...body, gravity: 0 })).toBeNull();
});

test('a meter from 100 to 3 takes everything that touches it along, also what others change of it', () => {
  const level = begun();
  addKind(level, 'mend'); // +20, below its limit
  addKind(level, 'harm'); // −10 a second
  addVariant(level, 'healing-pad');
  addVariant(level, 'hazard');
  addPlacement(level, 'hazard', 3, 3);
  level.variants['healing-pad-variant']!.changes = { '/rules/act/effects/heal/amount': 50 };
  level.placements['hazard']!.own = {
    '/rules/act/effects/hurt': { type: 'meter', order: 0, meter: 'health', change: 'take', amount: 25, blockable: true },
  };
  level.kinds['hazard']!.rules['act']!.provided = { worn: { type: 'meter', order: 1, meter: 'health', is: 'at least', value: 40 } };
  level.death.health = 60;
  const numbers = rescaleMeter(structuredClone(level), 'health', 3).map(({ path, was, now }) => `${path} ${String(was)} ${String(now)}`);
  expect(numbers).toEqual([
    '/meters/health/upper 100 3',
    '/meters/health/start 100 3',
    '/kinds/healing-pad/rules/act/effects/heal/amount 20 0.6',
    '/kinds/hazard/rules/act/effects/hurt/amount 10 0.3',
    '/kinds/hazard/rules/act/provided/worn/value 40 1.2',
    '/variants/healing-pad-variant/changes/~1rules~1act~1effects~1heal~1amount 50 1.5',
    '/placements/hazard/own/~1rules~1act~1effects~1hurt/amount 25 0.75',
    '/death/health 60 1.8',
  ]);
  const whole = structuredClone(level);
  whole.meters['health']!.whole = true;
  expect(rescaleMeter(whole, 'health', 3).map(({ now }) => now)).toEqual([3, 3, 1, 1, 1, 2, 1, 2]);
  expect(() => rescaleMeter(level, 'score', 3)).toThrow(RangeError);
});

describe('what the numbers of a kind come to', () => {
  const level = begun();
  const [pad, ash, boost] = [addKind(level, 'mend'), addKind(level, 'harm'), addKind(level, 'movement')];
  const kinds = structuredClone(level).kinds;
  const regenerating = (perSecond: number, pauseAfterLoss: number): Level => ({
    ...level,
    meters: { ...level.meters, health: { ...level.meters['health']!, regeneration: { perSecond, pauseAfterLoss } } },
  });
  const blow = structuredClone(kinds[ash]!);
  blow.rules['act']!.setOffBy = { type: 'arriving' };
  blow.rules['act']!.effects = { hurt: { type: 'meter', order: 1, meter: 'health', change: 'take', amount: 25, blockable: true } };
  blow.rules['act']!.becomes = { type: 'rests', seconds: 4 };

  test.each([
    ['+20 every 6 s', level, kinds[pad]!, [{ type: 'per minute', meter: 'health', amount: 200 }]],
    ['−10 a second from 100', level, kinds[ash]!, [{ type: 'seconds to death', seconds: 10 }]],
    ['the same, 2 a second coming back at once', regenerating(2, 0), kinds[ash]!, [{ type: 'seconds to death', seconds: 12.5 }]],
    ['the same, coming back only after a pause', regenerating(2, 1), kinds[ash]!, [{ type: 'seconds to death', seconds: 10 }]],
    ['−25 from 100: four blows', level, blow, [{ type: 'hits to death', hits: 4 }]],
    // 3 s of 5 between blows: 100, 75 → 90, 65 → 80, … each blow 10 worse: −25 falls to nought with the ninth, (100 − 15) ÷ 10.
    ['−25 every 4 s, 15 coming back between', regenerating(5, 1), blow, [{ type: 'hits to death', hits: 9 }]],
    ['−25 every 4 s, all of it coming back', regenerating(10, 1), blow, [{ type: 'hits to death', hits: Infinity }]],
    [
      '× 1.5 of 6 u/s for 3 s, every 5 s',
      level,
      kinds[boost]!,
      [
        { type: 'distance gained', units: 9 },
        { type: 'share of time', share: 0.6 },
      ],
    ],
  ])('%s', (_, of, kind, expected) => {
    expect(derivedOf(of, kind)).toEqual(expected);
  });
});
