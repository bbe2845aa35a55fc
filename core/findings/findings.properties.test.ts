import fc from 'fast-check';
import type { Level, Persona } from '../level/index.ts';
import { beginPlaying, simulate } from '../players/index.ts';
import { compile, createLedger, readLines, step, type Compiled, type Rows } from '../session/index.ts';
import { anyLevel, anyRun } from '../testing/arbitrary.ts';
import { runs } from '../testing/runs.ts';
import { findingsOf, mended, SEVERITIES, type Finding } from './index.ts';

const rank = ({ severity }: Finding): number => SEVERITIES.indexOf(severity);

/** Sorts that say of one rule that it never acts: its id is the last of theirs, or the last but one. */
const NEVER: Readonly<Record<string, number>> = {
  'tag-nobody-bears': 1,
  'notice-never-posted': 1,
  'never-holds': 2,
  'side-shut-off': 1,
  'use-kept-off': 1,
};
/** Sorts that say of things that nobody ever touches them. */
const UNTOUCHED = ['never-senses', 'thing-outside', 'thing-in-solid', 'covered-by-solid', 'out-of-reach', 'not-accepted'];

/** Sessions of personas that confirm what is said never to happen, beside a run of any keys: `DIAL_SESSIONS=200 DIAL_RUNS=500` for long. */
const SESSIONS = Number(process.env['DIAL_SESSIONS'] ?? 1);
/** Seconds that each of them lasts: many short ones rather than few long. */
const SECONDS = SESSIONS > 1 ? 4 : 8;

/** Rules that acted, as `placement rule`, by the lines of a session. */
const actedIn = (compiled: Compiled, lines: Rows): string[] =>
  readLines(compiled, lines).flatMap((line) =>
    'rule' in line && line.type !== 'refused' && line.placement !== null ? [`${line.placement} ${String(line.rule)}`] : [],
  );

/** Rules that act while a persona plays for some seconds. */
function actedBy(compiled: Compiled, persona: Persona, seed: number): string[] {
  const ledger = createLedger();
  const playing = beginPlaying(compiled, [persona], { seed, seconds: SECONDS, recorder: ledger });
  while (playing.press()) step(playing.session, playing.inputs);
  return actedIn(compiled, ledger.lines);
}

/** Rules of which the findings of a level say that they never act. */
function saidNever(level: Level): [rule: string, code: string][] {
  return findingsOf(level).flatMap(({ code, id, where }): [string, string][] => {
    const back = NEVER[code];
    if (back !== undefined) {
      const rule = id.split('/').at(-back) ?? '';
      return where.placements.map((placement): [string, string] => [`${placement} ${rule}`, code]);
    }
    if (!UNTOUCHED.includes(code)) return [];
    return where.placements.flatMap((placement) => {
      const rules = Object.entries(level.kinds[level.placements[placement]!.kind]!.rules);
      const touched = rules.filter(
        ([
          ,
          {
            setOffBy: { type },
          },
        ]) => type === 'arriving' || type === 'inside' || type === 'leaving',
      );
      return touched.map(([rule]): [string, string] => [`${placement} ${rule}`, code]);
    });
  });
}

test('what is said never to happen never does, however it is played', () => {
  fc.assert(
    fc.property(anyLevel, anyRun, (level, run) => {
      const never = saidNever(level);
      if (never.length === 0) return;
      const compiled = compile(level);
      const done = new Set(actedIn(compiled, simulate(compiled, { ...run, events: [] }).lines));
      const personas = Object.values(level.personas);
      for (let nth = 0; nth < SESSIONS; nth += 1)
        for (const one of actedBy(compiled, personas[nth % personas.length]!, run.seed + 1 + nth)) done.add(one);
      expect(never.filter(([one]) => done.has(one))).toEqual([]);
    }),
    { numRuns: runs(40) },
  );
});

test('on any level a mend leaves a valid one, without what it mends and with nothing graver that was not there', () => {
  fc.assert(
    fc.property(anyLevel, (level) => {
      const before = new Set(findingsOf(level).map(({ id }) => id));
      for (const finding of findingsOf(level)) {
        expect(`${finding.what} ${finding.why}`).not.toMatch(/undefined|NaN|\[object/);
        if (finding.mend === null) continue;
        const made = mended(level, finding.mend);
        if (!made.ok) throw new Error(`${finding.id}: ${JSON.stringify(made.problems)}`);
        const after = findingsOf(made.value);
        expect(after.map(({ id }) => id)).not.toContain(finding.id);
        expect(after.filter((one) => !before.has(one.id) && rank(one) < rank(finding)).map(({ id }) => [finding.id, id])).toEqual([]);
      }
    }),
    { numRuns: runs(15) },
  );
});
