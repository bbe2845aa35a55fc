import fc from 'fast-check';
import { anyLevel, anyRun } from '../testing/arbitrary.ts';
import { play } from '../testing/levels.ts';
import { referenceLedger } from '../testing/reference.ts';
import type { LedgerLine } from './index.ts';

const digits = (value: number): string => String(Number(value.toFixed(5)) + 0);

function told(line: LedgerLine): string {
  const at = `${line.step} ${line.type}`;
  switch (line.type) {
    case 'changed':
    case 'rate':
      return `${at} ${line.placement} ${line.meter} ${digits(line.asked)}/${digits(line.applied)}`;
    case 'refused':
      return `${at} ${line.toucher} ${line.placement} ${line.reason}`;
    case 'phase':
      return `${at} ${line.placement} ${line.phase}`;
    case 'limit':
      return `${at} ${line.meter} ${digits(line.value)}`;
    case 'died':
      return `${at} ${line.placement ?? ''}`;
    case 'ended':
      return `${at} ${line.how}`;
  }
}

test('the compiled stepper and the plain one tell the same story of any level', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, (document, whole) => {
      // The plain stepper is slow: the first seconds of the run must do.
      const run = { ...whole, steps: Math.min(whole.steps, 150) };
      const fast = play(document, run).lines.map(told);
      const plain = referenceLedger(document, run);
      const words = (line: string): string => line.slice(line.indexOf(' '));
      expect(fast.map(words)).toEqual(plain.map(words));
      // A contact right at the turn of a step may fall to either side of it.
      fast.forEach((line, index) => expect(Math.abs(parseInt(line) - parseInt(plain[index] ?? ''))).toBeLessThanOrEqual(1));
    }),
    { numRuns: 40, endOnFailure: true },
  );
});
