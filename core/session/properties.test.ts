import fc from 'fast-check';
import { levelText, lineWords } from '../formats/index.ts';
import { parseLevel, parseLevelText, type Level } from '../level/index.ts';
import { type Run, readInputs, sessionAt, sessionOptions, simulate } from '../players/index.ts';
import { anyLevel, anyRun } from '../testing/arbitrary.ts';
import { basin, box, circle, kind, level, meterEffect, play, pressed, runOf, shard, vent } from '../testing/levels.ts';
import { runs } from '../testing/runs.ts';
import { stepped } from '../testing/stepping.ts';
import { compile, createSession, endSession, INPUT_WIDTH, readLines, restore, snapshot, step, stepOf, type Session } from './index.ts';

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
    { numRuns: runs(35) },
  );
});

/** Steps a run with and without the shortcuts, and expects the same story and the same closing state. */
function expectShortcutsChangeNothing(document: Level, run: Run): void {
  const compiled = compile(document);
  expect(stepped(compiled, run)).toEqual(stepped(compiled, run, { exhaustive: true }));
}

test('the shortcuts of the stepper change nothing', () => {
  fc.assert(fc.property(anyLevel, anyRun, expectShortcutsChangeNothing), { numRuns: runs(50) });
});

/** The same far apart, about a long straight way. */
function strewn(document: Level): Level {
  const placements = Object.entries(document.placements).map(([id, one]) => [id, { ...one, x: one.x * 4, y: 8 + one.y / 5 }]);
  const body = { ...document.body, speed: 7 };
  return {
    ...document,
    view: 'top',
    size: { width: 240, height: 20 },
    body,
    solids: {},
    placements: Object.fromEntries(placements) as Level['placements'],
  };
}

test('nor do they where one goes on evenly for long, past few things', () => {
  const ways = fc.array(fc.tuple(fc.integer({ min: 60, max: 400 }), fc.constantFrom(127, 127, -127, 0)), { minLength: 3, maxLength: 3 });
  fc.assert(
    fc.property(anyLevel, ways, fc.nat(9), (document, list, seed) => {
      let at = 1;
      const changes = list.map(([length, x]): [number, number, number, number, number] => [(at += length) - length, x, 0, 0, 0]);
      expectShortcutsChangeNothing(strewn(document), runOf(60, at - 1, [changes, []], { seed }));
    }),
    { numRuns: runs(80), endOnFailure: true },
  );
});

test('nor do they where players glide by magnets at rest, a cart crosses them, and what is carried mends or quickens', () => {
  const place = fc.record({ x: fc.integer({ min: 4, max: 56 }), y: fc.integer({ min: 2, max: 18 }) });
  const way = fc.tuple(fc.integer({ min: 30, max: 240 }), fc.constantFrom(-1, 0, 1), fc.constantFrom(-1, 0, 1));
  const whileCarried = (effect: object): object => ({ setOffBy: 'carried', effects: { effect } });
  const inRoom = (spots: readonly object[], ways: readonly [number, number, number][], carried: number): void => {
    const kinds = {
      shard: {
        ...shard,
        magnet: {
          reach: 2,
          giveUp: 3,
          speed: [
            [0, 1],
            [0.5, 6],
          ],
        },
        rules: { act: { setOffBy: { type: 'arriving' }, who: { any: ['player'] }, becomes: { type: 'rests', seconds: 1.5 } } },
      },
      cart: { ...kind(box(1.6, 0.9), { setOffBy: { type: 'arriving' }, effects: meterEffect('health', 'take', 5) }), role: 'harm' },
    };
    const rails = {
      name: 'rails',
      speed: 2.4,
      round: 'back and forth',
      wayPoints: [
        { x: 6, y: 10 },
        { x: 40, y: 10, pause: 0.6 },
      ],
    };
    const room = level({
      kinds,
      items: {
        salve: { name: 'salve', most: 3, rules: { mend: whileCarried({ type: 'meter', meter: 'health', change: 'add', amount: 1 }) } },
        boots: {
          name: 'boots',
          most: 3,
          rules: { quick: whileCarried({ type: 'movement', of: 'speed', change: 'multiply', value: 1.5, lasts: { type: 'while' } }) },
        },
      },
      placements: {
        cart: { kind: 'cart', x: 6, y: 10, travel: { path: 'rails' } },
        ...Object.fromEntries(spots.map((spot, index) => [`s${String(index)}`, { kind: 'shard', ...spot }])),
      },
      paths: { rails },
    });
    const start = {
      meters: {},
      items: { [carried === 1 ? 'salve' : 'boots']: Math.min(1, carried) },
      held: null,
      at: null,
      checkpoint: null,
      shieldSeconds: 0,
    };
    const run = pressed(60, ...ways.map(([steps, x, y]): [number, number, number] => [steps / 60, x, y]));
    expectShortcutsChangeNothing(room, { ...run, start });
  };
  fc.assert(
    fc.property(fc.array(place, { minLength: 3, maxLength: 9 }), fc.array(way, { minLength: 2, maxLength: 8 }), fc.nat(2), inRoom),
    {
      numRuns: runs(35),
    },
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
    { numRuns: runs(50) },
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
    { numRuns: runs(35) },
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
    { numRuns: runs(40) },
  );
});

test('a level file read back is the same level, and no document makes the reader throw', () => {
  fc.assert(
    fc.property(anyLevel, (document) => {
      expect(parseLevelText(levelText(document))).toEqual({ ok: true, value: document });
    }),
    { numRuns: runs(40) },
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
    { numRuns: runs(150) },
  );
});
