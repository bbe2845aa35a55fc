import type { Level } from '@dial/core/level';
import { useMemo, type RefObject } from 'react';
import { documentActions } from '../state/slices/document.ts';
import { preview, tryEdit } from '../state/document/edits.ts';
import { handleRecipe, handlesOf, type Handle } from '../state/document/handles.ts';
import type { PlanSpot } from '../state/document/spots.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Hint } from '../controls/Hint.tsx';
import type { PlanScale } from '../drawing/plan/planScale.ts';
import { follow, placeOf } from './tools/planPointer.ts';

interface HandlesProps {
  readonly level: Level;
  readonly scale: PlanScale;
  readonly frame: RefObject<HTMLElement | null>;
}

/** What of the chosen thing is spatial, to be dragged; the dials say the same in numbers, for the keyboard. */
export function PlanHandles({ level, scale, frame }: HandlesProps) {
  const store = useAppStore();
  const selection = useAppSelector((state) => state.view.selection);
  const onlyThese = useAppSelector((state) => state.view.onlyThese);
  const moment = useAppSelector((state) => state.simulated.moment);
  const [id = ''] = selection.placements;
  const placement = level.placements[id];
  const travelling = placement !== undefined && placement.travel !== null;
  const seen = travelling ? (moment?.placements[id] ?? null) : (placement ?? null);
  const place = useMemo<PlanSpot | null>(() => (seen === null ? null : { x: seen.x, y: seen.y }), [seen]);
  const handles = useMemo(() => handlesOf(level, selection, place, onlyThese), [level, selection, place, onlyThese]);

  const drag = (handle: Handle, event: MouseEvent): void => {
    follow(
      event,
      (to) => preview(store, handleRecipe(handle, placeOf(frame.current, scale, to), to.altKey)),
      (to, moved) => {
        if (moved) tryEdit(store, handle.name, handleRecipe(handle, placeOf(frame.current, scale, to), to.altKey));
      },
      () => store.dispatch(documentActions.turned(null)),
    );
  };
  return (
    <svg className="pointer-events-none absolute inset-0 h-full w-full" aria-hidden>
      {handles.map(({ id: key, guide }) =>
        guide === null ? null : guide.type === 'ring' ? (
          <circle
            key={key}
            cx={scale.x(guide.centre.x)}
            cy={scale.y(guide.centre.y)}
            r={guide.radius * scale.pixelsPerUnit}
            fill="none"
            stroke="var(--needle)"
            strokeWidth="1"
            strokeDasharray="2 4"
          />
        ) : null,
      )}
      {handles.map((handle) => {
        const { id: key, name, at, guide } = handle;
        const [x, y] = [scale.x(at.x), scale.y(at.y)];
        return (
          <g key={key}>
            {guide?.type === 'line' && (
              <line x1={scale.x(guide.from.x)} y1={scale.y(guide.from.y)} x2={x} y2={y} stroke="var(--needle)" strokeWidth="1" />
            )}
            <Hint says={name}>
              <circle
                cx={x}
                cy={y}
                r="4.5"
                data-handle={name}
                className="pointer-events-auto cursor-move"
                fill="var(--card)"
                stroke="var(--needle)"
                strokeWidth="1.6"
                onPointerDown={(event) => {
                  if (event.button !== 0) return;
                  event.stopPropagation();
                  drag(handle, event.nativeEvent);
                }}
              />
            </Hint>
          </g>
        );
      })}
    </svg>
  );
}
