import fc from 'fast-check';
import { anyRun, plainLevel } from '../testing/arbitrary.ts';
import { play, short } from '../testing/levels.ts';
import { referenceLedger } from '../testing/reference.ts';
import { runs } from '../testing/runs.ts';

/** Without the seconds left, which the plain stepper does not say. */
const told = (line: string): string => line.replace(/^(\d+ (?:refused|nothing) .*?)( [\d.]+)?$/, '$1');

test('the compiled stepper and the plain one tell the same story of any level', () => {
  fc.assert(
    fc.property(plainLevel, anyRun, (document, whole) => {
      // The plain stepper is slow: the first seconds of the run must do.
      const steps = Math.min(whole.steps, 150);
      const { count } = document.players;
      const events = whole.events.filter(({ player, step }) => player <= count && step <= steps);
      const run = { ...whole, steps, players: whole.players.slice(0, count), events };
      // It knows no solids that come and go, and so not what is put beside them.
      const fast = short(play(document, run).lines, 5)
        .filter((line) => !line.endsWith(' displaced'))
        .map(told);
      const plain = referenceLedger(document, run);
      const words = (line: string): string => line.slice(line.indexOf(' '));
      expect(fast.map(words)).toEqual(plain.map(words));
      // A contact right at the turn of a step may fall to either side of it.
      fast.forEach((line, index) => expect(Math.abs(parseInt(line) - parseInt(plain[index] ?? ''))).toBeLessThanOrEqual(1));
    }),
    { numRuns: runs(40), endOnFailure: true },
  );
});
