import { useEffect, useState } from 'react';
import { useAppSelector } from '../state/store.ts';

/** How long it is said what was undone. Milliseconds. */
const SHOWN_FOR = 4000;

/** What was undone or redone just now: it may lie elsewhere than what is seen. */
export function Stepped() {
  const stepped = useAppSelector((state) => state.document.stepped);
  const [over, setOver] = useState(stepped?.serial ?? 0);
  useEffect(() => {
    if (stepped === null) return;
    const timer = setTimeout(() => setOver(stepped.serial), SHOWN_FOR);
    return () => clearTimeout(timer);
  }, [stepped]);
  return (
    <span role="status" aria-label="Undone" className="absolute top-full right-3 z-30">
      {stepped !== null && stepped.serial !== over && (
        <span className="mt-1 block max-w-96 truncate rounded-sm border border-ink bg-card px-2 py-1 text-xs">{stepped.words}</span>
      )}
    </span>
  );
}
