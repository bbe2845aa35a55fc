import { snap } from './quantity.ts';

test('turning lands on steps without the tails of binary fractions', () => {
  expect(snap(0.1 + 0.2, 0.1)).toBe(0.3);
  expect(snap(6.4999, 0.1)).toBe(6.5);
});
