import { dialName } from '../../formats/index.ts';
import type { Level } from '../../level/index.ts';
import { figureName, type SensitivityResult, type SensitivitySettings } from '../../studies/index.ts';
import type { Found, Severity } from '../finding.ts';
import { figure } from '../saying.ts';

/** A dial whose double moves an outcome by less than sessions differ by themselves. */
export const notFelt = {
  code: 'not-felt',
  title: 'a value that may be doubled, and nobody feels it',
  severity: 'worth a look' as Severity,
  find(level: Level, { dials, figure: asked, share }: SensitivitySettings, { effects, spread = null }: SensitivityResult): Found[] {
    if (spread === null || spread <= 0) return [];
    return effects.flatMap(({ dial, moves, up, down }): Found[] => {
      const one = dials[dial];
      if (one === undefined || moves === null || up === down) return [];
      // Nudged by a share down and up it moves so far; going on like that, by its whole value so much more.
      const doubled = Math.max(Math.abs(moves.low), Math.abs(moves.high)) / (2 * share);
      if (doubled >= spread) return [];
      const [path = ''] = one.paths;
      const shown = (value: number): string => figure(Number(value.toFixed(1)));
      return [
        {
          subject: path,
          at: path,
          what: `Nobody feels ${dialName(level, one)}.`,
          why: `Going on as it does here, twice the value moves ${figureName(level, asked)} by ${shown(doubled)} at most; by ${shown(spread)} sessions differ anyway.`,
          cause: [path, asked],
        },
      ];
    });
  },
};
