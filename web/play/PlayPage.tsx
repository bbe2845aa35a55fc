import { WALKED } from '../state/slices/simulated.ts';
import { clockTime } from '@dial/core/formats';
import { inOrder, tryOf, type Level } from '@dial/core/level';
import { useCallback, useEffect, useRef, useState } from 'react';
import { useNavigate, useParams, useSearchParams } from 'react-router';
import { newId } from '../browser/ids.ts';
import { reasonOf } from '../state/sync/api.ts';
import type { OpenLevel } from '../state/slices/document.ts';
import { runTried } from '../state/simulation/startFrom.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { useOpenLevel } from '../state/sync/useOpenLevel.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Button, Notice } from '../controls/controls.tsx';
import { outsideOf } from '../fields/eventWords.ts';
import { useOnce } from '../controls/useOnce.ts';
import { isTyping, watchKeys } from '../controls/keyboard.ts';
import { Ending } from './Ending.tsx';
import { startGame, type Beginning, type Game, type Picture } from './game.ts';
import { LiveLedger } from './LiveLedger.tsx';
import { KeyChooser } from './KeyChooser.tsx';
import { keepEventKeys, keepPlayKeys, keysText, readEventKeys, readPlayKeys } from './playKeys.ts';
import { PlayControls, SPEEDS } from './PlayControls.tsx';
import { PlayStage } from './PlayStage.tsx';
import { Readouts } from './Readouts.tsx';
import { keepSound, keepWatched, readSound, readWatched, type Sound } from './remembered.ts';
import { useKeptPlay } from './useKeptPlay.ts';
import { usePlayLoop } from './usePlayLoop.ts';
import { Inspect, Watch } from './Watch.tsx';

const LINES_SHOWN = 40;

function runName(from: string | null, at: number): string {
  const stamp = new Date().toLocaleTimeString('en-GB', { hour: '2-digit', minute: '2-digit', second: '2-digit' });
  return from === null ? `played at ${stamp}` : `${from.slice(0, 40)} from ${clockTime(at, 0)}, at ${stamp}`;
}

interface Played {
  readonly game: Game;
  readonly picture: Picture;
  /** What its run is known by, from the beginning on. */
  readonly id: string;
  readonly name: string;
}

function started(level: Level, begin: Beginning): Played {
  const game = startGame(level, begin);
  const from = 'from' in begin ? begin.from : null;
  return { game, picture: game.look(), id: newId(), name: runName(from?.run.name ?? null, (from?.step ?? 0) / level.rate) };
}

interface PlayingProps {
  readonly open: OpenLevel;
  readonly begin: Beginning;
  /** The starting state that was asked for. */
  readonly startFrom: string | null;
}

function Playing({ open, begin, startFrom }: PlayingProps) {
  const { level } = open;
  const navigate = useNavigate();
  const [play, setPlay] = useState(() => started(level, begin));
  const { game, picture, id: runId, name } = play;
  const [paused, setPaused] = useState(false);
  const [ending, once] = useOnce();
  const [speed, setSpeed] = useState(1);
  const [seed, setSeed] = useState('seed' in begin ? begin.seed : 1);
  const [sound, setSound] = useState(readSound);
  const [keys, setKeys] = useState(readPlayKeys);
  const [eventKeys, setEventKeys] = useState(() => readEventKeys(open.id));
  const [watched, setWatched] = useState(() => readWatched(open.id));
  const [inspected, setInspected] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const stage = useRef<HTMLDivElement>(null);
  const over = game.over();
  const show = (now: Picture): void => setPlay({ ...play, picture: now });
  const send = useKeptPlay({ level: open.id, id: runId, game, name }, setTrouble);
  const { read, slow } = usePlayLoop(game, {
    halted: paused || ending || over,
    speed,
    volume: sound.muted ? 0 : sound.volume,
    keys,
    onPicture: show,
    onHidden: () => setPaused(true),
  });
  const { moment, lines, flourishes } = picture;
  const from = 'from' in begin ? begin.from : null;
  const bench = `/levels/${encodeURIComponent(open.id)}`;

  const restart = (withSeed = seed): void => {
    setSeed(withSeed);
    setPlay(started(level, from === null && 'seed' in begin ? { ...begin, seed: withSeed } : begin));
    setPaused(false);
    setTrouble(null);
    setInspected(null);
    stage.current?.focus();
  };
  const end = (): void =>
    once(async () => {
      try {
        await send();
        await navigate(game.played() ? `${bench}?run=${runId}` : bench);
      } catch (error) {
        setTrouble(`The run could not be kept: ${reasonOf(error)} It is still here; try again.`);
      }
    });
  // One and the same from picture to picture: with another, every thing would be drawn anew.
  const inspect = useCallback((placement: string | null) => {
    setPaused(true);
    setInspected(placement);
  }, []);
  const oneStep = (): void => {
    setPaused(true);
    game.one(read);
    show(game.look());
  };
  const toggle = (): void => {
    setPaused((now) => !now);
    stage.current?.focus();
  };
  const faster = (by: number): void => {
    setSpeed((now) => SPEEDS[Math.max(0, Math.min(SPEEDS.length - 1, SPEEDS.indexOf(now) + by))] ?? now);
  };
  const fullScreen = (): void => {
    const change = document.fullscreenElement === null ? document.documentElement.requestFullscreen() : document.exitFullscreen();
    change.catch((error: unknown) => setTrouble(`The browser does not fill the screen: ${reasonOf(error)}`));
  };
  const hear = (next: Sound): void => {
    setSound(next);
    keepSound(next);
  };
  const watch = (keys: readonly string[]): void => {
    setWatched(keys);
    keepWatched(open.id, keys);
  };

  const commands: Readonly<Record<string, () => void>> = {
    KeyP: toggle,
    KeyN: oneStep,
    KeyR: () => restart(),
    KeyM: () => hear({ ...sound, muted: !sound.muted }),
    KeyG: fullScreen,
    BracketLeft: () => faster(-1),
    BracketRight: () => faster(1),
    Escape: end,
  };
  const press = (code: string): void => {
    const event = eventKeys.find((one) => one.code === code);
    if (event !== undefined) game.happen(outsideOf(event.choice, 0, event.player, event.by));
    else commands[code]?.();
  };
  const latest = useRef(press);
  useEffect(() => {
    latest.current = press;
  });
  useEffect(() => {
    stage.current?.focus();
    const onKey = (event: KeyboardEvent): void => {
      if (event.ctrlKey || event.metaKey) return;
      // One step repeats while its key is held; the others are given once.
      if (event.repeat && event.code !== 'KeyN') return;
      latest.current(event.code);
    };
    // Once a control has been used with the pointer, the keys are the player's again.
    let byPointer = false;
    const note = (event: Event): void => {
      byPointer = event.type === 'pointerdown';
    };
    const giveBack = (): void => {
      const { activeElement } = document;
      if (byPointer && activeElement instanceof HTMLElement && !isTyping(activeElement)) activeElement.blur();
    };
    // A list that was closed gives the focus back to its button.
    const giveBackChosen = ({ target }: Event): void => {
      const button = target instanceof HTMLElement ? target.closest<HTMLElement>('[aria-haspopup=menu], [role=combobox]') : null;
      if (byPointer && button?.getAttribute('aria-expanded') === 'false') button.blur();
    };
    const listeners = [
      ['keydown', note],
      ['pointerdown', note],
      ['click', giveBack],
      ['focusin', giveBackChosen],
      ['change', giveBack],
    ] as const;
    for (const [type, listener] of listeners) addEventListener(type, listener);
    const unwatch = watchKeys(onKey);
    return () => {
      unwatch();
      for (const [type, listener] of listeners) removeEventListener(type, listener);
    };
  }, []);

  return (
    <div className="flex h-full flex-col">
      <AppHeader oneLine>
        <h1 className="text-sm font-bold whitespace-nowrap">{level.name}</h1>
        <span className="max-w-[180px] min-w-0 truncate text-xs text-soft">
          {from === null
            ? startFrom === null
              ? 'from the start'
              : `from “${level.tries[startFrom]?.name ?? startFrom}”`
            : `taken over from “${from.run.name}” at ${clockTime(from.step / level.rate)}`}
        </span>
        <div className="ml-3 min-w-0 py-1">
          <Readouts level={level} moment={moment} />
        </div>
        <Button kind="strong" className="ml-auto shrink-0" onClick={end} disabled={ending}>
          End and see the run
        </Button>
      </AppHeader>
      {trouble !== null && (
        <Notice>
          <span>{trouble}</span>
        </Notice>
      )}
      <div className="flex min-h-0 flex-1">
        <main className="relative flex min-w-0 flex-1 flex-col bg-panel">
          <PlayStage
            ref={stage}
            level={level}
            moment={moment}
            lines={lines}
            flourishes={flourishes}
            inspected={inspected}
            running={!paused && !over}
            onPress={inspect}
          />
          {(over || paused) && (
            <div
              className="absolute inset-x-0 top-8 mx-auto w-[360px] rounded-lg border-[1.5px] border-ink bg-card/95 p-4 text-center"
              role="status"
            >
              {over ? (
                <Ending level={level} outcome={game.outcome()} />
              ) : (
                <p className="text-base font-bold">Paused at {clockTime(moment.seconds)}</p>
              )}
              <p className="mt-1 text-xs text-soft">
                {over
                  ? 'R plays again, Esc shows the run on the Bench.'
                  : 'P goes on, N makes one step, R begins again, Esc ends. Press a thing to read about it.'}
              </p>
            </div>
          )}
          <PlayControls
            paused={paused}
            over={over}
            speed={speed}
            sound={sound}
            slow={slow}
            keysText={keysText(keys, moment.players.length, level.view === 'side')}
            keys={
              <KeyChooser
                level={level}
                keys={keys}
                events={eventKeys}
                onOpen={() => setPaused(true)}
                onKeys={(next) => {
                  setKeys(next);
                  keepPlayKeys(next);
                }}
                onEvents={(next) => {
                  setEventKeys(next);
                  keepEventKeys(open.id, next);
                }}
              />
            }
            tries={inOrder(level.tries).map(([id, { name }]) => [id, name] as const)}
            startFrom={from === null ? startFrom : null}
            onToggle={toggle}
            onStep={oneStep}
            onSpeed={setSpeed}
            onRestart={() => restart()}
            seed={from === null ? seed : null}
            onSeed={restart}
            onFullScreen={fullScreen}
            onSound={hear}
            onStartFrom={(id) => void navigate(id === null ? `${bench}/play` : `${bench}/play?from=${encodeURIComponent(id)}`)}
          />
        </main>
        <aside aria-label="Live ledger" className="flex w-[270px] shrink-0 flex-col border-l-[1.5px] border-ink bg-paper">
          <Watch level={level} moment={moment} watched={watched} onWatch={watch} />
          {inspected !== null && (
            <Inspect
              level={level}
              moment={moment}
              watched={watched}
              onWatch={watch}
              placement={inspected}
              lines={game.lines()}
              onClose={() => setInspected(null)}
            />
          )}
          <LiveLedger level={level} lines={lines.filter(({ type }) => type !== 'phase' && type !== 'flourish').slice(-LINES_SHOWN)} />
        </aside>
      </div>
    </div>
  );
}

/** The level played by hand: from its start, from a stated state, or taken over from a moment of a run. */
export function PlayPage() {
  const { level: id = '' } = useParams();
  const [search] = useSearchParams();
  const store = useAppStore();
  const { open, trouble } = useOpenLevel(id, search.get('run'));
  const drawn = useAppSelector((state) => state.simulated.run);
  const at = Number(search.get('at') ?? NaN);
  useEffect(() => {
    document.title = `Play ${open?.level.name ?? ''} · Dial`;
  }, [open]);
  if (trouble !== null) return <Notice>{trouble}</Notice>;
  if (open === null) return <p className="p-4 text-soft">Fetching the level …</p>;
  const run = drawn?.walked ?? runTried(store.getState());
  const takenOver = search.get('run') !== null && Number.isInteger(at) && at >= 0 && run !== null && drawn !== null;
  if (takenOver && drawn.route !== undefined && drawn.walked === undefined) return <p className="p-4 text-soft">Walking the route …</p>;
  const wanted = search.get('from');
  const start = wanted === null ? null : tryOf(open.level, wanted);
  const begin: Beginning = takenOver ? { from: { id: drawn.id === WALKED ? null : drawn.id, run, step: at } } : { start, seed: 1 };
  return <Playing key={`${open.id} ${search.toString()}`} open={open} begin={begin} startFrom={start === null ? null : wanted} />;
}
