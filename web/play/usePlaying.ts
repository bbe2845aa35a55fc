import { entry, reasonOf } from '@dial/core/level';
import { clockTime } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useState, type RefObject } from 'react';
import { useNavigate } from 'react-router';
import { newId } from '../browser/ids.ts';
import { useOnce } from '../controls/hooks/useOnce.ts';
import { outsideOf } from '../fields/eventWords.ts';
import { startGame, type Beginning, type Game, type Picture } from './game.ts';
import { SPEEDS } from './PlayControls.tsx';
import { keepEventKeys, keepPlayKeys, readEventKeys, readPlayKeys, type EventKey, type PlayKeys } from './playKeys.ts';
import { keepSound, keepWatched, readSound, readWatched, type Sound } from './remembered.ts';
import { useKeptPlay } from './useKeptPlay.ts';
import { usePlayLoop } from './usePlayLoop.ts';
import { useStageKeys } from './useStageKeys.ts';

function runName(from: string | null, at: number): string {
  const stamp = new Date().toLocaleTimeString([], { hour: '2-digit', minute: '2-digit', second: '2-digit' });
  return from === null ? `played at ${stamp}` : `${from.slice(0, 40)} from ${clockTime(at, 0)}, at ${stamp}`;
}

interface Played {
  readonly game: Game;
  readonly picture: Picture;
  /** What its run is known by, from the beginning on. */
  readonly id: string;
  readonly name: string;
}

/** Who plays each player: the id of a persona; undefined for the keys. */
type Seats = readonly (string | undefined)[];

function seatAll(game: Game, level: Level, seats: Seats): void {
  seats.forEach((id, player) => game.seat(player, entry(level.personas, id ?? '') ?? null));
}

function started(level: Level, begin: Beginning, seats: Seats = []): Played {
  const game = startGame(level, begin);
  seatAll(game, level, seats);
  const from = 'from' in begin ? begin.from : null;
  return { game, picture: game.look(), id: newId(), name: runName(from?.run.name ?? null, (from?.step ?? 0) / level.rate) };
}

/** Sound, keys and what is watched: chosen here, and kept by the browser. */
function useChoices(level: string) {
  const [sound, setSound] = useState(readSound);
  const [keys, setKeys] = useState(readPlayKeys);
  const [eventKeys, setEventKeys] = useState(() => readEventKeys(level));
  const [watched, setWatched] = useState(() => readWatched(level));
  return {
    sound,
    hear: (next: Sound) => {
      setSound(next);
      keepSound(next);
    },
    keys,
    chooseKeys: (next: PlayKeys) => {
      setKeys(next);
      keepPlayKeys(next);
    },
    eventKeys,
    chooseEventKeys: (next: readonly EventKey[]) => {
      setEventKeys(next);
      keepEventKeys(level, next);
    },
    watched,
    watch: (next: readonly string[]) => {
      setWatched(next);
      keepWatched(level, next);
    },
  };
}

/** A session that is played: what is shown of it, and all that can be done with it, by button or by key. */
export function usePlaying(stage: RefObject<HTMLElement | null>, levelId: string, level: Level, begin: Beginning) {
  const navigate = useNavigate();
  const [play, setPlay] = useState(() => started(level, begin));
  const { game, picture, id: runId, name } = play;
  const [paused, setPaused] = useState(false);
  const [ending, once] = useOnce();
  const [speed, setSpeed] = useState(1);
  const [seed, setSeed] = useState('seed' in begin ? begin.seed : 1);
  const [seats, setSeats] = useState<Seats>([]);
  const choices = useChoices(levelId);
  const { sound, hear, keys, eventKeys } = choices;
  const [inspected, setInspected] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const over = game.over();
  const show = (now: Picture): void => setPlay({ ...play, picture: now });
  const send = useKeptPlay({ level: levelId, id: runId, game, name }, setTrouble);
  const { read, slow } = usePlayLoop(game, {
    halted: paused || ending || over,
    speed,
    volume: sound.muted ? 0 : sound.volume,
    keys,
    onPicture: show,
    onHidden: () => setPaused(true),
  });
  const from = 'from' in begin ? begin.from : null;
  const bench = `/levels/${encodeURIComponent(levelId)}`;

  const restart = (withSeed = seed): void => {
    setSeed(withSeed);
    setPlay(started(level, from === null && 'seed' in begin ? { ...begin, seed: withSeed } : begin, seats));
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
  const seat = (player: number, persona: string | undefined): void => {
    const next = Array.from({ length: level.players.count }, (_, at) => (at === player ? persona : seats[at]));
    setSeats(next);
    game.seat(player, entry(level.personas, persona ?? '') ?? null);
    stage.current?.focus();
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
  useStageKeys(stage, press);
  return {
    game,
    picture,
    choices,
    paused,
    pause: () => setPaused(true),
    over,
    ending,
    speed,
    setSpeed,
    seed: from === null ? seed : null,
    slow,
    inspected,
    inspect,
    leave: () => setInspected(null),
    trouble,
    restart,
    end,
    oneStep,
    toggle,
    fullScreen,
    seats,
    seat,
    startOver: (id: string | null) => void navigate(id === null ? `${bench}/play` : `${bench}/play?from=${encodeURIComponent(id)}`),
  };
}
