import type { DialSpec } from '@dial/core/level';
import { useEffect, useState } from 'react';
import type { OutcomeCurve } from '../controls/tape/Tape.tsx';
import { api } from '../state/server/api.ts';
import { useStudiesQuery } from '../state/server/lists.ts';
import { useAppSelector } from '../state/store.ts';

/** The curve of the last sweep of a dial, as long as nothing else of the level has changed since. */
export function useSweptCurve(spec: DialSpec | null): OutcomeCurve | null {
  const open = useAppSelector((state) => state.document.open);
  const { data: studies = [] } = useStudiesQuery(open?.id ?? '', { skip: open === null });
  const key = spec?.paths.join(' ');
  const newest = studies.find(({ settings }) => {
    if (!('kind' in settings) || settings.kind !== 'sweep') return false;
    return settings.of.dials.length === 1 && settings.of.dials[0]?.paths.join(' ') === key;
  });
  const [id, level, study] = [open?.id ?? null, open?.level ?? null, newest?.id ?? null];
  const [found, setFound] = useState<{ readonly study: string; readonly curve: OutcomeCurve | null } | null>(null);
  useEffect(() => {
    if (id === null || level === null || study === null) return;
    let wanted = true;
    const take = (curve: OutcomeCurve | null): void => {
      if (wanted) setFound({ study, curve });
    };
    // The curve is an extra: without it the dial turns just the same.
    Promise.all([import('./sweptCurve.ts'), api.getStudy(id, study)]).then(
      ([{ curveNow, sweptIn }, reply]) => {
        const swept = sweptIn(reply);
        take(swept === null ? null : curveNow(level, swept));
      },
      () => take(null),
    );
    return () => {
      wanted = false;
    };
  }, [id, level, study]);
  return found !== null && found.study === study ? found.curve : null;
}
