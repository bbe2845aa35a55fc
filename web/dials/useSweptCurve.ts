import type { DialSpec } from '@dial/core/level';
import { useEffect, useState } from 'react';
import type { OutcomeCurve } from '../controls/tape/Tape.tsx';
import type { StudyReply } from '../state/server/api.ts';
import { useStudiesQuery } from '../state/server/lists.ts';
import { useAppSelector } from '../state/store.ts';
import { ofValues, useStudy } from '../state/view/useStudy.ts';

const asItIs = (reply: StudyReply): StudyReply => reply;

/** The curve of the last sweep of a dial, as long as nothing else of the level has changed since. */
export function useSweptCurve(spec: DialSpec | null): OutcomeCurve | null {
  const open = useAppSelector((state) => state.document.open);
  const { data: studies = [] } = useStudiesQuery(open?.id ?? '', { skip: open === null });
  const key = spec?.paths.join(' ');
  const newest = studies.find(({ settings }) => {
    if (!('kind' in settings) || settings.kind !== 'sweep') return false;
    return settings.of.dials.length === 1 && settings.of.dials[0]?.paths.join(' ') === key;
  });
  const study = newest?.id ?? null;
  const { result: reply } = useStudy(open?.id ?? '', study, asItIs, ofValues);
  const level = open?.level ?? null;
  const [found, setFound] = useState<{ readonly of: StudyReply; readonly curve: OutcomeCurve | null } | null>(null);
  useEffect(() => {
    if (level === null || reply === null) return;
    let wanted = true;
    const take = (curve: OutcomeCurve | null): void => {
      if (wanted) setFound({ of: reply, curve });
    };
    // What reads it has the core of studies with it. The curve is an extra: without it the dial turns just the same.
    import('./sweptCurve.ts').then(
      ({ sweptCurve }) => take(sweptCurve(level, reply)),
      () => take(null),
    );
    return () => {
      wanted = false;
    };
  }, [level, reply]);
  return found !== null && found.of === reply ? found.curve : null;
}
