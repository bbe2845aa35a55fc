import './withoutEval.ts';
import { findingsOf, runFindings } from '@dial/core/findings';
import { kindOfPlacement, parseLevel, type Level } from '@dial/core/level';
import {
  fitPersona,
  momentAt,
  nearestInRun,
  outcomeOfRun,
  sessionAt,
  simulate,
  type Nearest,
  type Recording,
  type Run,
  thoughtAt,
  walkedBy,
  type Thought,
  type Walked,
  type Walker,
} from '@dial/core/players';
import { compile, lineNames, whyNot, type Compiled, type Outcome, type Rows } from '@dial/core/session';
import { expose, transfer } from 'comlink';
import { turnedLevel } from '@dial/core/studies';
import {
  CurveRequest,
  FindingsRequest,
  FitRequest,
  MomentRequest,
  OutcomeRequest,
  SimulateRequest,
  WhyRequest,
  type Side,
  type SimulatedRun,
  type SimulationApi,
} from './protocol.ts';
import { createReceiving } from './sending.ts';
import { walkerOn } from './walker.ts';

interface Simulated {
  readonly compiled: Compiled;
  readonly run: Run;
  readonly recording: Recording;
  readonly walker: Walker | null;
  readonly walk: Walked | null;
}

const simulated = new Map<Side, Simulated>();

const knownNearest = new WeakMap<Simulated, Map<string, Nearest | null>>();

/** When anybody came nearest to a thing in a run that is simulated, worked out once. */
function nearestOf(found: Simulated, placement: string): Nearest | null {
  const known = knownNearest.get(found) ?? new Map<string, Nearest | null>();
  knownNearest.set(found, known);
  if (!known.has(placement)) known.set(placement, nearestInRun(found.compiled, found.run, placement));
  return known.get(placement) ?? null;
}

const received = createReceiving();

/** So often is practised, and so much of the run on screen: little enough to be in nobody's way. */
const PRACTICES = 40;
const PRACTISED_SECONDS = 60;
/** Milliseconds in which nothing was asked. */
const IDLE = 30;

let practicesLeft = 0;
let nextPractice: ReturnType<typeof setTimeout> | undefined;

/** Practises once when nothing has been asked for a while, and so on; called again, it is put off. */
function practiseSoon(): void {
  clearTimeout(nextPractice);
  if (practicesLeft === 0) return;
  nextPractice = setTimeout(() => {
    practicesLeft -= 1;
    const shown = simulated.get('now');
    if (shown === undefined) return;
    const { compiled, run, walker } = shown;
    const walks = walker === null ? null : { ...walker, seconds: Math.min(walker.seconds ?? Infinity, PRACTISED_SECONDS) };
    simulateOn(compiled.level, { ...run, steps: Math.min(run.steps, PRACTISED_SECONDS * run.rate) }, walks);
    practiseSoon();
  }, IDLE);
}

const used = ({ count, width, values }: Rows): { count: number; values: Float64Array } => ({
  count,
  values: values.slice(0, count * width),
});

/** Who walks a level in place of recorded keys, with what is kept of it; null when nobody does. */
function walkOn(compiled: Compiled, { seed, start }: Run, walker: Walker | null, records: boolean): Walked | null {
  return walker === null ? null : walkedBy(compiled, walker, { seed, start, records });
}

/** What comes of a run on a level, or of who walks that. */
function outcomeOn(level: Level, run: Run, walker: Walker | null): Outcome {
  const compiled = compile(level);
  return walkOn(compiled, run, walker, false)?.outcome ?? outcomeOfRun(compiled, run);
}

/** Simulates a run on a level, or lets it be walked. */
function simulateOn(level: Level, recorded: Run, walker: Walker | null): Simulated {
  const compiled = compile(level);
  const walk = walkOn(compiled, recorded, walker, true);
  const run = walk?.run ?? recorded;
  return { compiled, run, walker, walk, recording: walk?.recording ?? simulate(compiled, run) };
}

/** What the page is told of a walk: what was known at each moment stays here. */
const told = ({ run, stuckAt, decisions, ending }: Walked): SimulatedRun['walk'] => ({ run, stuckAt, decisions, ending });

/** What the first persona of a run knows and means at a step; null when none plays. */
function thoughtOf({ compiled, run, recording, walker, walk }: Simulated, step: number): Thought | null {
  if (walker === null || walk === null || walker.personas.length === 0) return null;
  return thoughtAt(
    compiled,
    { personas: walker.personas, route: walker.route?.wayPoints ?? null, minds: walk.minds },
    run,
    recording,
    step,
  );
}

const api: SimulationApi = {
  simulate(request) {
    const { side, walker, ...sent } = SimulateRequest.parse(request);
    const began = performance.now();
    const { level, run } = received(sent);
    const made = simulateOn(level, run, walker);
    const { compiled, recording, walk } = made;
    const took = performance.now() - began;
    if (side !== null) simulated.set(side, made);
    practiseSoon();
    const { rate, steps, x, y, speed, meters, others, outcome, digest, marks, partsAtSeconds } = recording;
    const lines = used(recording.lines);
    const contacts = used(recording.contacts);
    const shown = { rate, steps, x, y, speed, meters, others, outcome, digest, marks, partsAtSeconds };
    const reply: SimulatedRun = { ...shown, lines, contacts, names: lineNames(compiled), walk: walk === null ? null : told(walk), took };
    const lanes = [recording, ...others].flatMap((one) => [one.x, one.y, one.speed, ...Object.values(one.meters)]);
    const buffers = [...lanes, lines.values, contacts.values].map((array) => array.buffer as ArrayBuffer);
    return transfer(reply, buffers);
  },

  momentAt(request) {
    const { side, step } = MomentRequest.parse(request);
    const found = simulated.get(side);
    practiseSoon();
    if (found === undefined) return { moment: null, thought: null };
    return { moment: momentAt(found.compiled, found.run, found.recording, step), thought: thoughtOf(found, step) };
  },

  warmUp() {
    practicesLeft = PRACTICES;
    practiseSoon();
  },

  why(request) {
    const { side, step, placement, player } = WhyRequest.parse(request);
    const found = simulated.get(side);
    if (found === undefined || player >= found.compiled.playerCount || kindOfPlacement(found.compiled.level, placement) === undefined) {
      return null;
    }
    const { compiled, run, recording } = found;
    const session = sessionAt(compiled, run, recording, step);
    return {
      tests: whyNot(session, player, placement),
      nearest: nearestOf(found, placement),
    };
  },

  outcome(request) {
    const { walker, ...sent } = OutcomeRequest.parse(request);
    const { level, run } = received(sent);
    return outcomeOn(level, run, walker);
  },

  fit(request) {
    const { level, runs } = FitRequest.parse(request);
    return fitPersona(compile(level), runs);
  },

  findings(request) {
    const { level, runs } = FindingsRequest.parse(request);
    return runs === null ? findingsOf(level) : runFindings(level, runs);
  },

  curve(request) {
    const { paths, values, meter, walks, ...sent } = CurveRequest.parse(request);
    const { level, run } = received(sent);
    return values.map((value) => {
      const made = turnedLevel(level, [{ paths, value }]);
      const turned = made.ok ? made.value : null;
      if (turned === null) return null;
      return outcomeOn(turned, run, walkerOn(turned, walks, level)).players[0]?.meters[meter] ?? null;
    });
  },
};

/**
 * Runs the step loop on a small level until it is compiled to machine code, so that the first turned dial is as quick
 * as the hundredth.
 */
function warm(): void {
  const meter = { lower: 0, upper: 100, start: 100 };
  const shape = { body: { type: 'circle', radius: 1 } };
  const effect = { effect: { type: 'meter', meter: 'health', change: 'take', amount: 1 } };
  const kind = (type: string, becomes: object) => ({
    name: 'w',
    role: 'harm',
    mark: 'bar',
    shapes: shape,
    rules: { a: { setOffBy: { type }, effects: effect, becomes } },
  });
  const parsed = parseLevel({
    format: 1,
    name: 'warm',
    view: 'top',
    size: { width: 20, height: 20 },
    body: { radius: 0.4, speed: 5, acceleration: 40, braking: 40 },
    start: { x: 5, y: 5 },
    meters: { health: { name: 'health', ...meter }, score: { name: 'score', ...meter } },
    kinds: { a: kind('arriving', { type: 'rests', seconds: 0.2 }), b: kind('inside', { type: 'stays' }) },
    placements: { a: { kind: 'a', x: 9, y: 5 }, b: { kind: 'b', x: 9, y: 9 }, c: { kind: 'a', x: 0, y: 0, travel: { path: 'p' } } },
    paths: {
      p: {
        name: 'p',
        speed: 3,
        round: 'loop',
        wayPoints: [
          { x: 3, y: 9 },
          { x: 15, y: 9 },
        ],
      },
    },
    solids: { s: { x: 12, y: 2, width: 1, height: 8 } },
  });
  if (!parsed.ok) return;
  const compiled = compile(parsed.value);
  const changes = Array.from({ length: 200 }, (_, at): [number, number, number, number] => [
    1 + at * 20,
    at % 3 === 0 ? -127 : 127,
    at % 5 < 2 ? -127 : 127,
    0,
  ]);
  const none = { start: null, events: [], branched: null, marks: [] };
  const run: Run = { format: 1, name: 'warm', simulation: 1, level: '', seed: 1, rate: 60, steps: 4000, players: [{ changes }], ...none };
  for (let round = 0; round < 3; round += 1) simulate(compiled, run);
}

warm();
expose(api);
