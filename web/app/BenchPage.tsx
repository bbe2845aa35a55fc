import { clockTime, fileName, levelText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useEffect } from 'react';
import { Link, useParams, useSearchParams } from 'react-router';
import { Dials } from '../dials/Dials.tsx';
import { Ledger } from '../ledger/Ledger.tsx';
import { Plan } from '../plan/Plan.tsx';
import { benchActions, type OpenLevel } from '../state/bench.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { useOpenLevel } from '../state/useOpenLevel.ts';
import { Strip } from '../strip/Strip.tsx';
import { Tray } from '../tray/Tray.tsx';
import { AppHeader } from '../ui/AppHeader.tsx';
import { Button, buttonClass, Notice } from '../ui/controls.tsx';
import { download } from '../ui/download.ts';
import { Versions } from '../versions/Versions.tsx';
import { CommandList } from './CommandList.tsx';
import { RunCaption } from './RunCaption.tsx';
import { SavedState, SaveTrouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

/** Moves the needle with real time while it runs. */
function useRunningNeedle(): void {
  const store = useAppStore();
  const playing = useAppSelector((state) => state.bench.playing);
  useEffect(() => {
    if (!playing) return;
    const { needleStep, simulated } = store.getState().bench;
    const rate = simulated.now?.rate ?? 60;
    const from = simulated.now !== null && needleStep >= simulated.now.steps ? 0 : needleStep;
    let began: number | null = null;
    let frame = 0;
    const tick = (time: number): void => {
      began ??= time;
      const steps = store.getState().bench.simulated.now?.steps ?? 0;
      const step = from + ((time - began) / 1000) * rate;
      store.dispatch(benchActions.needleMoved(step));
      if (step >= steps) store.dispatch(benchActions.playingChanged(false));
      else frame = requestAnimationFrame(tick);
    };
    frame = requestAnimationFrame(tick);
    return () => cancelAnimationFrame(frame);
  }, [store, playing]);
}

function BenchHeader({ open, level }: { readonly open: OpenLevel; readonly level: Level }) {
  const dispatch = useAppDispatch();
  const undo = useAppSelector((state) => state.bench.undo);
  const redo = useAppSelector((state) => state.bench.redo);
  const needleStep = useAppSelector((state) => state.bench.needleStep);
  const path = `/levels/${encodeURIComponent(open.id)}`;
  const undone = undo.at(-1)?.label;
  const redone = redo.at(-1)?.label;
  return (
    <AppHeader>
      <h1 className="truncate text-sm font-bold">{level.name}</h1>
      <Versions open={open} level={level} />
      <nav aria-label="Level" className="ml-3 flex self-stretch">
        <span aria-current="page" className="flex items-center border-b-[3px] border-needle px-3 pt-[3px] font-semibold">
          Bench
        </span>
        <Link
          to={`${path}/play`}
          className="flex items-center border-b-[3px] border-transparent px-3 pt-[3px] font-semibold hover:border-line"
        >
          Play
        </Link>
      </nav>
      <div className="ml-auto flex items-center gap-2">
        <SavedState />
        <button
          type="button"
          title="Find a command, and learn its key"
          className="cursor-pointer rounded-sm border border-line bg-card px-1.5 py-0.5 font-mono text-xs hover:border-ink"
          onClick={() => dispatch(benchActions.panelShown('commands'))}
        >
          Ctrl+K
        </button>
        <Button
          kind="quiet"
          disabled={undone === undefined}
          title={undone === undefined ? '' : `${undone} (Ctrl+Z)`}
          onClick={() => dispatch(benchActions.undone(crypto.randomUUID()))}
        >
          Undo
        </Button>
        <Button
          kind="quiet"
          disabled={redone === undefined}
          title={redone === undefined ? '' : `${redone} (Shift+Ctrl+Z)`}
          onClick={() => dispatch(benchActions.redone(crypto.randomUUID()))}
        >
          Redo
        </Button>
        <Button onClick={() => download(fileName(level.name, 'json'), levelText(open.level), 'application/json')}>Export</Button>
        {open.run !== null && (
          <Link to={`${path}/play?run=${open.run.id}&at=${String(needleStep)}`} className={buttonClass('strong')}>
            Take over at {clockTime(needleStep / level.rate, 0)}
          </Link>
        )}
      </div>
    </AppHeader>
  );
}

function Bench({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.bench.turning) ?? open.level;
  const trouble = useAppSelector((state) => state.bench.trouble);
  const ledgerOpen = useAppSelector((state) => state.bench.ledgerShown);
  const dispatch = useAppDispatch();
  const toggleLedger = useCallback(() => dispatch(benchActions.ledgerToggled()), [dispatch]);
  useCommandKeys();
  useRunningNeedle();
  useEffect(() => {
    document.title = `${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex h-full min-h-[560px] flex-col">
      <BenchHeader open={open} level={level} />
      <CommandList />
      <Tray level={level} />
      <SaveTrouble />
      {trouble !== null && <Notice>{trouble}</Notice>}
      <main className="flex min-h-0 flex-1">
        <div className="flex min-w-0 flex-1 flex-col p-2.5 pb-2">
          <div className="min-h-[200px] flex-[1.72]">
            <Plan level={level} />
          </div>
          <RunCaption level={level} ledgerOpen={ledgerOpen} onLedger={toggleLedger} />
          <div className="min-h-[150px] flex-1">{ledgerOpen ? <Ledger level={level} /> : <Strip />}</div>
        </div>
        <div className="w-[340px] shrink-0">
          <Dials level={level} />
        </div>
      </main>
    </div>
  );
}

/** Where one shapes and tunes a level: Tray, Plan, Strip and Dials. */
export function BenchPage() {
  const { level: id = '' } = useParams();
  const [search] = useSearchParams();
  const { open, trouble } = useOpenLevel(id, search.get('run'));
  if (trouble !== null) {
    return (
      <>
        <AppHeader />
        <div className="p-4">
          <Notice>
            <span className="flex-1">{trouble}</span>
            <Link to="/" className={buttonClass()}>
              All levels
            </Link>
          </Notice>
        </div>
      </>
    );
  }
  if (open === null) return <p className="p-4 text-soft">Fetching the level …</p>;
  return <Bench key={open.id} open={open} />;
}
