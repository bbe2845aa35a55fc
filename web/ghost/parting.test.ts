import { level, play, pressed } from '../../core/testing/levels.ts';
import { compile, lineNames } from '../../core/session/index.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { shownOf, works } from '../testing/shown.ts';
import { partingOf } from './parting.ts';

const shown = shownOf(works, 7);

test('where two simulations of a run part, and in what', () => {
  const harder = level({
    ...works,
    kinds: {
      ...works.kinds,
      basin: {
        ...works.kinds['basin']!,
        rules: {
          act: {
            ...works.kinds['basin']!.rules['act']!,
            effects: { effect: { type: 'meter', meter: 'health', change: 'add', amount: 10 } },
          },
        },
      },
    },
  });
  expect(partingOf(shownOf(harder, 7), shown)).toEqual({ step: 203, seconds: 203 / 60, words: 'health 89, was 97' });
  expect(partingOf(shown, shown)).toBeNull();
  expect(partingOf(shownOf(works, 5), shown)?.words).toBe('this session ends first');
  const two = level({ ...works, players: { count: 2 }, tries: {} });
  const ofTwo = (steps: [number, number, number][]): ShownRun => {
    const [first, second] = [pressed(60, [7, 1, 0]), pressed(60, ...steps)].map(({ players }) => players[0]!);
    const { recording } = play(two, { ...pressed(60, [7, 1, 0]), players: [first!, second!] });
    return { ...recording, level: two, names: lineNames(compile(two)), walk: null, took: 1 };
  };
  expect(partingOf(ofTwo([[7, 0, 1]]), ofTwo([[7, 0, 0]]))).toMatchObject({ step: 1, words: 'player 2 is elsewhere' });
});
