import { useEffect } from 'react';
import { Sweep } from '../studies/sweep/Sweep.tsx';
import type { DrawStrip } from '../studies/sweep/TuneView.tsx';
import { StillStrip } from '../strip/StillStrip.tsx';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector } from '../state/store.ts';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { SaveTrouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

const strip: DrawStrip = ({ label, now, then }) => <StillStrip label={label} now={then} ghost={now} />;

function OpenSweep({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.document.turning) ?? open.level;
  useCommandKeys('sweep');
  useEffect(() => {
    document.title = `Sweeps of ${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[480px]">
      <LevelHeader open={open} level={level} here="Sweep" />
      <CommandList where="sweep" />
      <SaveTrouble />
      <Sweep open={open} level={level} strip={strip} />
    </div>
  );
}

/** Studies of the values of a level. */
export function SweepPage() {
  return <LevelPage>{(open) => <OpenSweep key={open.id} open={open} />}</LevelPage>;
}
