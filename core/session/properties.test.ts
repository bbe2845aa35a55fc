import fc from 'fast-check';
import { levelText } from '../formats/index.ts';
import { parseLevel, parseLevelText } from '../level/index.ts';
import { sessionAt, simulate } from '../players/index.ts';
import { anyLevel, anyRun } from '../testing/arbitrary.ts';
import { basin, circle, kind, level, meterEffect, play, pressed, shard, vent } from '../testing/levels.ts';
import { compile, endSession, INPUT_WIDTH, readLines, snapshot, step, stepOf } from './index.ts';
import { readInputs } from '../players/run.ts';

test('meters stay in their limits and are what the ledger adds up to', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, (document, run) => {
      const { recording, lines } = play(document, run);
      const { health, score } = recording.outcome.players[0]!.meters;
      const sums = { health: 100, score: 0 };
      for (const line of lines) if (line.type === 'changed' || line.type === 'rate') sums[line.meter as 'health'] += line.applied;
      expect(sums.health).toBeCloseTo(health!, 6);
      expect(sums.score).toBeCloseTo(score!, 6);
      expect(recording.meters['health']!.every((value) => value >= 0 && value <= 100)).toBe(true);
      expect([...recording.x, ...recording.y, ...recording.speed].every(Number.isFinite)).toBe(true);
    }),
    { numRuns: 150 },
  );
});

test('a session saved at any step goes on to the same end, ledger and all', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, fc.double({ min: 0, max: 1, noNaN: true }), (document, run, share) => {
      const compiled = compile(document);
      const whole = simulate(compiled, run);
      const session = sessionAt(compiled, run, whole, Math.floor(share * whole.steps));
      const reader = readInputs(run, compiled.rate);
      const inputs = new Int8Array(INPUT_WIDTH);
      while (stepOf(session) < whole.steps) {
        reader.read(stepOf(session) + 1, inputs);
        step(session, inputs);
      }
      endSession(session, 0);
      const again = simulate(compiled, run);
      expect(again.digest).toBe(whole.digest);
      // The same closing state, whichever way it was reached.
      const straight = sessionAt(compiled, run, { ...whole, snapshots: whole.snapshots.slice(0, 1) }, whole.steps);
      endSession(straight, 0);
      expect(Buffer.compare(snapshot(session), snapshot(straight))).toBe(0);
    }),
    { numRuns: 60 },
  );
});

test('no overlap is missed at any speed', () => {
  // A gate of discs across the way, each narrower than one step of travel.
  fc.assert(
    fc.property(
      fc.double({ min: 1, max: 1000, noNaN: true }),
      fc.uniqueArray(fc.integer({ min: 4, max: 55 }), { minLength: 1, maxLength: 12 }),
      (speed, columns) => {
        const gate = kind(circle(0.05), { setOffBy: { type: 'arriving' }, effects: meterEffect('score', 'add', 1) });
        const document = level({
          body: { radius: 0.1, speed, acceleration: 100000, braking: 100000 },
          kinds: { gate },
          placements: Object.fromEntries(columns.map((x) => [`g${x}`, { kind: 'gate', x, y: 10 }])),
        });
        const { recording } = play(document, pressed(60, [60 / speed + 0.2, 1, 0]));
        expect(recording.outcome.players[0]!.meters['score']).toBe(columns.length);
      },
    ),
    { numRuns: 60 },
  );
});

test('at 30, 60, 120 and 240 steps a second a fixed walk tells the same story', () => {
  const things = fc.uniqueArray(fc.record({ x: fc.integer({ min: 5, max: 40 }), kind: fc.constantFrom('shard', 'basin', 'vent') }), {
    selector: ({ x }) => x,
    minLength: 1,
    maxLength: 6,
  });
  fc.assert(
    fc.property(things, (placed) => {
      const document = level({
        kinds: { shard, basin: { ...basin, rules: { act: { ...(basin['rules'] as { act: object }).act, provided: {} } } }, vent },
        placements: Object.fromEntries(placed.map(({ x, kind: name }) => [`p${x}`, { kind: name, x: x + 0.137, y: 10 }])),
        meters: {
          health: { name: 'health', lower: 0, upper: 1000, start: 500 },
          score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
        },
      });
      const told = [30, 60, 120, 240].map((rate) =>
        play(document, pressed(rate, [11, 1, 0])).lines.filter(({ type }) => type === 'changed' || type === 'rate'),
      );
      const story = (lines: (typeof told)[number]) =>
        lines.map((line) => `${line.type} ${'placement' in line ? String(line.placement) : ''}`).sort();
      for (const lines of told) {
        expect(story(lines)).toEqual(story(told[3]!));
        for (const line of lines) {
          const same = told[3]!.find(
            (other) => 'placement' in other && 'placement' in line && other.placement === line.placement && other.type === line.type,
          )!;
          expect(Math.abs(line.seconds - same.seconds)).toBeLessThanOrEqual(1 / 30 + 1e-9);
          // While the player still gathers speed, the moment of contact is true to within a step: so is the amount of a rate.
          if ('applied' in line && 'applied' in same) expect(Math.abs(line.applied - same.applied)).toBeLessThanOrEqual(12 / 30);
        }
      }
    }),
    { numRuns: 40 },
  );
});

test('a level file read back is the same level, and no document makes the reader throw', () => {
  fc.assert(
    fc.property(anyLevel, (document) => {
      expect(parseLevelText(levelText(document))).toEqual({ ok: true, value: document });
    }),
    { numRuns: 40 },
  );
  fc.assert(fc.property(fc.jsonValue(), (document) => !parseLevel(document).ok));
  const spoiled = fc.record({
    document: anyLevel,
    key: fc.constantFrom('kinds', 'placements', 'size', 'rate', 'body', 'paths', 'meters', 'start'),
    value: fc.jsonValue(),
  });
  fc.assert(
    fc.property(spoiled, ({ document, key, value }) => {
      const parsed = parseLevel({ ...document, [key]: value });
      if (parsed.ok) readLines(compile(parsed.value), simulate(compile(parsed.value), pressed(60, [1, 1, 0])).lines);
      else expect(parsed.problems.length).toBeGreaterThan(0);
    }),
    { numRuns: 150 },
  );
});
