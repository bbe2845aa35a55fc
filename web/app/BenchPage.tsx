import type { Level } from '@dial/core/level';
import { useEffect, type ComponentType } from 'react';
import { TabPage, Tabs } from '../controls/Tabs.tsx';
import { Dials } from '../dials/Dials.tsx';
import { Ghost } from '../ghost/Ghost.tsx';
import { Ledger } from '../ledger/Ledger.tsx';
import { Plan } from '../plan/Plan.tsx';
import { PlanList } from '../plan/PlanList.tsx';
import { playbackActions } from '../state/slices/playback.ts';
import { viewActions, type Evidence } from '../state/slices/view.ts';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Strip } from '../strip/Strip.tsx';
import { KindDragging } from '../tray/KindDragging.tsx';
import { Tray } from '../tray/Tray.tsx';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { RunCaption } from './RunCaption.tsx';
import { SaveTrouble, Trouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

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

const EVIDENCE: readonly (readonly [Evidence, ComponentType<{ readonly level: Level }>])[] = [
  ['strip', Strip],
  ['ledger', Ledger],
  ['ghost', Ghost],
];

function Bench({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.document.turning) ?? open.level;
  const store = useAppStore();
  const evidence = useAppSelector((state) => state.view.evidence);
  const listShown = useAppSelector((state) => state.view.listShown);
  useCommandKeys('bench');
  useRunningNeedle();
  useEffect(() => {
    document.title = `${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[560px]">
      <LevelHeader open={open} level={level} here="Bench" />
      <CommandList where="bench" />
      <KindDragging level={level}>
        <Tray level={level} />
        <SaveTrouble />
        <Trouble />
        <main className="flex min-h-0 flex-1 flex-col desk:flex-row">
          <Tabs
            label="Plan and evidence"
            className="flex min-w-0 flex-1 flex-col p-2.5 pb-2"
            value={evidence}
            onChoose={(chosen) => store.dispatch(viewActions.evidenceChosen(chosen as Evidence))}
          >
            <div className="flex h-[320px] min-h-[200px] desk:h-auto desk:flex-[1.9]">
              {listShown && <PlanList level={level} />}
              <div className="min-w-0 flex-1">
                <Plan level={level} />
              </div>
            </div>
            <RunCaption level={level} />
            {EVIDENCE.map(([value, Shown]) => (
              <TabPage key={value} value={value} className="h-[260px] min-h-[150px] desk:h-auto desk:flex-1">
                <Shown level={level} />
              </TabPage>
            ))}
          </Tabs>
          <div className="shrink-0 desk:w-[340px]">
            <Dials level={level} />
          </div>
        </main>
      </KindDragging>
    </div>
  );
}

/** Where one shapes and tunes a level: Tray, Plan, Strip and Dials. */
export function BenchPage() {
  return <LevelPage>{(open) => <Bench key={open.id} open={open} />}</LevelPage>;
}
