import { plainNumber } from '@dial/core/formats';
import { entry, inOrder, wishedOf, type Level, type Wished } from '@dial/core/level';
import { measureOf, measuresOf, type SessionRow } from '@dial/core/studies';
import type { ChartLine, DotsRow, DotsSpec, LinesSpec } from '../../charts/spec.ts';
import type { CrowdResult } from './result.ts';

export const personaName = (level: Level, persona: string | null): string =>
  persona === null ? 'all' : (entry(level.personas, persona)?.name ?? persona);

const lastOf = ({ report }: CrowdResult): number =>
  Math.max(1, report.all.spreads.find(({ measure }) => measure === 'time')?.ninetieth ?? 1, report.all.alive.at(-1)?.seconds ?? 0);

/** How many are alive over time, a line for each persona: as steps. */
const aliveLines = ({ level, report }: CrowdResult, high: number): ChartLine[] =>
  report.personas
    .filter(({ sessions }) => sessions > 0)
    .map(({ persona, alive }) => {
      let share = 100;
      const steps = alive.flatMap((step): [number, number][] => {
        const before = share;
        share = 100 * step.share;
        return [
          [step.seconds, before],
          [step.seconds, share],
        ];
      });
      return { name: personaName(level, persona), points: [[0, 100], ...steps, [Math.max(high, steps.at(-1)?.[0] ?? 0), share]] };
    });

/** How many are alive over time, a line for each persona; over those of the crowd it is compared with. */
export function aliveSpec(result: CrowdResult, was: CrowdResult | null = null): LinesSpec {
  const most = Math.max(lastOf(result), was === null ? 0 : lastOf(was));
  const high = Math.min(Math.max(result.study.settings.seconds, was?.study.settings.seconds ?? 0), Math.ceil(most));
  const compared = was === null ? [] : aliveLines(was, high).map((line) => ({ ...line, was: true }));
  return {
    kind: 'lines',
    label: 'Alive over time, of 100',
    x: { name: 'seconds', low: 0, high, words: (x) => `${plainNumber(x, 0)} s` },
    panels: [{ name: 'alive', low: 0, high: 100, lines: [...aliveLines(result, high), ...compared] }],
  };
}

/** The session of a persona that comes to its end nearest to a time: of those that lose a life, where there are any, the first loss. */
export function endingAt(result: CrowdResult, persona: number, seconds: number): { readonly row: SessionRow; readonly at: number } | null {
  const rows = rowsOf(result, persona).map((row) => ({ row, at: row.deaths[0]?.seconds ?? null }));
  const dying = rows.flatMap(({ row, at }) => (at === null ? [] : [{ row, at }]));
  const ends = dying.length > 0 ? dying : rows.map(({ row }) => ({ row, at: row.seconds }));
  return ends.reduce<(typeof ends)[number] | null>(
    (best, one) => (best === null || Math.abs(one.at - seconds) < Math.abs(best.at - seconds) ? one : best),
    null,
  );
}

/** Rows of one persona in the order in which its dots stand. */
export const rowsOf = ({ summary }: CrowdResult, persona: number): SessionRow[] => summary.rows.filter((row) => row.persona === persona);

/** Where the targets of a level wish the sessions of a persona to lie. */
const wishedFor = (level: Level, persona: string, measure: string): Wished[] =>
  inOrder(level.targets).flatMap(([, target]) => {
    const its = target.personas.length === 0 || target.personas.includes(persona);
    return its && measureOf(level, target.outcome).name === measure ? (wishedOf(target) ?? []) : [];
  });

/** What a measure comes to in the sessions of one persona; null: it plays none, or there is no such measure. */
function spreadOf(result: CrowdResult, persona: string, measure: string): DotsRow['was'] {
  const at = result.study.settings.personas.findIndex((one) => one.persona === persona);
  const spread = result.report.personas[at]?.spreads.find((one) => one.measure === measure);
  const asked = measuresOf(result.level).find(({ name }) => name === measure);
  if (spread === undefined || asked === undefined) return null;
  const { tenth, median, ninetieth } = spread;
  return { values: rowsOf(result, at).map(asked.of), tenth, median: median.value, ninetieth };
}

/** A measure over the sessions of each persona, a dot a session; over those of the crowd it is compared with. */
export function dotsSpec(result: CrowdResult, measure: string, was: CrowdResult | null = null): DotsSpec | null {
  const { level, study } = result;
  const asked = measuresOf(level).find(({ name }) => name === measure);
  if (asked === undefined) return null;
  const rows = study.settings.personas.flatMap(({ persona }): DotsRow[] => {
    const spread = spreadOf(result, persona, measure);
    if (spread === null) return [];
    const before = was === null ? null : spreadOf(was, persona, measure);
    return [{ name: personaName(level, persona), ...spread, wished: wishedFor(level, persona, measure), was: before }];
  });
  const all = rows.flatMap((row) => [...row.values, ...(row.was?.values ?? [])]);
  const low = asked.least ?? all.reduce((least, one) => Math.min(least, one), 0);
  const high = all.reduce((most, one) => Math.max(most, one), asked.most ?? low + 1);
  return { kind: 'dots', label: `${measure}, a dot a session`, rows, x: { name: measure, low, high } };
}
