import { clockTime, lineWords, plainNumber } from '@dial/core/formats';
import { inOrder, type Level, type Meter } from '@dial/core/level';
import type { LedgerLine, Moment } from '@dial/core/session';
import { useEffect, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { api } from '../state/api.ts';
import type { OpenLevel } from '../state/bench.ts';
import { useOpenLevel } from '../state/useOpenLevel.ts';
import { AppHeader } from '../ui/AppHeader.tsx';
import { Button, Notice } from '../ui/controls.tsx';
import { happenings } from '../ui/happenings.ts';
import { usePalette } from '../ui/palette.ts';
import { PlanDrawing } from '../ui/PlanDrawing.tsx';
import { useSize } from '../ui/useSize.ts';
import { startGame, type Game } from './game.ts';
import { watchKeys } from './keys.ts';

const LINES_SHOWN = 40;

interface Picture {
  readonly moment: Moment;
  readonly lines: readonly LedgerLine[];
}

/** Phases and flourishes show on the things themselves; the live ledger tells of changes and refusals. */
const pictureOf = (game: Game): Picture => ({
  moment: game.moment(),
  lines: game.newest(LINES_SHOWN).filter(({ type }) => type !== 'phase' && type !== 'flourish'),
});

function MeterReadout({ id, meter, value }: { readonly id: string; readonly meter: Meter; readonly value: number }) {
  const share = meter.upper === null ? null : Math.max(0, Math.min(1, (value - meter.lower) / Math.max(1e-9, meter.upper - meter.lower)));
  // A few lives or pips are counted, not drawn as a bar.
  const bar = share !== null && !(meter.whole && (meter.upper ?? 0) - meter.lower <= 10);
  const text = id === 'score' ? plainNumber(value, 0).padStart(6, '0') : plainNumber(value, 0);
  return (
    <div className="flex items-center gap-2">
      <span className="text-xs font-semibold">{meter.name}</span>
      {bar && (
        <span className="block h-3 w-24 border-[1.3px] border-ink bg-card">
          <span className="block h-full bg-mend" style={{ width: `${String(share * 100)}%` }} />
        </span>
      )}
      <span className="font-mono text-lg font-semibold">{text}</span>
    </div>
  );
}

function LiveLedger({ level, lines }: { readonly level: Level; readonly lines: readonly LedgerLine[] }) {
  return (
    <aside aria-label="Live ledger" className="flex w-[270px] shrink-0 flex-col border-l-[1.5px] border-ink bg-paper">
      <h2 className="border-b border-line px-3 py-1.5 text-[11px] font-bold text-soft">what happened, newest first</h2>
      <div role="log" tabIndex={0} aria-label="lines" className="min-h-0 flex-1 overflow-y-auto px-3 py-1.5 text-xs">
        <ol>
          {lines.length === 0 && <li className="text-soft">Touch something: what it does, or why it does nothing, is written here.</li>}
          {[...lines].reverse().map((line) => (
            <li key={line.index} className="flex gap-2 py-0.5">
              <span className="w-11 shrink-0 text-right font-mono text-soft">{clockTime(line.seconds)}</span>
              <span className={line.type === 'refused' ? 'text-harm' : ''}>{lineWords(level, line)}</span>
            </li>
          ))}
        </ol>
      </div>
    </aside>
  );
}

/** Plays on until the session ends or the page goes; hands each new picture to `show`. */
function usePlayLoop(game: Game, paused: boolean, show: (picture: Picture) => void): void {
  const latest = useRef(show);
  useEffect(() => {
    latest.current = show;
  });
  useEffect(() => {
    if (paused) return;
    const keys = watchKeys(window, game.session.compiled.level.view);
    let frame = 0;
    let last: number | null = null;
    const tick = (now: number): void => {
      frame = requestAnimationFrame(tick);
      const passed = last === null ? 0 : (now - last) / 1000;
      last = now;
      if (game.advance(passed, (inputs) => keys.read(inputs))) latest.current(pictureOf(game));
    };
    const visibility = (): void => {
      // A hidden page gets no pictures; the time it was away must not be owed.
      last = null;
    };
    frame = requestAnimationFrame(tick);
    document.addEventListener('visibilitychange', visibility);
    return () => {
      cancelAnimationFrame(frame);
      document.removeEventListener('visibilitychange', visibility);
      keys.stop();
    };
  }, [game, paused]);
}

function runName(from: OpenLevel['run'], at: number): string {
  const stamp = new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' });
  return from === null ? `played at ${stamp}` : `${from.run.name.slice(0, 40)} from ${clockTime(at, 0)}, at ${stamp}`;
}

function Playing({ open, fromStep }: { readonly open: OpenLevel; readonly fromStep: number | null }) {
  const { level } = open;
  const navigate = useNavigate();
  const palette = usePalette();
  const from = fromStep === null ? null : open.run;
  const begin = (): Game => startGame(level, from === null || fromStep === null ? null : { run: from.run, step: fromStep });
  const [game, setGame] = useState(begin);
  const [picture, setPicture] = useState(() => pictureOf(game));
  const [paused, setPaused] = useState(false);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [ending, setEnding] = useState(false);
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  usePlayLoop(game, paused || ending || game.over(), setPicture);

  const { moment, lines } = picture;
  const bench = `/levels/${encodeURIComponent(open.id)}`;

  const restart = (): void => {
    const next = begin();
    setGame(next);
    setPicture(pictureOf(next));
    setPaused(false);
    setTrouble(null);
  };
  const end = async (): Promise<void> => {
    setEnding(true);
    const id = crypto.randomUUID();
    try {
      await api.putRun(open.id, id, game.finish(runName(from, (fromStep ?? 0) / level.rate)));
      await navigate(`${bench}?run=${id}`);
    } catch (error) {
      setEnding(false);
      setTrouble(`The run could not be kept: ${error instanceof Error ? error.message : String(error)} It is still here; try again.`);
    }
  };

  const commands = useRef({ end, restart, toggle: () => setPaused((now) => !now) });
  useEffect(() => {
    commands.current = { end, restart, toggle: () => setPaused((now) => !now) };
  });
  useEffect(() => {
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey || event.repeat) return;
      if (event.code === 'KeyP') commands.current.toggle();
      else if (event.code === 'KeyR') commands.current.restart();
      else if (event.key === 'Escape') void commands.current.end();
    };
    addEventListener('keydown', onKey);
    return () => removeEventListener('keydown', onKey);
  }, []);

  const over = game.over();
  const labels = happenings(level, moment, lines, palette);
  return (
    <div className="flex h-full flex-col">
      <AppHeader>
        <h1 className="text-sm font-bold whitespace-nowrap">{level.name}</h1>
        <span className="min-w-0 truncate text-xs text-soft">
          {from === null ? 'from the start' : `taken over from “${from.run.name}” at ${clockTime((fromStep ?? 0) / level.rate)}`}
        </span>
        <div className="ml-3 flex items-center gap-4" aria-label="Readouts" role="group">
          {inOrder(level.meters).map(([id, meter]) => (
            <MeterReadout key={id} id={id} meter={meter} value={moment.players[0]?.meters[id] ?? 0} />
          ))}
          {inOrder(level.items).flatMap(([id, { name }]) => {
            const player = moment.players[0];
            const count = player?.items[id] ?? 0;
            if (count === 0) return [];
            return [
              <span key={id} className="text-xs whitespace-nowrap">
                <b>{name}</b> {plainNumber(count)}
                {player?.held === id ? ' held' : ''}
              </span>,
            ];
          })}
          <span className="font-mono text-sm">{clockTime(moment.seconds)}</span>
        </div>
        <div className="ml-auto flex gap-2">
          <Button onClick={() => setPaused(!paused)} disabled={over}>
            {paused ? 'Go on' : 'Pause'}
          </Button>
          <Button onClick={restart}>Restart</Button>
          <Button kind="strong" onClick={() => void end()} disabled={ending}>
            End and see the run
          </Button>
        </div>
      </AppHeader>
      {trouble !== null && (
        <Notice>
          <span>{trouble}</span>
        </Notice>
      )}
      <div className="flex min-h-0 flex-1">
        <main className="relative min-w-0 flex-1 bg-panel p-2.5">
          <div ref={frame} className="h-full" role="img" aria-label={`${level.name} being played`}>
            <PlanDrawing level={level} width={width} height={height} moment={moment} labels={labels} showHidden={false} />
          </div>
          {(over || paused) && (
            <div
              className="absolute inset-x-0 top-8 mx-auto w-[330px] rounded-lg border-[1.5px] border-ink bg-card p-4 text-center"
              role="status"
            >
              <p className="text-base font-bold">{over ? 'You died: the session is lost' : 'Paused'}</p>
              <p className="mt-1 text-xs text-soft">
                {over ? 'R plays again, Esc shows the run on the Bench.' : 'P goes on, R begins again, Esc ends and shows the run.'}
              </p>
            </div>
          )}
          <p className="absolute bottom-2 left-2 rounded-sm bg-paper/90 px-2 py-1 text-xs text-soft">
            Arrows or W A S D walk · {level.view === 'side' && 'Up or Space jump · '}E use · Q next held · F use held · X drop · P pause · R
            restart · Esc end
          </p>
        </main>
        <LiveLedger level={level} lines={lines} />
      </div>
    </div>
  );
}

/** The level played by hand, from the start or taken over from a moment of a run. */
export function PlayPage() {
  const { level: id = '' } = useParams();
  const [search] = useSearchParams();
  const { open, trouble } = useOpenLevel(id, search.get('run'));
  const at = Number(search.get('at') ?? NaN);
  const fromStep = search.get('run') !== null && Number.isInteger(at) && at >= 0 ? at : null;
  useEffect(() => {
    document.title = `Play ${open?.level.name ?? ''} · Dial`;
  }, [open]);
  if (trouble !== null) return <Notice>{trouble}</Notice>;
  if (open === null) return <p className="p-4 text-soft">Fetching the level …</p>;
  return <Playing key={`${open.id} ${search.toString()}`} open={open} fromStep={fromStep} />;
}
