import { parseLevel, type Level } from '../level/index.ts';
import { simulate, type Recording, type Run } from '../players/index.ts';
import { compile, readLines, SIMULATION_VERSION, type LedgerLine } from '../session/index.ts';

type Parts = Record<string, unknown>;

/** A body of round figures: from rest, x(t) = 4·t − 1 for t ≥ ½ s (v = 4 u/s, a = 8 u/s², v²/2a = 1 u). */
const BODY = { radius: 0.5, speed: 4, acceleration: 8, braking: 8 };

/** A small level for a worked session; throws when it is not a valid one. */
export function level(parts: Parts = {}): Level {
  const parsed = parseLevel({
    format: 1,
    name: 'worked',
    view: 'top',
    size: { width: 60, height: 20 },
    body: BODY,
    start: { x: 2, y: 10 },
    meters: {
      health: { name: 'health', lower: 0, upper: 100, start: 100 },
      score: { name: 'score', lower: 0, upper: null, start: 0, whole: true },
    },
    ...parts,
  });
  if (!parsed.ok) throw new Error(JSON.stringify(parsed.problems));
  return parsed.value;
}

export const circle = (radius: number): Parts => ({ body: { type: 'circle', radius } });
export const box = (width: number, height: number): Parts => ({ body: { type: 'box', width, height } });

/** A kind with one rule. */
export function kind(shapes: Parts, rule: Parts, more: Parts = {}): Parts {
  return { name: 'thing', role: 'score', mark: 'ring', shapes, rules: { act: rule }, ...more };
}

export const meterEffect = (meter: string, change: 'add' | 'take' | 'set', amount: number): Parts => ({
  effect: { type: 'meter', meter, change, amount },
});

export const shard = kind(circle(0.5), {
  setOffBy: { type: 'arriving' },
  effects: meterEffect('score', 'add', 15),
  becomes: { type: 'spent' },
});
export const basin = kind(circle(1), {
  setOffBy: { type: 'arriving' },
  provided: { hurt: { type: 'below limit', meter: 'health' } },
  effects: meterEffect('health', 'add', 18),
  becomes: { type: 'rests', seconds: 6.5 },
});
export const vent = kind(box(6, 4), { setOffBy: { type: 'inside' }, effects: meterEffect('health', 'take', 12) });

type Changes = Run['players'][number]['changes'];

/** A run of some players from their changes. */
export function runOf(rate: number, steps: number, players: readonly Changes[], more: Partial<Run> = {}): Run {
  const plain = {
    start: null,
    events: [],
    branched: null,
    marks: [],
    level: '',
    seed: 1,
    format: 1 as const,
    name: 'run',
    simulation: SIMULATION_VERSION,
  };
  return { ...plain, rate, steps, players: players.map((changes) => ({ changes })), ...more };
}

/** A run of one player from pieces `[seconds, right, up]`, each −1 … 1. */
export function pressed(rate: number, ...pieces: [number, number, number][]): Run {
  let step = 1;
  const changes = pieces.map(([seconds, x, y]): [number, number, number, number] => {
    const at = step;
    step += Math.round(seconds * rate);
    return [at, Math.round(x * 127), Math.round(y * 127), 0];
  });
  return runOf(rate, step - 1, [changes]);
}

export interface Played {
  readonly recording: Recording;
  readonly lines: LedgerLine[];
}

export function play(document: Level, run: Run, rate = run.rate): Played {
  const compiled = compile(document, rate);
  const recording = simulate(compiled, run);
  return { recording, lines: readLines(compiled, recording.lines) };
}

/** Lines in short: `121 changed one score 15/15 → 15`; numbers to so many digits. */
export function short(lines: readonly LedgerLine[], digits = 9): string[] {
  return lines.map((line) => `${String(line.step)} ${line.type} ${tell(line, digits)}`.trimEnd());
}

function tell(line: LedgerLine, digits: number): string {
  const number = (value: number): string => String(Number(value.toFixed(digits)) + 0);
  const place = (at: { x: number; y: number }): string => `${number(at.x)},${number(at.y)}`;
  const source = 'ofItem' in line ? (line.placement ?? line.ofItem ?? '-') : 'placement' in line ? (line.placement ?? '-') : '';
  const to = 'before' in line ? `${number(line.before)} → ${number(line.after)}` : '';
  switch (line.type) {
    case 'changed':
    case 'rate':
      return `${source} ${line.meter} ${number(line.asked)}/${number(line.applied)} → ${number(line.after)}`;
    case 'refused':
      return `${line.toucher ?? 'nobody'} ${source} ${line.reason}${line.secondsLeft === null ? '' : ` ${number(line.secondsLeft)}`}`;
    case 'nothing':
      return `${line.toucher ?? 'nobody'} ${source} ${line.reason}${line.secondsLeft === null ? '' : ` ${number(line.secondsLeft)}`}`;
    case 'phase':
      return `${source} ${line.phase}${line.player === null ? '' : ` for ${line.player}`}`;
    case 'limit':
      return `${line.meter} ${number(line.value)}`;
    case 'movement':
      return `${source} ${line.of} ${line.begun ? '' : 'ends '}${to}`;
    case 'item':
      return `${source} ${line.item} ${number(line.asked)}/${number(line.applied)} → ${number(line.after)}`;
    case 'launched':
      return `${source} ${to}`;
    case 'moved':
    case 'checkpoint':
    case 'relocated':
    case 'returned':
      return `${source} ${place(line)}`.trimStart();
    case 'shield':
      return `${source} ${line.begun ? 'begins' : 'ends'}`;
    case 'notice':
      return `${source} ${line.notice}`;
    case 'spawned':
      return `${source} ${line.kind} ${place(line)}`;
    case 'present':
      return `${line.toucher ?? ''} ${line.present ? 'joins' : 'leaves'}`;
    case 'drawn':
      return `${source} ${line.begun ? 'to ' + (line.toucher ?? '') : 'no more'}`;
    case 'flourish':
      return `${source} ${line.flourish}`;
    case 'held':
      return line.item ?? 'nothing';
    case 'outside':
      return line.what;
    case 'stopped':
      return String(line.links);
    case 'ended':
      return line.how;
    default:
      return source;
  }
}

/** A persona without errors: what it comes to follows by hand. */
export const PLAIN = { name: 'plain', aimError: 0, timingError: 0, caution: 0, haste: 1, reaction: 0, reactionSpread: 0 };

/** A corridor with a vent of a kind across it, to a goal at its end, and what else is said. */
export const corridorWith = (vent: Parts, parts: Parts = {}): Level =>
  level({
    size: { width: 10, height: 2 },
    start: { x: 1, y: 1 },
    body: { radius: 0.5, speed: 4, acceleration: 1e4, braking: 1e4 },
    points: { end: { name: 'end', x: 9, y: 1 } },
    ends: { goals: { end: { type: 'reach', point: 'end', within: 0.5 } } },
    kinds: { vent },
    placements: { vent: { kind: 'vent', x: 5, y: 1 } },
    personas: { plain: PLAIN },
    ...parts,
  });
