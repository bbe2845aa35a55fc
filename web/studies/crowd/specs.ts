import { plainNumber } from '@dial/core/formats';
import { entry, inOrder, wishedOf, type Level, type Wished } from '@dial/core/level';
import { measureOf, measuresOf, type SessionRow } from '@dial/core/studies';
import type { DotsSpec, LinesSpec } from '../../charts/spec.ts';
import type { CrowdResult } from './result.ts';

export const personaName = (level: Level, persona: string | null): string =>
  persona === null ? 'all' : (entry(level.personas, persona)?.name ?? persona);

/** How many are alive over time, a line for each persona. */
export function aliveSpec({ level, study, report }: CrowdResult): LinesSpec {
  const played = report.all.spreads.find(({ measure }) => measure === 'time')?.ninetieth ?? 1;
  const most = Math.max(1, played, report.all.alive.at(-1)?.seconds ?? 0);
  const high = Math.min(study.settings.seconds, Math.ceil(most));
  return {
    kind: 'lines',
    label: 'Alive over time, of 100',
    x: { name: 'seconds', low: 0, high, words: (x) => `${plainNumber(x, 0)} s` },
    panels: [
      {
        name: 'alive',
        low: 0,
        high: 100,
        lines: report.personas
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
            return { name: personaName(level, persona), points: [[0, 100], ...steps, [high, share]] };
          }),
      },
    ],
  };
}

/** Rows of one persona in the order in which its dots stand. */
export const rowsOf = ({ summary }: CrowdResult, persona: number): SessionRow[] => summary.rows.filter((row) => row.persona === persona);

/** Where the targets of a level wish the sessions of a persona to lie. */
const wishedFor = (level: Level, persona: string, measure: string): Wished[] =>
  inOrder(level.targets).flatMap(([, target]) => {
    const its = target.personas.length === 0 || target.personas.includes(persona);
    return its && measureOf(level, target.outcome).name === measure ? (wishedOf(target) ?? []) : [];
  });

export function dotsSpec(result: CrowdResult, measure: string): DotsSpec | null {
  const { level, study, report } = result;
  const asked = measuresOf(level).find(({ name }) => name === measure);
  if (asked === undefined) return null;
  const all = result.summary.rows.map(asked.of);
  const rows = study.settings.personas.flatMap(({ persona }, at) => {
    const spread = report.personas[at]?.spreads.find((one) => one.measure === measure);
    return spread === undefined
      ? []
      : [
          {
            name: personaName(level, persona),
            values: rowsOf(result, at).map(asked.of),
            tenth: spread.tenth,
            median: spread.median.value,
            ninetieth: spread.ninetieth,
            wished: wishedFor(level, persona, measure),
          },
        ];
  });
  const low = asked.least ?? all.reduce((least, one) => Math.min(least, one), 0);
  const high = all.reduce((most, one) => Math.max(most, one), asked.most ?? low + 1);
  return { kind: 'dots', label: `${measure}, a dot a session`, rows, x: { name: measure, low, high } };
}
