import { clockTime } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useMemo, useRef } from 'react';
import { benchActions } from '../state/bench.ts';
import { happenings } from '../ui/happenings.ts';
import { ledgerOf } from '../state/lines.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { usePalette } from '../ui/palette.ts';
import { PlanDrawing } from '../ui/PlanDrawing.tsx';
import { useSize } from '../ui/useSize.ts';

/** The level from above at the moment of the needle, with the run's track over the ghost's. */
export function Plan({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const palette = usePalette();
  const { simulated, moment, selection } = useAppSelector((state) => state.bench);
  const labels = useMemo(
    () => (moment === null || simulated.now === null ? [] : happenings(simulated.now.level, moment, ledgerOf(simulated.now), palette)),
    [moment, simulated.now, palette],
  );
  const { placements } = level;
  const choose = useCallback(
    (placement: string | null) => {
      const kind = placement === null ? null : (placements[placement]?.kind ?? null);
      dispatch(benchActions.selected({ kind, placement }));
    },
    [dispatch, placements],
  );
  const described =
    moment === null
      ? 'no run'
      : `the run at ${clockTime(moment.seconds)}: ${labels.map(({ text }) => text).join(', ') || 'nothing just happened'}`;
  return (
    <section aria-label="Plan" className="relative h-full overflow-hidden rounded-sm border-[1.3px] border-ink bg-panel">
      <div ref={frame} className="absolute inset-0" role="img" aria-label={`Plan of ${level.name}, ${described}`}>
        <PlanDrawing
          level={level}
          width={width}
          height={height}
          moment={moment}
          track={simulated.now}
          ghost={simulated.compared}
          labels={labels}
          selectedKind={selection.kind}
          selectedPlacement={selection.placement}
          showHidden
          onSelect={choose}
        />
      </div>
    </section>
  );
}
