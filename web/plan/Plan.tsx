import { kindOf, type Level } from '@dial/core/level';
import { useCallback, useLayoutEffect, useMemo, useRef, useState } from 'react';
import { chosenThings, placeThing, type PlanBox } from '../state/document/authoring.ts';
import { chosenPointers, idsIn } from '../state/view/aside.ts';
import { viewActions, type PlanTool } from '../state/slices/view.ts';
import type { PlanSpot } from '../state/document/spots.ts';
import { usualGap } from '../state/document/stamping.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { usePicture } from '../state/sync/usePicture.ts';
import { PlanDrawing } from '../drawing/plan/PlanDrawing.tsx';
import type { OnPress } from '../drawing/plan/PlanThing.tsx';
import { useSize } from '../controls/hooks/useSize.ts';
import type { LetGo } from '../controls/Sortable.tsx';
import { PlanFindings } from './PlanFindings.tsx';
import { PlanDifferences } from './PlanDifferences.tsx';
import { PlanDrop } from './PlanDrop.tsx';
import { PlanHandles } from './PlanHandles.tsx';
import { planKey } from './planKeys.ts';
import { PlanOverlay } from './PlanOverlay.tsx';
import { PlanHeat, PlanHeatChoice } from './PlanHeat.tsx';
import { PlanThought } from './PlanThought.tsx';
import { PlanTools } from './PlanTools.tsx';
import { snappedSpot, type Hand, type Measured } from './tools/tool.ts';
import { TOOLS, wayOf } from './tools/tools.ts';
import { finishWay } from './tools/way.ts';
import { usePlanRun } from './usePlanRun.ts';
import { usePlanView, type PlanViewing } from './usePlanView.ts';
import { usePressedAgain } from './usePressedAgain.ts';

/** What a press on the Plan does. One and the same as long as the Plan is shown: with another, every thing would be drawn anew. */
function usePress(handNow: () => Hand, pan: PlanViewing['pan'], spaceHeld: () => boolean): NonNullable<OnPress> {
  return useCallback(
    (on, event, pile = () => []) => {
      if (event.button === 1 || spaceHeld()) {
        event.preventDefault();
        pan(event);
        return;
      }
      const hand = handNow();
      const { selection: chosen, tool } = hand.store.getState().view;
      const { open } = hand.store.getState().document;
      if (open === null) return;
      // What the menu is asked of is what is chosen.
      if (event.button === 2) {
        const { placement, spot, solid } = on;
        if (placement !== undefined && !chosen.placements.includes(placement))
          hand.store.dispatch(viewActions.selected(chosenThings(open.level, [placement])));
        else if (spot !== undefined) hand.store.dispatch(viewActions.selected({ spot }));
        else if (solid !== undefined) hand.store.dispatch(viewActions.selected({ solid }));
      }
      if (event.button !== 0) return;
      hand.frame?.focus({ preventScroll: true });
      TOOLS[tool].press(hand, { event, on, pile, level: open.level, chosen });
    },
    [handNow, pan, spaceHeld],
  );
}

/** The level from above at the moment of the needle, with the run's track over the ghost's. Things are chosen, moved, placed and drawn here. */
export function Plan({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const selection = useAppSelector((state) => state.view.selection);
  const tool = useAppSelector((state) => state.view.tool);
  const aside = useAppSelector((state) => state.view.aside);
  const { described, thought, decided, ...run } = usePlanRun();
  const viewing = usePlanView(frame, { levelWidth: level.size.width, levelHeight: level.size.height, width, height });
  const { scale } = viewing;
  const [band, setBand] = useState<PlanBox | null>(null);
  const [dragged, setDragged] = useState<readonly string[]>([]);
  const [way, setWay] = useState<readonly PlanSpot[]>([]);
  // Another tool taken up drops what was being drawn.
  if (way.length > 0 && wayOf(tool) === null) setWay([]);
  const [measured, setMeasured] = useState<Measured | null>(null);
  const [wishedGap, setGap] = useState<number | null>(null);
  const gap = wishedGap ?? (selection.kind === null ? 1 : usualGap(level, selection.kind));
  const [count, setCount] = useState<number | null>(null);
  const hiddenThings = useMemo(() => idsIn(aside.hidden, 'placements'), [aside]);
  const hiddenSolids = useMemo(() => idsIn(aside.hidden, 'solids'), [aside]);
  const picture = usePicture(level.background?.picture ?? null);
  const pressedAgain = usePressedAgain();
  const making = { scale, hiddenThings, gap, count, way };
  const latest = useRef(making);
  useLayoutEffect(() => {
    latest.current = making;
  });
  const hand = useCallback(
    (): Hand => ({ ...latest.current, store, frame: frame.current, setWay, setBand, setMeasured, setDragged, pressedAgain }),
    [store, pressedAgain],
  );
  const chooseTool = useCallback((next: PlanTool) => store.dispatch(viewActions.toolChosen(next)), [store]);
  const spaceHeld = useRef(false);
  const press = usePress(
    hand,
    viewing.pan,
    useCallback(() => spaceHeld.current, []),
  );
  const drop = (kind: string, at: LetGo): void => {
    const { x, y } = snappedSpot(hand(), at);
    placeThing(store, kind, x, y);
    // The arrow keys are the placed thing's now, not the Tray's.
    frame.current?.focus();
  };
  const still = viewing.transform === undefined;
  return (
    <section aria-label="Plan" className="flex h-full flex-col overflow-hidden rounded-sm border-[1.3px] border-ink bg-panel">
      <PlanTools
        tool={tool}
        kind={selection.kind === null ? undefined : kindOf(level, selection.kind)?.name}
        chosen={selection.placements.length}
        drawn={way.length}
        gap={gap}
        onGap={setGap}
        count={count}
        onCount={setCount}
        seenFrom={level.view}
        onChoose={chooseTool}
      />
      <div className="relative min-h-0 flex-1 overflow-hidden">
        <div
          ref={frame}
          className={`absolute inset-0 ${tool === 'select' ? '' : 'cursor-crosshair'}`}
          role="img"
          aria-label={`Plan of ${level.name}, ${described}`}
          tabIndex={0}
          onKeyDown={(event) => {
            if (event.key === ' ') {
              event.preventDefault();
              spaceHeld.current = true;
            }
            planKey(hand(), viewing, tool, level, selection, event);
          }}
          onKeyUp={(event) => {
            if (event.key === ' ') spaceHeld.current = false;
          }}
          onDoubleClick={() => {
            const map = wayOf(tool);
            if (map !== null && way.length > 0) finishWay(hand(), map);
          }}
        >
          <PlanDrop onDrop={drop} />
          <div style={{ transform: viewing.transform, transformOrigin: '0 0' }}>
            <PlanDrawing
              level={level}
              scale={scale}
              selectedSpot={selection.spot}
              routesShown={tool === 'route'}
              width={width}
              height={height}
              {...run}
              selectedKind={selection.kind}
              selectedPlacements={selection.placements}
              selectedSolid={selection.solid}
              dragged={dragged}
              showHidden
              hiddenThings={hiddenThings}
              hiddenSolids={hiddenSolids}
              onPress={press}
              picture={picture === 'missing' ? null : picture}
            />
          </div>
          {still && <PlanDifferences now={level} scale={scale} />}
          {still && <PlanFindings level={level} scale={scale} />}
          {still && <PlanHeat level={level} scale={scale} />}
          {thought !== null && still && <PlanThought level={level} scale={scale} thought={thought} moment={run.moment} decided={decided} />}
          <PlanOverlay scale={scale} way={way} band={band} measured={tool === 'measure' ? measured : null} pace={level.body.speed} />
        </div>
        <PlanHeatChoice />
        {tool === 'select' && still && !chosenPointers(selection).some((one) => aside.locked.includes(one)) && (
          <PlanHandles level={level} scale={scale} frame={frame} />
        )}
      </div>
    </section>
  );
}
