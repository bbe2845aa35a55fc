import { useEffect } from 'react';
import { RunsList } from '../runs/RunsList.tsx';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector } from '../state/store.ts';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { SaveTrouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

function OpenRuns({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.document.turning) ?? open.level;
  useCommandKeys('runs');
  useEffect(() => {
    document.title = `Runs of ${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[480px]">
      <LevelHeader open={open} level={level} here="Runs" />
      <CommandList where="runs" />
      <SaveTrouble />
      <RunsList open={open} level={level} />
    </div>
  );
}

/** The runs that are kept of a level, and several of them compared. */
export function RunsPage() {
  return <LevelPage>{(open) => <OpenRuns key={open.id} open={open} />}</LevelPage>;
}
