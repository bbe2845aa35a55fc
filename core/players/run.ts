import { z } from 'zod';
import { Name } from '../level/index.ts';
import { INPUT_WIDTH, SIMULATION_VERSION } from '../session/index.ts';

/** Longest session: two hours at 240 steps a second. */
export const MOST_STEPS = 2 * 3600 * 240;
export const MOST_SECONDS = 7200;

const Axis = z.int().min(-127).max(127);

/** From this step on (the first is 1) the inputs are: move right, move up, buttons. */
const Change = z.tuple([z.int().min(1).max(MOST_STEPS), Axis, Axis, z.int().min(0).max(127)]);

/** A recorded session: what was pressed when. It can be simulated again on any version of the level. */
export const Run = z
  .strictObject({
    format: z.literal(1),
    name: Name,
    simulation: z.int().min(1).meta({ description: 'Version of the simulation it was recorded with.' }),
    level: z.string().max(64).meta({ description: 'Hash of the level it was recorded on.' }),
    seed: z.int().min(0).max(0xffffffff).default(1),
    rate: z.int().min(30).max(240),
    steps: z.int().min(0).max(MOST_STEPS),
    players: z
      .array(z.strictObject({ changes: z.array(Change).max(MOST_STEPS) }))
      .min(1)
      .max(4)
      .meta({ description: 'For each player: [step, move right −127…127, move up −127…127, buttons], when they change.' }),
  })
  .refine(
    (run) =>
      run.players.every(({ changes }) => changes.every((change, index) => index === 0 || change[0] > (changes[index - 1]?.[0] ?? 0))),
    { message: 'changes must be in order of their steps', path: ['players'] },
  )
  .refine((run) => run.steps <= MOST_SECONDS * run.rate, { message: 'longer than two hours', path: ['steps'] });
export type Run = z.infer<typeof Run>;

/** The inputs of a run step after step, at the rate of the session it is played in. */
export interface InputReader {
  /** Steps the run lasts at this rate. */
  readonly steps: number;
  /** Fills `inputs` for a step. Steps may be asked for in any order; going forward is fast. */
  read(step: number, inputs: Int8Array): void;
}

export function readInputs(run: Run, rate: number): InputReader {
  const at = (step: number): number => (rate === run.rate ? step : Math.round(((step - 1) * rate) / run.rate) + 1);
  const players = run.players.map(({ changes }) => changes.map(([step, ...rest]) => ({ step: at(step), rest })));
  const cursors = players.map(() => 0);
  return {
    steps: rate === run.rate ? run.steps : Math.round((run.steps * rate) / run.rate),
    read(step, inputs) {
      inputs.fill(0);
      players.forEach((changes, player) => {
        if ((player + 1) * INPUT_WIDTH > inputs.length) return;
        let next = cursors[player] ?? 0;
        if (next > 0 && (changes[next - 1]?.step ?? 0) > step) next = 0;
        while ((changes[next]?.step ?? Infinity) <= step) next += 1;
        cursors[player] = next;
        const held = changes[next - 1];
        if (held !== undefined) inputs.set(held.rest, player * INPUT_WIDTH);
      });
    },
  };
}

/** Takes down the inputs of a session as it is played. */
export interface RunWriter {
  write(step: number, inputs: Int8Array): void;
  /** The run so far. */
  finish(name: string, levelHash: string): Run;
}

/** `from` is a run to go on from after `fromStep`: its inputs up to there are taken over. */
export function createRunWriter(rate: number, playerCount: number, from?: { run: Run; step: number }): RunWriter {
  const players = Array.from({ length: playerCount }, (): { changes: [number, number, number, number][] } => ({ changes: [] }));
  let steps = 0;
  const write = (step: number, inputs: Int8Array): void => {
    steps = step;
    players.forEach(({ changes }, player) => {
      const [x = 0, y = 0, buttons = 0] = inputs.subarray(player * INPUT_WIDTH, (player + 1) * INPUT_WIDTH);
      const last = changes.at(-1) ?? [0, 0, 0, 0];
      if (last[1] !== x || last[2] !== y || last[3] !== buttons) changes.push([step, x, y, buttons]);
    });
  };
  if (from !== undefined) {
    const reader = readInputs(from.run, rate);
    const inputs = new Int8Array(playerCount * INPUT_WIDTH);
    for (let step = 1; step <= from.step; step += 1) {
      reader.read(step, inputs);
      write(step, inputs);
    }
  }
  return {
    write,
    finish: (name, level) => ({ format: 1, name, simulation: SIMULATION_VERSION, level, seed: 1, rate, steps, players }),
  };
}
