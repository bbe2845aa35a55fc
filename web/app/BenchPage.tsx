import { segmentsOf } from '@dial/core/level';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useSearchParams } from 'react-router';
import { Divider, useDivided } from '../controls/Divider.tsx';
import { useWide } from '../controls/hooks/useWide.ts';
import { ContextMenu } from '../controls/ContextMenu.tsx';
import { later } from '../controls/later.tsx';
import { TabPage, Tabs } from '../controls/Tabs.tsx';
import { focusDial } from '../dials/DialGroup.tsx';
import { Dials } from '../dials/Dials.tsx';
import { Plan } from '../plan/Plan.tsx';
import { PlanList } from '../plan/PlanList.tsx';
import { playbackActions } from '../state/slices/playback.ts';
import { simulatedActions } from '../state/slices/simulated.ts';
import { isShown } from '../state/sync/opening.ts';
import { viewActions, type Evidence } from '../state/slices/view.ts';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Strip } from '../strip/Strip.tsx';
import { KindDragging } from '../tray/KindDragging.tsx';
import { Tray } from '../tray/Tray.tsx';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { CrowdCaption } from './CrowdCaption.tsx';
import { RunCaption } from './RunCaption.tsx';
import { SaveTrouble, Trouble } from './Saved.tsx';
import { useContextItems } from './useContextItems.ts';
import { useCommandKeys } from './useCommandKeys.ts';

// What is not on the page at first does not keep it waiting.
const Ghost = later(() => import('../ghost/Ghost.tsx').then((module) => module.Ghost), { soon: true });
const Ledger = later(() => import('../ledger/Ledger.tsx').then((module) => module.Ledger), { soon: true });
const Findings = later(() => import('../findings/Findings.tsx').then((module) => module.Findings), { soon: true });
const TargetLine = later(() => import('./TargetLine.tsx').then((module) => module.TargetLine), { soon: true });
const Tour = later(() => import('../tour/Tour.tsx').then((module) => module.Tour));

/** Moves the needle with real time while it runs. */
function useRunningNeedle(): void {
  const store = useAppStore();
  const playing = useAppSelector((state) => state.playback.playing);
  const pace = useAppSelector((state) => state.playback.pace);
  useEffect(() => {
    if (!playing) return;
    const { needleStep, steps: last } = store.getState().playback;
    const rate = store.getState().simulated.shown.now?.rate ?? 60;
    const from = needleStep >= last ? 0 : needleStep;
    let began: number | null = null;
    let frame = 0;
    const tick = (time: number): void => {
      began ??= time;
      const { steps } = store.getState().playback;
      const step = from + ((time - began) / 1000) * rate * pace;
      store.dispatch(playbackActions.needleMoved(step));
      if (step >= steps) store.dispatch(playbackActions.playingChanged(false));
      else frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [store, playing, pace]);
}

/** A dial is looked for in so many frames: the column of what it is of is made first. */
const FRAMES_WAITED = 60;

/** The share of the height that the Strip has of what it and the Plan have together. */
const SHARE = 0.345;
const SHARES = [0.12, 0.75] as const;
/** The width of the dials, on a page of usual width and on a wide one, where they stand in two columns. Pixels. */
const DIALS = 340;
const WIDE_DIALS = 640;
const DIALS_WIDTHS = [280, 900] as const;
/** From here on a page is wide. Pixels. */
const WIDE = 1800;
const evidenceClass = 'h-[260px] shrink-0 desk:h-auto desk:min-h-[100px] desk:shrink desk:grow-(--share) desk:basis-0';

/** Puts the needle where the address asks for, and the starting state, once the run it names is there: a session of a crowd is opened so. */
function useAskedMoment(search: URLSearchParams): void {
  const store = useAppStore();
  const run = useAppSelector((state) => state.simulated.run);
  const level = useAppSelector((state) => state.document.open?.level);
  const rate = useAppSelector((state) => state.simulated.shown.now?.rate);
  const done = useRef('');
  useEffect(() => {
    const asked = search.toString();
    const at = Number(search.get('at') ?? NaN);
    const from = search.get('from');
    if (rate === undefined || level === undefined || done.current === asked || !isShown({ level, run }, search.get('run') ?? '')) return;
    done.current = asked;
    if (from !== null) store.dispatch(simulatedActions.startFromChosen(from === '' ? null : from));
    if (Number.isFinite(at)) store.dispatch(playbackActions.needleMoved(Math.max(0, Math.round(at * rate))));
  }, [store, run, level, rate, search]);
}

/** Shows and focuses the dial that the address asks for: one that was pressed on another page. */
function useAskedDial(search: URLSearchParams): void {
  const store = useAppStore();
  const path = search.get('dial');
  useEffect(() => {
    if (path === null || path === '') return;
    const [map, id] = segmentsOf(path);
    store.dispatch(viewActions.selected(map === 'kinds' && id !== undefined ? { kind: id } : {}));
    let left = FRAMES_WAITED;
    let frame = 0;
    const look = (): void => {
      left -= 1;
      if (!focusDial(path) && left > 0) frame = requestAnimationFrame(look);
    };
    frame = requestAnimationFrame(look);
    return () => cancelAnimationFrame(frame);
  }, [store, path]);
}

function Bench({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.document.turning) ?? open.level;
  const store = useAppStore();
  const evidence = useAppSelector((state) => state.view.evidence);
  const listShown = useAppSelector((state) => state.view.listShown);
  const items = useContextItems();
  const planPart = useRef<HTMLDivElement>(null);
  const strip = useDivided('strip', SHARE, SHARES);
  const dials = useDivided('dials', useWide(WIDE) ? WIDE_DIALS : DIALS, DIALS_WIDTHS);
  const choose = useCallback((chosen: string) => store.dispatch(viewActions.evidenceChosen(chosen as Evidence)), [store]);
  const [search] = useSearchParams();
  const [toured] = useState(() => search.has('tour'));
  useAskedMoment(search);
  useAskedDial(search);
  useCommandKeys('bench');
  useRunningNeedle();
  useEffect(() => {
    document.title = `${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[560px]">
      <LevelHeader open={open} level={level} here="Bench" />
      <CommandList where="bench" />
      {toured && <Tour />}
      <KindDragging level={level}>
        <ContextMenu label="What can be done with the kind" className="contents" items={items.tray}>
          <Tray level={level} />
        </ContextMenu>
        <SaveTrouble />
        <Trouble />
        <main className="flex min-h-0 flex-1 flex-col desk:flex-row">
          <Tabs
            label="Plan and evidence"
            className="flex min-w-0 flex-1 flex-col p-2.5 pb-2"
            style={{ '--share': String(strip.value), '--rest': String(1 - strip.value) }}
            value={evidence}
            onChoose={choose}
          >
            <div
              ref={planPart}
              className="flex h-[320px] shrink-0 desk:h-auto desk:min-h-[160px] desk:shrink desk:grow-(--rest) desk:basis-0"
            >
              {listShown && <PlanList level={level} />}
              <ContextMenu label="What can be done with what is chosen" className="min-w-0 flex-1" items={items.plan}>
                <Plan level={level} />
              </ContextMenu>
            </div>
            <RunCaption level={level} />
            <CrowdCaption level={level} />
            <TargetLine open={open} level={level} />
            <Divider
              label="Height of what stands under the Plan"
              stands="flat"
              className="max-desk:hidden -my-px"
              step={0.02}
              perPixel={() => (1 - strip.value) / Math.max(1, planPart.current?.clientHeight ?? 1)}
              {...strip}
            />
            <TabPage value="strip" className={evidenceClass}>
              <ContextMenu label="What can be done with the run" className="h-full" items={items.strip}>
                <Strip />
              </ContextMenu>
            </TabPage>
            <TabPage value="ledger" className={evidenceClass}>
              <Ledger level={level} />
            </TabPage>
            <TabPage value="ghost" className={evidenceClass}>
              <Ghost level={level} />
            </TabPage>
            <TabPage value="findings" className={evidenceClass}>
              <Findings level={open.level} />
            </TabPage>
          </Tabs>
          <Divider
            label="Width of the dials"
            stands="upright"
            className="max-desk:hidden border-l-[1.5px] border-ink bg-paper"
            step={20}
            perPixel={() => 1}
            {...dials}
          />
          <ContextMenu
            label="What can be done with the dial"
            className="shrink-0 desk:w-(--dials)"
            style={{ '--dials': `${String(dials.value)}px` }}
            items={items.dials}
          >
            <Dials level={level} />
          </ContextMenu>
        </main>
      </KindDragging>
    </div>
  );
}

/** Where one shapes and tunes a level: Tray, Plan, Strip and Dials. */
export function BenchPage() {
  return <LevelPage>{(open) => <Bench key={open.id} open={open} />}</LevelPage>;
}
