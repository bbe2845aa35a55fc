import { clockTime } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useMemo, useRef, useState, type DragEvent, type KeyboardEvent } from 'react';
import { addSolid, canBeMoved, chosenThings, moveSelection, placeThing, previewMove, type PlanBox } from '../state/authoring.ts';
import { benchActions } from '../state/bench.ts';
import { ledgerOf } from '../state/lines.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { happenings } from '../ui/happenings.ts';
import { usePalette } from '../ui/palette.ts';
import { PlanDrawing } from '../ui/PlanDrawing.tsx';
import type { Pressed } from '../ui/PlanThing.tsx';
import { fitPlan, type PlanScale } from '../ui/planScale.ts';
import { useSize } from '../ui/useSize.ts';
import { PlanTools } from './PlanTools.tsx';
import { KIND_DRAGGED } from '../ui/dragging.ts';

/** Places snap to this, unless Alt is held. Units. */
const SNAP = 0.25;
/** A press that moves less than this is a click. Pixels. */
const STILL = 3;

const snapped = (value: number, freely: boolean): number => {
  const grain = freely ? 0.01 : SNAP;
  return Number((Math.round(value / grain) * grain).toFixed(4));
};

interface At {
  readonly x: number;
  readonly y: number;
}

/** The place of a pointer on the level. */
function placeOf(frame: HTMLElement | null, scale: PlanScale, event: { clientX: number; clientY: number }): At {
  const box = frame?.getBoundingClientRect();
  const [left, top] = [scale.x(0), scale.y(0)];
  return {
    x: (event.clientX - (box?.left ?? 0) - left) / scale.pixelsPerUnit,
    y: (top - (event.clientY - (box?.top ?? 0))) / scale.pixelsPerUnit,
  };
}

function boxBetween(a: At, b: At): PlanBox {
  return { x: Math.min(a.x, b.x), y: Math.min(a.y, b.y), width: Math.abs(a.x - b.x), height: Math.abs(a.y - b.y) };
}

/** Follows a press until the button is let go. `move` is told the way since, `end` whether it was one at all. */
function follow(
  start: { clientX: number; clientY: number },
  move: (event: PointerEvent) => void,
  end: (event: PointerEvent, moved: boolean) => void,
) {
  let moved = false;
  const onMove = (event: PointerEvent): void => {
    moved ||= Math.hypot(event.clientX - start.clientX, event.clientY - start.clientY) > STILL;
    if (moved) move(event);
  };
  const onUp = (event: PointerEvent): void => {
    removeEventListener('pointermove', onMove);
    removeEventListener('pointerup', onUp);
    end(event, moved);
  };
  addEventListener('pointermove', onMove);
  addEventListener('pointerup', onUp);
}

/** The level from above at the moment of the needle, with the run's track over the ghost's. Things are chosen, moved, placed and drawn here. */
export function Plan({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const palette = usePalette();
  const { simulated, moment, selection, tool } = useAppSelector((state) => state.bench);
  const [band, setBand] = useState<PlanBox | null>(null);
  const [dragged, setDragged] = useState<readonly string[]>([]);
  const { width: levelWidth, height: levelHeight } = level.size;
  const scale = useMemo(() => fitPlan(levelWidth, levelHeight, width, height), [levelWidth, levelHeight, width, height]);
  const labels = useMemo(
    () => (moment === null || simulated.now === null ? [] : happenings(simulated.now.level, moment, ledgerOf(simulated.now), palette)),
    [moment, simulated.now, palette],
  );

  /** Moves what is chosen along with the pointer. */
  const drag = useCallback(
    (event: MouseEvent) => {
      const from = placeOf(frame.current, scale, event);
      const { selection: chosen, open } = store.getState().bench;
      const way = (to: PointerEvent): At => {
        const at = placeOf(frame.current, scale, to);
        return { x: snapped(at.x - from.x, to.altKey), y: snapped(at.y - from.y, to.altKey) };
      };
      follow(
        event,
        (to) => {
          setDragged(open === null ? [] : chosen.placements.filter((id) => canBeMoved(open.level, id)));
          const { x, y } = way(to);
          previewMove(store, x, y);
        },
        (to, moved) => {
          setDragged([]);
          const { x, y } = way(to);
          if (moved) moveSelection(store, x, y);
        },
      );
    },
    [store, scale],
  );

  /** Draws a box with the pointer, and does something with it. */
  const drawBox = useCallback(
    (event: MouseEvent, done: (box: PlanBox | null) => void, snaps: boolean) => {
      const corner = (at: { clientX: number; clientY: number; altKey: boolean }): At => {
        const { x, y } = placeOf(frame.current, scale, at);
        return snaps ? { x: snapped(x, at.altKey), y: snapped(y, at.altKey) } : { x, y };
      };
      const from = corner(event);
      follow(
        event,
        (to) => setBand(boxBetween(from, corner(to))),
        (to, moved) => {
          setBand(null);
          done(moved ? boxBetween(from, corner(to)) : null);
        },
      );
    },
    [scale],
  );

  const press = useCallback(
    ({ placement, solid }: Pressed, event: MouseEvent) => {
      if (event.button !== 0) return;
      frame.current?.focus({ preventScroll: true });
      const { selection: chosen, open } = store.getState().bench;
      if (open === null) return;
      const { placements } = open.level;
      if (tool === 'place') {
        const { x, y } = placeOf(frame.current, scale, event);
        if (chosen.kind !== null) placeThing(store, chosen.kind, snapped(x, event.altKey), snapped(y, event.altKey));
        return;
      }
      if (tool !== 'select') {
        drawBox(event, (box) => box !== null && box.width > 0 && box.height > 0 && addSolid(store, box, tool === 'one-way'), true);
        return;
      }
      if (placement !== undefined) {
        const had = chosen.placements.includes(placement);
        const others = chosen.placements.filter((id) => id !== placement);
        const next = event.shiftKey ? (had ? others : [...others, placement]) : had ? chosen.placements : [placement];
        store.dispatch(benchActions.selected(chosenThings(open.level, next)));
        if (next.includes(placement)) drag(event);
      } else if (solid !== undefined) {
        store.dispatch(benchActions.selected({ solid }));
        drag(event);
      } else {
        drawBox(
          event,
          (box) => {
            const within = Object.entries(placements).filter(
              ([, { x, y }]) => box !== null && x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height,
            );
            store.dispatch(
              benchActions.selected(
                chosenThings(
                  open.level,
                  within.map(([id]) => id),
                ),
              ),
            );
          },
          false,
        );
      }
    },
    [store, scale, tool, drag, drawBox],
  );

  const onKey = (event: KeyboardEvent): void => {
    // By keyboard, things and solids begin in the middle and are moved from there.
    const [middleX, middleY] = [snapped(levelWidth / 2, false), snapped(levelHeight / 2, false)];
    if (event.key === 'Enter' && tool === 'place' && selection.kind !== null) placeThing(store, selection.kind, middleX, middleY);
    else if (event.key === 'Enter' && (tool === 'solid' || tool === 'one-way')) {
      addSolid(store, { x: middleX, y: middleY, width: 2, height: tool === 'solid' ? 2 : 0.5 }, tool === 'one-way');
    }
    const way = event.shiftKey ? 1 : event.altKey ? 0.05 : SNAP;
    const [x, y] = { ArrowLeft: [-way, 0], ArrowRight: [way, 0], ArrowUp: [0, way], ArrowDown: [0, -way] }[event.key] ?? [0, 0];
    if ((x === 0 && y === 0) || (selection.placements.length === 0 && selection.solid === null)) return;
    event.preventDefault();
    moveSelection(store, x ?? 0, y ?? 0);
  };
  const drop = (event: DragEvent): void => {
    const kind = event.dataTransfer.getData(KIND_DRAGGED);
    if (kind === '') return;
    event.preventDefault();
    const { x, y } = placeOf(frame.current, scale, event);
    placeThing(store, kind, snapped(x, event.altKey), snapped(y, event.altKey));
  };
  const described =
    moment === null
      ? 'no run'
      : `the run at ${clockTime(moment.seconds)}: ${labels.map(({ text }) => text).join(', ') || 'nothing just happened'}`;
  return (
    <section aria-label="Plan" className="relative h-full overflow-hidden rounded-sm border-[1.3px] border-ink bg-panel">
      <div
        ref={frame}
        className={`absolute inset-0 ${tool === 'select' ? '' : 'cursor-crosshair'}`}
        role="img"
        aria-label={`Plan of ${level.name}, ${described}`}
        tabIndex={0}
        onKeyDown={onKey}
        onDragOver={(event) => event.dataTransfer.types.includes(KIND_DRAGGED) && event.preventDefault()}
        onDrop={drop}
      >
        <PlanDrawing
          level={level}
          width={width}
          height={height}
          moment={moment}
          track={simulated.now}
          ghost={simulated.compared}
          labels={labels}
          selectedKind={selection.kind}
          selectedPlacements={selection.placements}
          selectedSolid={selection.solid}
          dragged={dragged}
          showHidden
          onPress={press}
        />
        {band !== null && (
          <div
            className="pointer-events-none absolute border-[1.3px] border-dashed border-needle"
            style={{
              left: scale.x(band.x),
              top: scale.y(band.y + band.height),
              width: band.width * scale.pixelsPerUnit,
              height: band.height * scale.pixelsPerUnit,
            }}
          />
        )}
      </div>
      <PlanTools tool={tool} kind={selection.kind} level={level} onChoose={(next) => store.dispatch(benchActions.toolChosen(next))} />
    </section>
  );
}
