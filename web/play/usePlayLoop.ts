import { useCallback, useEffect, useRef, useState } from 'react';
import type { Game, Picture, ReadInputs } from './game.ts';
import { watchInputs } from './keys.ts';
import type { PlayKeys } from './playKeys.ts';
import { createTones } from './tones.ts';

interface LoopOptions {
  readonly halted: boolean;
  /** Session seconds in a second. */
  readonly speed: number;
  /** 0 is silence. */
  readonly volume: number;
  readonly keys: PlayKeys;
  readonly onPicture: (picture: Picture) => void;
  /** The page was hidden: nothing is played meanwhile. */
  readonly onHidden: () => void;
}

/** More than so much time dropped, over this many seconds and as many again, and the page says that the machine is slow: one hitch is nothing. */
const SLOW_SHARE = 0.1;
const SLOW_SECONDS = 1;

/** Plays on while nothing halts it: makes the steps that are due, and hands out a new picture of the session after them. */
export function usePlayLoop(game: Game, options: LoopOptions): { readonly read: ReadInputs; readonly slow: boolean } {
  const latest = useRef(options);
  useEffect(() => {
    latest.current = options;
  });
  const { level, playerCount } = game.session.compiled;
  const inputs = useRef<ReturnType<typeof watchInputs> | null>(null);
  useEffect(() => {
    const watched = watchInputs(window, level.view, playerCount, () => latest.current.keys);
    inputs.current = watched;
    return () => watched.stop();
  }, [level.view, playerCount]);
  const read = useCallback<ReadInputs>((into) => inputs.current?.read(into), []);
  const [slow, setSlow] = useState(false);
  const { halted } = options;
  useEffect(() => {
    if (halted) return;
    const tones = createTones();
    let frame = 0;
    let last: number | null = null;
    let [time, lost] = [0, 0];
    let wasSlow = false;
    const tick = (now: number): void => {
      frame = requestAnimationFrame(tick);
      const passed = last === null ? 0 : (now - last) / 1000;
      last = now;
      const { made, dropped } = game.advance(passed, latest.current.speed, read);
      time += passed;
      lost += dropped * passed;
      if (time > SLOW_SECONDS) {
        const isSlow = lost / time > SLOW_SHARE;
        setSlow(isSlow && wasSlow);
        wasSlow = isSlow;
        [time, lost] = [0, 0];
      }
      if (made === 0) return;
      const picture = game.look();
      tones.play(picture.tones, latest.current.volume);
      latest.current.onPicture(picture);
    };
    const visibility = (): void => {
      // A hidden page gets no pictures; the time it was away must not be owed.
      last = null;
      if (document.hidden) latest.current.onHidden();
    };
    frame = requestAnimationFrame(tick);
    document.addEventListener('visibilitychange', visibility);
    return () => {
      cancelAnimationFrame(frame);
      tones.stop();
      document.removeEventListener('visibilitychange', visibility);
    };
  }, [game, halted, read]);
  return { read, slow };
}
