import fc from 'fast-check';
import { differenceWords, levelText, parseRunText, runText } from '../formats/index.ts';
import { differencesOf, inOrder, movedBefore, newOrders, parseLevelText, segmentsOf, setAt, valueAt, type Level } from '../level/index.ts';
import {
  compile,
  createLedger,
  createSession,
  distanceToTouch,
  hasEnded,
  INPUT_WIDTH,
  leastDistanceToTouch,
  momentOf,
  readLines,
  step,
  stepOf,
  whyNot,
} from '../session/index.ts';
import { attempted, mayAct } from '../session/rules/acting.ts';
import { idOf } from '../session/state/naming.ts';
import { exists, phaseFor } from '../session/state/things.ts';
import { anyLevel, anyRun } from '../testing/arbitrary.ts';
import { runs } from '../testing/runs.ts';
import { nearestInRun } from './nearest.ts';
import { readInputs, sessionOptions } from './run.ts';
import { momentAt, sessionAt } from './seek.ts';
import { simulate } from './simulate.ts';
import { spanSums } from './spanSums.ts';

test('seeking to any step shows exactly what playing to it shows, in any order', () => {
  fc.assert(
    fc.property(
      anyLevel,
      anyRun,
      fc.array(fc.double({ min: 0, max: 1, noNaN: true }), { minLength: 1, maxLength: 6 }),
      (document, run, shares) => {
        const compiled = compile(document);
        const recording = simulate(compiled, run);
        const wanted = shares.map((share) => Math.round(share * recording.steps));
        const session = createSession(compiled, createLedger(), sessionOptions(compiled, run));
        const reader = readInputs(run, compiled.rate);
        const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
        const played = new Map([[0, momentOf(session)]]);
        while (stepOf(session) < Math.max(...wanted) && !hasEnded(session)) {
          reader.read(stepOf(session) + 1, inputs);
          step(session, inputs);
          if (wanted.includes(stepOf(session))) played.set(stepOf(session), momentOf(session));
        }
        for (const at of wanted) expect(momentAt(compiled, run, recording, at)).toEqual(played.get(at));
      },
    ),
    { numRuns: runs(40) },
  );
});

test('the tests that are shown of a rule pass together just when the rule would act', () => {
  let [acting, refused] = [0, 0];
  fc.assert(
    fc.property(anyLevel, anyRun, fc.double({ min: 0, max: 1, noNaN: true }), (document, run, share) => {
      const compiled = compile(document);
      const recording = simulate(compiled, run);
      const session = sessionAt(compiled, run, recording, Math.round(share * recording.steps));
      for (let player = 0; player < compiled.playerCount; player += 1) {
        compiled.ids.placements.forEach((_, placement) => {
          if (!exists(session, placement)) return;
          const form = session.state.form[placement]!;
          whyNot(session, player, idOf(session, placement)!).forEach(({ tests }, at) => {
            const rule = compiled.forms.ruleStart[form]! + at;
            // Whether it is touched, from where, and what its effects come to are asked elsewhere; of "any of these" one is enough.
            const conditions = tests.filter(({ test }) => test === 'condition');
            const any = compiled.rules.needsAny[rule] === 1 && conditions.length > 0;
            const together = any ? conditions.some(({ passed }) => passed) : conditions.every(({ passed }) => passed);
            const rest = tests.filter(({ test }) => test !== 'touching' && test !== 'effect' && test !== 'condition');
            const attempt = attempted(session, player, placement, rule, phaseFor(session, placement, player));
            attempt.supposed = attempt.quiet = true;
            const may = mayAct(session, attempt);
            expect(rest.every(({ passed }) => passed) && together).toBe(may);
            if (may) acting += 1;
            else refused += 1;
          });
        });
      }
    }),
    { numRuns: runs(40) },
  );
  expect(Math.min(acting, refused)).toBeGreaterThan(50);
});

test('how near somebody came is the least of all distances, and no quick bound lies above one', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, fc.nat(), (document, run, pick) => {
      const compiled = compile(document);
      // Beyond what is placed lie the rooms of what is spawned, which have no id of their own.
      if (compiled.placedCount === 0) return;
      const placement = pick % compiled.placedCount;
      const id = compiled.ids.placements[placement]!;
      const session = createSession(compiled, null, sessionOptions(compiled, run));
      const reader = readInputs(run, compiled.rate);
      const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
      let least = Infinity;
      const look = (): void => {
        for (let player = 0; player < compiled.playerCount; player += 1) {
          const distance = distanceToTouch(session, player, placement);
          expect(leastDistanceToTouch(session, player, placement)).toBeLessThanOrEqual(distance + 1e-9);
          least = Math.min(least, distance);
        }
      };
      look();
      while (least > 0 && stepOf(session) < reader.steps && !hasEnded(session)) {
        reader.read(stepOf(session) + 1, inputs);
        step(session, inputs);
        look();
      }
      expect(nearestInRun(compiled, run, id)?.distance ?? Infinity).toBe(least);
    }),
    { numRuns: runs(40) },
  );
});

test('sums of stretches that follow on each other add up to the sum of the whole', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, fc.double({ min: 0.1, max: 0.9, noNaN: true }), (document, run, share) => {
      const compiled = compile(document);
      const recording = simulate(compiled, run);
      const lines = readLines(compiled, recording.lines);
      const seconds = recording.steps / recording.rate;
      const sums = (from: number, to: number) => spanSums(document, { lines, lanes: recording, rate: recording.rate }, from, to);
      // Between two steps, so that no line lies on the cut.
      const cut = (Math.floor(share * recording.steps) + 0.5) / recording.rate;
      const [first, second, whole] = [sums(0, cut), sums(cut, seconds), sums(0, seconds)];
      for (const id of Object.keys(document.meters)) {
        expect((first.meters[id] ?? 0) + (second.meters[id] ?? 0)).toBeCloseTo(whole.meters[id] ?? 0, 6);
      }
      expect(first.distance + second.distance).toBeCloseTo(whole.distance, 3);
      expect(first.deaths + second.deaths).toBe(whole.deaths);
    }),
    { numRuns: runs(40) },
  );
});

test('a run that went out and came back is the very session, with the level that went out and came back', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, (document, run) => {
      const [level, back] = [parseLevelText(levelText(document)), parseRunText(runText(run))];
      if (!level.ok || !back.ok) throw new Error('not taken back');
      expect(simulate(compile(level.value), back.value).digest).toBe(simulate(compile(document), run).digest);
    }),
    { numRuns: runs(25) },
  );
});

test('what two levels differ in, put into the one, gives the other; each difference that is not a mere order is said', () => {
  fc.assert(
    fc.property(anyLevel, anyLevel, (was, now) => {
      const made = JSON.parse(levelText(was)) as Level;
      const differences = differencesOf(was, now);
      for (const { path, now: value } of differences) setAt(made, path, value);
      expect(made).toEqual(JSON.parse(levelText(now)));
      expect(differencesOf(made, now)).toEqual([]);
      for (const { path, was: before } of differences) expect(valueAt(was, path)).toEqual(before);
      const said = new Set(differenceWords(was, now).map(({ path }) => path));
      const unsaid = differences.filter(({ path }) => !said.has(path)).map(({ path }) => segmentsOf(path));
      // Both coordinates of a move are one line.
      expect(unsaid.filter((way) => way.at(-1) !== 'order' && !(way[0] === 'placements' && way[2] === 'y'))).toEqual([]);
    }),
    { numRuns: runs(40) },
  );
});

test('put before another, entries stand in the order wished, and no more orders change than must', () => {
  const orders = fc.array(fc.integer({ min: -5, max: 5 }), { minLength: 2, maxLength: 8 });
  fc.assert(
    fc.property(orders, fc.nat(), fc.nat(), (list, pick, at) => {
      const map = Object.fromEntries(list.map((order, index) => [`e${String(index)}`, { order }]));
      const ids = inOrder(map).map(([id]) => id);
      const moved = ids[pick % ids.length]!;
      const before = [...ids, null][at % (ids.length + 1)]!;
      if (moved === before) return;
      const wished = movedBefore(ids, moved, before);
      expect([...wished].sort()).toEqual([...ids].sort());
      expect(wished[wished.indexOf(moved) + 1] ?? null).toBe(before);
      const changed = newOrders(wished, moved, (id) => map[id]!.order);
      for (const [id, order] of changed) map[id] = { order };
      expect(inOrder(map).map(([id]) => id)).toEqual(wished);
      expect(new Set(changed.map(([id]) => id)).size).toBe(changed.length);
    }),
  );
});
