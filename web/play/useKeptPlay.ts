import { reasonOf } from '@dial/core/level';
import { useCallback, useEffect, useRef } from 'react';
import { sendPlay, writePlay, type Play } from '../state/sync/plays.ts';
import type { Game } from './game.ts';

const WRITE_EVERY_MILLISECONDS = 2000;

interface Kept extends Pick<Play, 'level' | 'id'> {
  readonly game: Game;
  /** What its run is called. */
  readonly name: string;
}

/**
 * Keeps a play, however it ends: written down while it goes on, and sent once it is left. Answers what sends it now;
 * nothing is sent of a play without a step.
 */
export function useKeptPlay({ level, id, game, name }: Kept, onTrouble: (why: string) => void): () => Promise<void> {
  const trouble = useRef(onTrouble);
  useEffect(() => {
    trouble.current = onTrouble;
  });
  const write = useCallback(() => {
    if (!game.played()) return;
    try {
      writePlay({ level, id, run: game.run(name) });
    } catch (error) {
      trouble.current(`This play is not kept in the browser while it goes on: ${reasonOf(error)} End it before you leave.`);
    }
  }, [level, id, game, name]);
  const send = useCallback(async () => {
    write();
    if (game.played()) await sendPlay({ level, id, run: game.run(name) });
  }, [write, level, id, game, name]);
  useEffect(() => {
    const timer = setInterval(write, WRITE_EVERY_MILLISECONDS);
    addEventListener('pagehide', write);
    return () => {
      clearInterval(timer);
      removeEventListener('pagehide', write);
      // What cannot be sent now goes when Dial is next opened.
      send().catch((error: unknown) => console.warn(reasonOf(error)));
    };
  }, [write, send]);
  return send;
}
