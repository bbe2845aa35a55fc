import { basin, level, play, pressed, vent } from '../../core/testing/levels.ts';
import { causesOf } from './Chain.tsx';

const works = level({
  kinds: { vent, basin: { ...basin, name: 'basin' } },
  placements: { vent: { kind: 'vent', x: 8, y: 10 }, basin: { kind: 'basin', x: 16, y: 10 } },
});

test('what brought a line about, the first cause first; a broken chain ends where it breaks', () => {
  const { lines } = play(works, pressed(60, [5, 1, 0]));
  const rests = lines.find((line) => line.type === 'phase' && line.phase === 'resting')!;
  expect(causesOf(lines, rests).map(({ type }) => type)).toEqual(['changed']);
  const [healed] = causesOf(lines, rests);
  expect(causesOf(lines, healed!)).toEqual([]);
  expect(causesOf(lines, { ...rests, cause: 10_000 })).toEqual([]);
  // A line that names itself, or a later one, as its cause must not go round for ever.
  expect(causesOf(lines, { ...rests, cause: rests.index })).toEqual([]);
});
