import { z } from 'zod';
import { entry, Name, StartingState, startingProblems, startingThatFits, textProblem, type Level, type Problem } from '../level/index.ts';
import { INPUT_WIDTH, SIMULATION_VERSION, type Compiled, type OutsideEvent, type SessionOptions } from '../session/index.ts';

/** Longest session: two hours at 240 steps a second. */
export const MOST_STEPS = 2 * 3600 * 240;
export const MOST_SECONDS = 7200;

/**
 * From this step on (the first is 1) the inputs are: move right, move up (−127 … 127), buttons held (bits); and, for this
 * step only, buttons that were also tapped between it and the one before.
 */
export type Change = [step: number, right: number, up: number, held: number, tapped?: number];

const COLUMNS: readonly { readonly name: string; readonly from: number; readonly upTo: number }[] = [
  { name: 'step', from: 1, upTo: MOST_STEPS },
  { name: 'move right', from: -127, upTo: 127 },
  { name: 'move up', from: -127, upTo: 127 },
  { name: 'buttons held', from: 0, upTo: 127 },
  { name: 'buttons tapped', from: 0, upTo: 127 },
];

/** What is wrong with a change that follows one at `last`; null when nothing is. */
function changeProblem(change: unknown, last: number): string | null {
  if (!Array.isArray(change) || change.length < 4 || change.length > 5) return 'must be a list of 4 or 5 whole numbers';
  const values = change as unknown[];
  for (let column = 0; column < values.length; column += 1) {
    const { name, from, upTo } = COLUMNS[column] as (typeof COLUMNS)[number];
    const value = values[column];
    if (!Number.isInteger(value) || (value as number) < from || (value as number) > upTo) {
      return `${name} must be a whole number from ${String(from)} to ${String(upTo)}`;
    }
  }
  return (values[0] as number) > last ? null : 'changes must be in order of their steps';
}

/** Checked by hand: a long recording has a million of them. */
const Changes = z
  .custom<Change[]>(Array.isArray, 'must be a list')
  .superRefine((changes, context) => {
    let last = 0;
    for (let index = 0; index < changes.length; index += 1) {
      const message = changeProblem(changes[index], last);
      if (message !== null) {
        context.addIssue({ code: 'custom', message, path: [index] });
        return;
      }
      last = changes[index]?.[0] ?? last;
    }
  })
  .meta({
    type: 'array',
    items: { type: 'array', items: { type: 'integer' }, minItems: 4, maxItems: 5 },
    description: 'When the inputs change: [step, move right −127…127, move up −127…127, buttons held, tapped].',
  });

const Step = z.int().min(1).max(MOST_STEPS);
const Player = z.int().min(1).max(4).default(1);
const ById = z
  .string()
  .min(1)
  .max(64)
  .refine((id) => textProblem(id) === null, 'contains a character that cannot be kept');

/** Something from outside: what the level itself does not do. */
export const Outside = z
  .discriminatedUnion('what', [
    z.strictObject({ what: z.literal('meter'), step: Step, player: Player, meter: ById, by: z.number().min(-1e9).max(1e9) }),
    z.strictObject({ what: z.literal('item'), step: Step, player: Player, item: ById, by: z.int().min(-1e6).max(1e6) }),
    z.strictObject({ what: z.literal('notice'), step: Step, player: Player, notice: ById }),
    z.strictObject({ what: z.literal('join'), step: Step, player: Player }),
    z.strictObject({ what: z.literal('leave'), step: Step, player: Player }),
  ])
  .meta({ description: 'An event from outside, at the start of a step.' });

export type Outside = z.infer<typeof Outside>;

/** The largest seed there is. */
export const MOST_SEED = 0xffffffff;

/** A recorded session: what was pressed when. It can be simulated again on any version of the level. */
export const Run = z
  .strictObject({
    format: z.literal(1),
    name: Name,
    simulation: z.int().min(1).max(0x7fffffff).meta({ description: 'Version of the simulation it was recorded with.' }),
    level: z
      .string()
      .max(64)
      .regex(/^[0-9a-z]*$/, 'must be the hash of a level')
      .meta({ description: 'Hash of the level it was recorded on.' }),
    seed: z.int().min(0).max(MOST_SEED).default(1),
    rate: z.int().min(30).max(240),
    steps: z.int().min(0).max(MOST_STEPS),
    players: z
      .array(z.strictObject({ changes: Changes }))
      .min(1)
      .max(4)
      .meta({ description: 'For each player: [step, move right −127…127, move up −127…127, buttons held, tapped], when they change.' }),
    start: StartingState.nullable().default(null).meta({ description: 'The state it starts from, if not the level’s own.' }),
    events: z.array(Outside).max(10000).default([]).meta({ description: 'Events from outside, in order.' }),
    branched: z
      .strictObject({ run: ById, name: Name, step: z.int().min(0).max(MOST_STEPS) })
      .nullable()
      .default(null)
      .meta({ description: 'The run it was taken over from by hand, and after which step; its inputs up to there are the same.' }),
    marks: z
      .array(z.string().regex(/^[0-9a-f]{16}$/, 'must be sixteen hexadecimal digits: what a session came to at each second'))
      .max(MOST_SECONDS)
      .default([])
      .meta({ description: 'Digests of the players after each second, as recorded.' }),
  })
  .refine((run) => run.events.every(({ step }, index) => index === 0 || step >= (run.events[index - 1]?.step ?? 0)), {
    message: 'events must be in order of their steps',
    path: ['events'],
  })
  .refine((run) => run.steps <= MOST_SECONDS * run.rate, { message: 'longer than two hours', path: ['steps'] });
export type Run = z.infer<typeof Run>;

/** The published JSON Schema (2020-12) of a run file. */
export function runJsonSchema(): object {
  return z.toJSONSchema(Run, { target: 'draft-2020-12', io: 'input', unrepresentable: 'any' });
}

/** A run with other events from outside, in any order. Of its marks those before the first event that differs still hold. */
export function withEvents(run: Run, events: readonly Outside[]): Run {
  const sorted = [...events].sort((a, b) => a.step - b.step);
  const same = sorted.findIndex((event, index) => JSON.stringify(event) !== JSON.stringify(run.events[index]));
  const first = same >= 0 ? same : sorted.length;
  const step = Math.min(sorted[first]?.step ?? Infinity, run.events[first]?.step ?? Infinity);
  return { ...run, events: sorted, marks: step === Infinity ? run.marks : run.marks.slice(0, Math.floor((step - 1) / run.rate)) };
}

/** What in a run does not fit a level: a starting state or events that speak of what it has not. */
export function runProblems(level: Level, run: Run): Problem[] {
  const problems = run.start === null ? [] : startingProblems(level, run.start).map((one) => ({ ...one, path: `/start${one.path}` }));
  const { count } = level.players;
  if (run.players.length > count) {
    problems.push({ path: '/players', message: `the level has ${String(count)} of the ${String(run.players.length)} players` });
  }
  run.events.forEach((event, index) => {
    if (event.player > count)
      problems.push({ path: `/events/${String(index)}`, message: `the level has no player ${String(event.player)}` });
    const missing =
      (event.what === 'meter' && entry(level.meters, event.meter) === undefined) ||
      (event.what === 'item' && entry(level.items, event.item) === undefined);
    if (missing) problems.push({ path: `/events/${String(index)}`, message: `the level has no such ${event.what}` });
  });
  return problems;
}

/** A step of a run, at another rate. */
const stepAt = (step: number, from: number, rate: number): number => (rate === from ? step : Math.round(((step - 1) * rate) / from) + 1);

/**
 * What a session has to be started with to play a run: its seed, starting state and events. What speaks of something
 * the level has not is left out, so that a run can be tried on any level.
 */
export function sessionOptions(compiled: Compiled, run: Run): SessionOptions {
  const start = run.start === null ? null : startingThatFits(compiled.level, run.start);
  const events = run.events.flatMap((event): OutsideEvent[] => {
    const happens = eventOf(compiled, event);
    return happens === null ? [] : [{ ...happens, step: stepAt(event.step, run.rate, compiled.rate) }];
  });
  return { seed: run.seed, start, events };
}

/** An event from outside as a session takes it, without its step; null when the level has not what, or whom, it speaks of. */
export function eventOf({ ids, playerCount }: Compiled, event: Outside): Omit<OutsideEvent, 'step'> | null {
  const subject =
    event.what === 'meter'
      ? ids.meters.indexOf(event.meter)
      : event.what === 'item'
        ? ids.items.indexOf(event.item)
        : event.what === 'notice'
          ? ids.notices.indexOf(event.notice)
          : 0;
  if (subject < 0 || event.player > playerCount) return null;
  return { player: event.player - 1, what: event.what, subject, amount: event.what === 'meter' || event.what === 'item' ? event.by : 0 };
}

/** The inputs of a run step after step, at the rate of the session it is played in. */
export interface InputReader {
  /** Steps the run lasts at this rate. */
  readonly steps: number;
  /** Fills `inputs` for a step. Steps may be asked for in any order; going forward is fast. */
  read(step: number, inputs: Int8Array): void;
}

const columnsKnown = new WeakMap<Run, { readonly rate: number; readonly players: readonly ChangeColumns[] }>();

/** The changes of a run in columns: made once for a run and a rate, since one seeks in the same run again and again. */
function columnsOf(run: Run, rate: number): readonly ChangeColumns[] {
  const known = columnsKnown.get(run);
  if (known?.rate === rate) return known.players;
  const players = run.players.map(({ changes }) => changeColumns(changes, (step) => stepAt(step, run.rate, rate)));
  columnsKnown.set(run, { rate, players });
  return players;
}

export function readInputs(run: Run, rate: number): InputReader {
  const players = columnsOf(run, rate).map((columns): ReadableChanges => ({
    next: 0,
    from: 0,
    upTo: 0,
    x: 0,
    y: 0,
    held: 0,
    pressed: 0,
    ...columns,
  }));
  return {
    steps: rate === run.rate ? run.steps : Math.round((run.steps * rate) / run.rate),
    read(step, inputs) {
      for (let player = 0; player < players.length; player += 1) {
        const at = player * INPUT_WIDTH;
        if (at + INPUT_WIDTH > inputs.length) return;
        const changes = players[player] as ReadableChanges;
        if (step < changes.from || step >= changes.upTo) seek(changes, step);
        inputs[at] = changes.x;
        inputs[at + 1] = changes.y;
        inputs[at + 2] = changes.held;
        inputs[at + 3] = step === changes.from ? changes.pressed : 0;
      }
    },
  };
}

/** The changes of one player in columns, closed by one that never comes. */
interface ChangeColumns {
  readonly steps: Float64Array;
  readonly columns: { readonly x: Int8Array; readonly y: Int8Array; readonly held: Uint8Array; readonly pressed: Uint8Array };
}

/** The changes of one player, and what holds from step `from` up to `upTo`. */
interface ReadableChanges extends ChangeColumns {
  next: number;
  from: number;
  upTo: number;
  x: number;
  y: number;
  held: number;
  pressed: number;
}

/** Finds what holds at a step. Keys pressed anew count in its first step, also those let go again before it is over. */
function seek(changes: ReadableChanges, step: number): void {
  const { steps, columns } = changes;
  let next = step < changes.from ? 0 : changes.next;
  while ((steps[next] as number) <= step) next += 1;
  const last = next - 1;
  changes.next = next;
  changes.from = last < 0 ? 0 : (steps[last] as number);
  changes.upTo = steps[next] as number;
  changes.x = last < 0 ? 0 : (columns.x[last] as number);
  changes.y = last < 0 ? 0 : (columns.y[last] as number);
  changes.held = last < 0 ? 0 : (columns.held[last] as number);
  changes.pressed = 0;
  for (let at = last; at >= 0 && steps[at] === changes.from; at -= 1) changes.pressed |= columns.pressed[at] as number;
}

function changeColumns(changes: Run['players'][number]['changes'], at: (step: number) => number): ChangeColumns {
  let before = 0;
  return {
    steps: Float64Array.from([...changes.map(([step]) => at(step)), Infinity]),
    columns: {
      x: Int8Array.from(changes, ([, x]) => x),
      y: Int8Array.from(changes, ([, , y]) => y),
      held: Uint8Array.from(changes, ([, , , held]) => held),
      pressed: Uint8Array.from(changes, ([, , , held, tapped = 0]) => {
        const pressed = tapped | (held & ~before);
        before = held;
        return pressed;
      }),
    },
  };
}

/** Takes down the inputs of a session as it is played. */
export interface RunWriter {
  write(step: number, inputs: Int8Array): void;
  /** Takes down what happens from outside at the start of a step; in order of the steps. */
  note(event: Outside): void;
  /** The run so far. */
  finish(name: string, levelHash: string): Run;
}

/** A run, by its id, to go on from after a step; an id of null is a run kept nowhere. */
export interface TakenOver {
  readonly id: string | null;
  readonly run: Run;
  readonly step: number;
}

/** How a run begins: taken over from another, whose inputs up to there, seed, start and events it keeps; or with a seed and a starting state of its own. */
export interface Begun {
  readonly from?: TakenOver | null;
  readonly seed?: number;
  readonly start?: Run['start'];
}

const NOTHING_PRESSED: Change = [0, 0, 0, 0];

export function createRunWriter(rate: number, playerCount: number, { from = null, seed = 1, start = null }: Begun = {}): RunWriter {
  const players = Array.from({ length: playerCount }, (): { changes: Change[] } => ({ changes: [] }));
  let steps = 0;
  const write = (step: number, inputs: Int8Array): void => {
    steps = step;
    for (let player = 0; player < players.length; player += 1) {
      const { changes } = players[player] as (typeof players)[number];
      const at = player * INPUT_WIDTH;
      const [x, y, held, pressed] = [inputs[at] ?? 0, inputs[at + 1] ?? 0, inputs[at + 2] ?? 0, inputs[at + 3] ?? 0];
      const last = changes.length === 0 ? NOTHING_PRESSED : (changes[changes.length - 1] as Change);
      const tapped = pressed & ~(held & ~last[3]);
      if (tapped !== 0) changes.push([step, x, y, held, tapped]);
      else if (last[1] !== x || last[2] !== y || last[3] !== held) changes.push([step, x, y, held]);
    }
  };
  if (from !== null) {
    const reader = readInputs(from.run, rate);
    const inputs = new Int8Array(playerCount * INPUT_WIDTH);
    for (let step = 1; step <= from.step; step += 1) {
      reader.read(step, inputs);
      write(step, inputs);
    }
  }
  const kept = {
    seed: from?.run.seed ?? seed,
    start: from?.run.start ?? start,
    branched: from?.id == null ? null : { run: from.id, name: from.run.name, step: from.step },
  };
  const events =
    from === null
      ? []
      : withoutLaterEvents(from, rate).events.map((event) => ({ ...event, step: stepAt(event.step, from.run.rate, rate) }));
  return {
    write,
    note: (event) => void events.push(event),
    finish: (name, level) => {
      const happened = events.filter(({ step }) => step <= steps);
      return { format: 1, name, simulation: SIMULATION_VERSION, level, rate, steps, players, marks: [], ...kept, events: happened };
    },
  };
}

/** A run that is taken over, without what would happen from outside after that step, which is one at a rate: it is no part of what is played on. */
export const withoutLaterEvents = ({ run, step }: TakenOver, rate: number): Run => ({
  ...run,
  events: run.events.filter((event) => stepAt(event.step, run.rate, rate) <= step),
});
