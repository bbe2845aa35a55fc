import { clockTime } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useDeferredValue, useMemo, useRef, useState, type KeyboardEvent } from 'react';
import { addSolid, canBeMoved, chosenThings, moveSelection, placeThing, previewMove, type PlanBox } from '../state/document/authoring.ts';
import { chosenPointers, idsIn } from '../state/view/aside.ts';
import { documentActions } from '../state/slices/document.ts';
import { viewActions } from '../state/slices/view.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { addPoint, addWay, type PlanSpot } from '../state/document/spots.ts';
import { areaSpots, evenArea, evenRow, previewStamps, rowSpots, stamp, usualGap } from '../state/document/stamping.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { usePicture } from '../state/sync/usePicture.ts';
import { goingOn, happenings } from '../drawing/plan/happenings.ts';
import { usePalette } from '../drawing/palette.ts';
import { PlanDrawing } from '../drawing/plan/PlanDrawing.tsx';
import type { PlanTrack } from '../drawing/plan/PlanPlayers.tsx';
import { tracksOf } from './tracks.ts';
import type { Pile, Pressed } from '../drawing/plan/PlanThing.tsx';
import { useSize } from '../controls/useSize.ts';
import type { LetGo } from '../controls/Sortable.tsx';
import { boxBetween, follow, placeOf, SNAP, snapped } from './planPointer.ts';
import { PlanDifferences } from './PlanDifferences.tsx';
import { PlanDrop } from './PlanDrop.tsx';
import { PlanHandles } from './PlanHandles.tsx';
import { PlanOverlay, type Measured } from './PlanOverlay.tsx';
import { PlanTools } from './PlanTools.tsx';
import { usePlanView } from './usePlanView.ts';
import { usePressedAgain } from './usePressedAgain.ts';

/** The ways of all players of a run; the same list as long as nobody goes another way. */
function useTracks(run: ShownRun | null): readonly PlanTrack[] {
  const [tracks, setTracks] = useState<readonly PlanTrack[]>([]);
  const now = run === null ? [] : [run, ...run.others];
  const same = now.length === tracks.length && now.every(({ x, y }, player) => x === tracks[player]?.x && y === tracks[player].y);
  if (!same) setTracks(run === null ? [] : tracksOf(run));
  return tracks;
}

/** The level from above at the moment of the needle, with the run's track over the ghost's. Things are chosen, moved, placed and drawn here. */
export function Plan({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const palette = usePalette();
  const simulated = useAppSelector((state) => state.simulated.shown);
  const moment = useAppSelector((state) => state.simulated.moment);
  const selection = useAppSelector((state) => state.view.selection);
  const tool = useAppSelector((state) => state.view.tool);
  const aside = useAppSelector((state) => state.view.aside);
  const differencesShown = useAppSelector((state) => state.view.differencesShown);
  const compared = useAppSelector((state) => state.document.compared);
  // The Strip comes first: a way of thousands of steps is drawn right after it, and only where it is another.
  const tracks = useDeferredValue(useTracks(simulated.now));
  const ghost = useTracks(simulated.compared)[0] ?? null;
  const [band, setBand] = useState<PlanBox | null>(null);
  const [dragged, setDragged] = useState<readonly string[]>([]);
  const { width: levelWidth, height: levelHeight } = level.size;
  const viewing = usePlanView(frame, { levelWidth, levelHeight, width, height });
  const { scale } = viewing;
  const [way, setWay] = useState<readonly PlanSpot[]>([]);
  const [measured, setMeasured] = useState<Measured | null>(null);
  const [wishedGap, setGap] = useState<number | null>(null);
  const gap = wishedGap ?? (selection.kind === null ? 1 : usualGap(level, selection.kind));
  const [count, setCount] = useState<number | null>(null);
  const hiddenThings = useMemo(() => idsIn(aside.hidden, 'placements'), [aside]);
  const hiddenSolids = useMemo(() => idsIn(aside.hidden, 'solids'), [aside]);
  const picture = usePicture(level.background?.picture ?? null);
  const ghostPlace = useMemo(() => {
    const { now, compared: was } = simulated;
    if (moment === null || now === null || was === null || now.rate !== was.rate) return null;
    const step = Math.min(moment.step, was.steps);
    const [x, y] = [was.x[step] ?? 0, was.y[step] ?? 0];
    const player = moment.players[0];
    // Where both are at one place, one of them is drawn.
    return player !== undefined && Math.hypot(player.x - x, player.y - y) < 0.01 ? null : { x, y };
  }, [simulated, moment]);
  const spaceHeld = useRef(false);
  const pressedAgain = usePressedAgain();
  const labels = useMemo(() => {
    if (moment === null || simulated.now === null) return [];
    const { level: of } = simulated.now;
    return [...happenings(of, moment, ledgerOf(simulated.now), palette), ...goingOn(of, moment, palette)];
  }, [moment, simulated.now, palette]);

  /** Moves what is chosen along with the pointer; `pressed` is told when it was only pressed. */
  const drag = useCallback(
    (event: MouseEvent, pressed: () => void = () => undefined) => {
      const from = placeOf(frame.current, scale, event);
      const { selection: chosen } = store.getState().view;
      const { open } = store.getState().document;
      const gone = (to: PointerEvent): PlanSpot => {
        const at = placeOf(frame.current, scale, to);
        return { x: snapped(at.x - from.x, to.altKey), y: snapped(at.y - from.y, to.altKey) };
      };
      follow(
        event,
        (to) => {
          setDragged(open === null ? [] : chosen.placements.filter((id) => canBeMoved(open.level, id)));
          const { x, y } = gone(to);
          previewMove(store, x, y);
        },
        (to, moved) => {
          setDragged([]);
          const { x, y } = gone(to);
          if (moved) moveSelection(store, x, y);
          else pressed();
        },
        () => {
          setDragged([]);
          store.dispatch(documentActions.turned(null));
        },
      );
    },
    [store, scale],
  );

  /** Draws a box with the pointer, and does something with it. */
  const drawBox = useCallback(
    (event: MouseEvent, done: (box: PlanBox | null) => void, snaps: boolean) => {
      const corner = (at: { clientX: number; clientY: number; altKey: boolean }): PlanSpot => {
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
        () => setBand(null),
      );
    },
    [scale],
  );

  const snappedPlace = useCallback(
    (event: MouseEvent): PlanSpot => {
      const { x, y } = placeOf(frame.current, scale, event);
      return { x: snapped(x, event.altKey), y: snapped(y, event.altKey) };
    },
    [scale],
  );

  /** Places one thing; drawn out, a row of them, or with Shift an area full. */
  const paint = useCallback(
    (event: MouseEvent, kind: string) => {
      const from = snappedPlace(event);
      const spots = (to: MouseEvent): PlanSpot[] => {
        const end = snappedPlace(to);
        if (to.shiftKey) return count === null ? areaSpots(boxBetween(from, end), gap) : evenArea(boxBetween(from, end), count);
        return count === null ? rowSpots(from, end, gap) : evenRow(from, end, count);
      };
      follow(
        event,
        (to) => previewStamps(store, kind, spots(to)),
        (to, moved) => {
          if (moved) stamp(store, kind, spots(to));
          else placeThing(store, kind, from.x, from.y);
        },
        () => store.dispatch(documentActions.turned(null)),
      );
    },
    [store, snappedPlace, gap, count],
  );

  /** Draws a line and says how long it is; it stays until the next press. */
  const measure = useCallback(
    (event: MouseEvent) => {
      const from = snappedPlace(event);
      setMeasured(null);
      follow(
        event,
        (to) => setMeasured({ from, to: snappedPlace(to) }),
        () => undefined,
        () => setMeasured(null),
      );
    },
    [snappedPlace],
  );

  const { pan } = viewing;
  const press = useCallback(
    ({ placement, solid, spot }: Pressed, event: MouseEvent, pile: Pile = () => []) => {
      if (event.button === 1 || spaceHeld.current) {
        event.preventDefault();
        pan(event);
        return;
      }
      const { selection: chosen } = store.getState().view;
      const { open } = store.getState().document;
      if (open === null) return;
      // What the menu is asked of is what is chosen.
      if (event.button === 2) {
        if (placement !== undefined && !chosen.placements.includes(placement))
          store.dispatch(viewActions.selected(chosenThings(open.level, [placement])));
        else if (spot !== undefined) store.dispatch(viewActions.selected({ spot }));
        else if (solid !== undefined) store.dispatch(viewActions.selected({ solid }));
      }
      if (event.button !== 0) return;
      frame.current?.focus({ preventScroll: true });
      const { placements } = open.level;
      if (tool === 'place') {
        if (chosen.kind !== null) paint(event, chosen.kind);
        return;
      }
      if (tool === 'measure') {
        measure(event);
        return;
      }
      if (tool === 'point' || tool === 'path' || tool === 'route') {
        const at = snappedPlace(event);
        if (tool === 'point') addPoint(store, at);
        else setWay((before) => (event.detail > 1 ? before : [...before, at]));
        return;
      }
      if (tool !== 'select') {
        drawBox(event, (box) => box !== null && box.width > 0 && box.height > 0 && addSolid(store, box, tool === 'one-way'), true);
        return;
      }
      const beneath = pressedAgain(event, pile);
      if (beneath !== null) {
        drag(event, beneath);
        return;
      }
      if (placement !== undefined) {
        const had = chosen.placements.includes(placement);
        const others = chosen.placements.filter((id) => id !== placement);
        const next = event.shiftKey ? (had ? others : [...others, placement]) : had ? chosen.placements : [placement];
        store.dispatch(viewActions.selected(chosenThings(open.level, next)));
        if (next.includes(placement)) drag(event);
      } else if (spot !== undefined) {
        store.dispatch(viewActions.selected({ spot }));
        drag(event);
      } else if (solid !== undefined) {
        store.dispatch(viewActions.selected({ solid }));
        drag(event);
      } else {
        drawBox(
          event,
          (box) => {
            const within = Object.entries(placements).filter(
              ([id, { x, y }]) =>
                !hiddenThings.has(id) && box !== null && x >= box.x && x <= box.x + box.width && y >= box.y && y <= box.y + box.height,
            );
            store.dispatch(
              viewActions.selected(
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
    [store, tool, pan, drag, pressedAgain, drawBox, paint, measure, snappedPlace, hiddenThings],
  );

  /** The path or route that is being drawn is done. */
  const finishWay = (): void => {
    const least = tool === 'path' ? 2 : 1;
    setWay([]);
    if (way.length < least) return;
    addWay(store, tool === 'path' ? 'paths' : 'routes', way);
    store.dispatch(viewActions.toolChosen('select'));
  };
  const onKey = (event: KeyboardEvent): void => {
    if (event.key === ' ') {
      event.preventDefault();
      spaceHeld.current = true;
    }
    if (event.key === '0') viewing.fit();
    if (event.key === '+' || event.key === '=') viewing.step(1);
    if (event.key === '-') viewing.step(-1);
    if (way.length > 0 && (event.key === 'Enter' || event.key === 'Escape')) {
      event.stopPropagation();
      if (event.key === 'Enter') finishWay();
      else setWay([]);
      return;
    }
    if (way.length > 0 && (event.key === 'Backspace' || (event.key.toLowerCase() === 'z' && (event.ctrlKey || event.metaKey)))) {
      // What is being drawn is taken back first, point by point; only then what was done before.
      event.preventDefault();
      event.stopPropagation();
      setWay(way.slice(0, -1));
      return;
    }
    // By keyboard, things and solids begin in the middle and are moved from there.
    const [middleX, middleY] = [snapped(levelWidth / 2, false), snapped(levelHeight / 2, false)];
    if (event.key === 'Enter' && tool === 'place' && selection.kind !== null) {
      const reach = Math.min((((count ?? 1) - 1) * gap) / 2, levelWidth / 2 - 1);
      const [left, right] = [-reach, reach].map((by) => ({ x: middleX + by, y: middleY })) as [PlanSpot, PlanSpot];
      if (count === null) placeThing(store, selection.kind, middleX, middleY);
      else stamp(store, selection.kind, evenRow(left, right, count));
    }
    if (event.key === 'Enter' && (tool === 'solid' || tool === 'one-way')) {
      addSolid(store, { x: middleX, y: middleY, width: 2, height: tool === 'solid' ? 2 : 0.5 }, tool === 'one-way');
    } else if (event.key === 'Enter' && tool === 'point') addPoint(store, { x: middleX, y: middleY });
    else if (event.key === 'Enter' && (tool === 'path' || tool === 'route')) {
      const ends = [middleX - 2, middleX + 2].map((x) => ({ x, y: middleY }));
      addWay(store, tool === 'path' ? 'paths' : 'routes', ends);
    }
    const by = event.shiftKey ? 1 : event.altKey ? 0.05 : SNAP;
    const [x, y] = { ArrowLeft: [-by, 0], ArrowRight: [by, 0], ArrowUp: [0, by], ArrowDown: [0, -by] }[event.key] ?? [0, 0];
    const chosen = selection.placements.length > 0 || selection.solid !== null || selection.spot !== null;
    if ((x === 0 && y === 0) || !chosen) return;
    event.preventDefault();
    moveSelection(store, x ?? 0, y ?? 0);
  };
  const drop = (kind: string, at: LetGo): void => {
    const { x, y } = placeOf(frame.current, scale, at);
    placeThing(store, kind, snapped(x, at.altKey), snapped(y, at.altKey));
    // The arrow keys are the placed thing's now, not the Tray's.
    frame.current?.focus();
  };
  const described =
    moment === null
      ? 'no run'
      : `the run at ${clockTime(moment.seconds)}: ${labels.map(({ text }) => text).join(', ') || 'nothing just happened'}`;
  return (
    <section aria-label="Plan" className="flex h-full flex-col overflow-hidden rounded-sm border-[1.3px] border-ink bg-panel">
      <PlanTools
        tool={tool}
        kind={selection.kind}
        chosen={selection.placements.length}
        drawn={way.length}
        gap={gap}
        onGap={setGap}
        count={count}
        onCount={setCount}
        level={level}
        onChoose={(next) => store.dispatch(viewActions.toolChosen(next))}
      />
      <div className="relative min-h-0 flex-1 overflow-hidden">
        <div
          ref={frame}
          className={`absolute inset-0 ${tool === 'select' ? '' : 'cursor-crosshair'}`}
          role="img"
          aria-label={`Plan of ${level.name}, ${described}`}
          tabIndex={0}
          onKeyDown={onKey}
          onKeyUp={(event) => {
            if (event.key === ' ') spaceHeld.current = false;
          }}
          onDoubleClick={() => {
            if (way.length > 0) finishWay();
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
              moment={moment}
              tracks={tracks}
              ghost={ghost}
              ghostPlace={ghostPlace}
              labels={labels}
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
          {differencesShown && compared !== null && viewing.transform === undefined && (
            <PlanDifferences was={compared.level} now={level} scale={scale} />
          )}
          <PlanOverlay scale={scale} way={way} band={band} measured={tool === 'measure' ? measured : null} pace={level.body.speed} />
        </div>
        {tool === 'select' && viewing.transform === undefined && !chosenPointers(selection).some((one) => aside.locked.includes(one)) && (
          <PlanHandles level={level} scale={scale} frame={frame} />
        )}
      </div>
    </section>
  );
}
