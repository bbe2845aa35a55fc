import { arriving, meter, movement, scene } from '../testing/scenes.ts';
import { itemSentence, ruleSentence } from './index.ts';

/** The sentence of the one rule of a thing, in a level that has what rules may speak of. */
function said(rule: object): string {
  const level = scene(
    { pear: { ...thing, rules: { rule } } },
    {
      points: { gate: { name: 'kiln gate', x: 5, y: 5 }, pond: { name: 'pond', x: 9, y: 9 } },
      items: { jar: { name: 'jar', most: 3, holdable: true } },
    },
  );
  return text(ruleSentence(level, 'pear', level.kinds['pear']!.rules['rule']!, ''));
}
const thing = {
  name: 'pear',
  role: 'score',
  mark: 'star',
  shapes: { body: { type: 'circle', radius: 1 }, rim: { type: 'circle', radius: 2 } },
};
const text = (parts: ReturnType<typeof ruleSentence>): string => parts.map((part) => part.text).join('');

test.each([
  [
    'where it goes, also at the start',
    arriving({ a: meter('score', 'add', 5) }, { becomes: { type: 'moves', distance: 4, margin: 1, atStart: true }, keepTrying: true }),
    'Set off when a player arrives, again and again until it can: score +5. ' +
      'Then the pear moves to a random place, 4 u clear of players and 1 u of all else, as it does at the start.',
  ],
  [
    'what happens when it comes again',
    arriving({ a: movement('speed', 'multiply', 2, 3, { again: 'stack', most: 3 }), b: { ...movement('jump', 'add', 1, 3), order: 1 } }),
    'Set off when a player arrives: walk speed ×2 for 3 s (up to 3 at once), jump speed +1 for 3 s (from anew if it comes again). ' +
      'The pear stays as it is.',
  ],
  [
    'whom a notice counts for, a wind-up that turns, whom it hits, what shields do not stop',
    {
      setOffBy: { type: 'notice', notice: 'gong' },
      who: { any: ['rover'], none: [] },
      windUp: { seconds: 1, ifLeft: 'dropped', turn: { x: 1.5, y: 0, degrees: 90 } },
      active: { type: 'for', seconds: 2 },
      hits: 'all inside',
      effects: { a: meter('health', 'take', 12, { blockable: false }), b: { order: 1, type: 'kill', blockable: true } },
      uses: 3,
      scope: 'kind',
    },
    'Set off by the notice gong, brought about by a rover: health −12 even when shielded, kills whoever is not shielded. ' +
      'It winds up for 1 s, turning 90° about 1.5, 0, unless it is left. It stays active for 2 s. It hits all who are inside. ' +
      'The pear stays as it is. It is worn out after 3 uses of any pear.',
  ],
  [
    'the shape, the side, and where one is put',
    {
      setOffBy: { type: 'inside', pulse: { every: 2, first: 'after' } },
      touching: 'rim',
      side: ['top', 'left'],
      effects: {
        a: { type: 'move', to: { type: 'weighted', points: { gate: 3, pond: 1 } }, velocity: 'kept', dropHeight: 1, grace: 2, lock: 0.5 },
        b: { order: 1, type: 'item', item: 'jar', count: 1, atLimit: 'refuse', hold: true },
      },
    },
    'While a player is inside its rim from the top or left, every 2 s, not before the first is over: ' +
      'puts one at one of kiln gate (75 %) or pond (25 %), its speed kept, 1 u higher, unharmed for 2 s, without keys for 0.5 s, ' +
      'gives 1 jar, held at once, or is refused at the limit. The pear stays as it is.',
  ],
  [
    'how one is thrown, and from where distance counts',
    arriving({
      a: { type: 'launch', change: 'add', direction: { type: 'fixed', degrees: 45 }, strength: 6 },
      b: { ...meter('health', 'take', { by: 'distance', from: { x: 2, y: 0 }, points: [[0, 1]] }), order: 1 }, // prettier-ignore
    }),
    'Set off when a player arrives: launches at 45° with 6 u/s more than one has, health −by a curve of distance from 2, 0 of it. ' +
      'The pear stays as it is.',
  ],
])('a sentence says %s', (_, rule, sentence) => expect(said(rule)).toBe(sentence));

test('what an item does is a sentence too', () => {
  const rules = {
    use: {
      setOffBy: 'use',
      spends: 2,
      provided: { a: { type: 'below limit', meter: 'health' } },
      effects: { a: meter('health', 'add', 35) },
    },
  };
  const level = scene({}, { items: { salve: { name: 'salve', holdable: true, rules } } });
  expect(text(itemSentence(level, 'salve', level.items['salve']!.rules['use']!, ''))).toBe(
    'Used by the key while a salve is held, provided health is below its limit: health +35. It spends 2 salve.',
  );
});
