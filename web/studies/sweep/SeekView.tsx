import { dialText, seekSentence } from '@dial/core/formats';
import { figureName, type Turned } from '@dial/core/studies';
import { useMemo } from 'react';
import { Chart } from '../../charts/Chart.tsx';
import { Button } from '../../controls/controls.tsx';
import { Answer } from './Answer.tsx';
import type { StudyResult } from './result.ts';
import { seekSpec, type Present } from './specs.ts';

interface SeekViewProps {
  readonly found: StudyResult & { readonly kind: 'seek' };
  readonly present: Present;
  readonly onTake: (turned: readonly Turned[], session: number | null) => void;
}

/** What was found for a wish: the value, none or several; each is taken with one press. */
export function SeekView({ found, present, onTake }: SeekViewProps) {
  const { level, settings, result } = found;
  const { dial, figure } = settings.of;
  const spec = useMemo(() => seekSpec(level, settings.of, result, present), [level, settings.of, result, present]);
  return (
    <>
      <Answer text={seekSentence(level, settings.of, result)} name={figureName(level, figure)} />
      <div className="flex gap-2">
        {result.found.map(({ value }) => (
          <Button key={value} kind="strong" onClick={() => onTake([{ paths: dial.paths, value }], null)}>
            Take {dialText(value)}
          </Button>
        ))}
      </div>
      {spec !== null && <Chart spec={spec} height={320} />}
    </>
  );
}
