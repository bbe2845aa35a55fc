import type { Level } from '@dial/core/level';
import { HEAT_LAYERS } from '@dial/core/studies';
import { Radios } from '../controls/Radios.tsx';
import { HeatCells } from '../drawing/plan/HeatCells.tsx';
import type { PlanScale } from '../drawing/plan/planScale.ts';
import { crowdActions } from '../state/slices/crowd.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';

/** Where the crowd beside the run was, was hurt, stood or died, over the Plan; nothing where it is not asked for. */
export function PlanHeat({ level, scale }: { readonly level: Level; readonly scale: PlanScale }) {
  const layer = useAppSelector((state) => state.crowd.heat);
  const heat = useAppSelector((state) => state.crowd.shown.now?.heat ?? null);
  if (layer === null || heat === null) return null;
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
      <HeatCells level={level} heat={heat} layer={layer} scale={scale} />
    </svg>
  );
}

/** Which of that is shown. */
export function PlanHeatChoice() {
  const dispatch = useAppDispatch();
  const layer = useAppSelector((state) => (state.crowd.shown.now === null ? null : state.crowd.heat));
  if (layer === null) return null;
  return (
    <div className="absolute right-1.5 bottom-1.5 rounded-sm border border-line bg-card px-1.5 py-0.5 text-xs">
      <Radios
        label="the crowd"
        value={layer}
        options={HEAT_LAYERS.map((one) => [one, one] as const)}
        onChoose={(chosen) => dispatch(crowdActions.heatChosen(chosen))}
      />
    </div>
  );
}
