import fc from 'fast-check';
import { levelText, lineWords } from '../formats/index.ts';
import { parseLevel, parseLevelText } from '../level/index.ts';
import { readInputs, sessionAt, sessionOptions, simulate } from '../players/index.ts';
import { anyLevel, anyRun } from '../testing/arbitrary.ts';
import { basin, circle, kind, level, meterEffect, play, pressed, shard, short, vent } from '../testing/levels.ts';
import {
  compile,
  createLedger,
  createSession,
  endSession,
  hasEnded,
  INPUT_WIDTH,
  readLines,
  restore,
  snapshot,
  step,
  stepOf,
  type Session,
} from './index.ts';

test('meters stay in their limits and are what the ledger adds up to; nothing is ever not a number', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, (document, run) => {
      const { recording, lines } = play(document, run);
      recording.outcome.players.forEach(({ meters }, player) => {
        for (const [id, { start, lower, upper }] of Object.entries(document.meters)) {
          const whose = id === 'score' && document.players.sharedScore ? null : `player ${player + 1}`;
          const changes = lines.filter(
            (line) => (line.type === 'changed' || line.type === 'rate') && line.meter === id && (whose === null || line.toucher === whose),
          );
          const sum = changes.reduce((total, line) => total + ('applied' in line ? line.applied : 0), start);
          expect(sum).toBeCloseTo(meters[id]!, 6);
          const lane = (player === 0 ? recording : recording.others[player - 1]!).meters[id]!;
          expect(lane.every((value) => value >= lower && value <= (upper ?? Infinity))).toBe(true);
        }
      });
      for (const { x, y, speed } of [recording, ...recording.others]) expect([...x, ...y, ...speed].every(Number.isFinite)).toBe(true);
      expect(JSON.stringify(recording.outcome)).not.toMatch(/NaN|Infinity|undefined/);
      for (const line of lines) expect(lineWords(document, line)).not.toMatch(/NaN|undefined/);
    }),
    { numRuns: 60 },
  );
});

test('the shortcuts of the stepper change nothing', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, (document, run) => {
      const compiled = compile(document);
      const told = [false, true].map((exhaustive) => {
        const ledger = createLedger();
        const session = createSession(compiled, ledger, { ...sessionOptions(compiled, run), exhaustive });
        const reader = readInputs(run, compiled.rate);
        const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
        while (stepOf(session) < reader.steps) {
          reader.read(stepOf(session) + 1, inputs);
          step(session, inputs);
          if (hasEnded(session)) break;
        }
        endSession(session, 0);
        return [...short(readLines(compiled, ledger.lines)), Buffer.from(snapshot(session)).toString('base64')];
      });
      expect(told[0]).toEqual(told[1]);
    }),
    { numRuns: 90 },
  );
});

test('a session saved at any step goes on to the same end', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, fc.integer({ min: 0, max: 1000 }), (document, run, share) => {
      const compiled = compile(document);
      const whole = simulate(compiled, run);
      const reader = readInputs(run, compiled.rate);
      const inputs = new Int8Array(compiled.playerCount * INPUT_WIDTH);
      const goOn = (session: Session): Uint8Array => {
        while (stepOf(session) < whole.steps) {
          reader.read(stepOf(session) + 1, inputs);
          step(session, inputs);
        }
        endSession(session, 0);
        return snapshot(session);
      };
      const straight = sessionAt(
        compiled,
        run,
        { ...whole, snapshots: whole.snapshots.slice(0, 1) },
        Math.floor((share * whole.steps) / 1000),
      );
      const fresh = createSession(compiled, null, sessionOptions(compiled, run));
      restore(fresh, snapshot(straight));
      expect(Buffer.compare(goOn(fresh), goOn(straight))).toBe(0);
      expect(simulate(compiled, run).digest).toBe(whole.digest);
    }),
    { numRuns: 50 },
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
