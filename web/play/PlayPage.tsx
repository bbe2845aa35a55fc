import { tryOf } from '@dial/core/level';
import { useEffect } from 'react';
import { useParams, useSearchParams } from 'react-router';
import { Notice } from '../controls/controls.tsx';
import { isWalk, WALKED } from '../state/slices/simulated.ts';
import { runTried } from '../state/simulation/startFrom.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { useOpenLevel } from '../state/sync/useOpenLevel.ts';
import type { Beginning } from './game.ts';
import { Playing } from './Playing.tsx';

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
  if (takenOver && isWalk(drawn) && drawn.walked === undefined) return <p className="p-4 text-soft">Walking there …</p>;
  const wanted = search.get('from');
  const start = wanted === null ? null : tryOf(open.level, wanted);
  const begin: Beginning = takenOver ? { from: { id: drawn.id === WALKED ? null : drawn.id, run, step: at } } : { start, seed: 1 };
  return <Playing key={`${open.id} ${search.toString()}`} open={open} begin={begin} startFrom={start === null ? null : wanted} />;
}
