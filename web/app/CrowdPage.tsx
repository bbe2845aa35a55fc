import { useEffect } from 'react';
import { Crowd } from '../studies/crowd/Crowd.tsx';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector } from '../state/store.ts';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { SaveTrouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

function OpenCrowd({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.document.turning) ?? open.level;
  useCommandKeys('crowd');
  useEffect(() => {
    document.title = `Crowds of ${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[480px]">
      <LevelHeader open={open} level={level} here="Crowd" />
      <CommandList where="crowd" />
      <SaveTrouble />
      <Crowd open={open} level={level} />
    </div>
  );
}

/** Crowds of simulated players of a level. */
export function CrowdPage() {
  return <LevelPage>{(open) => <OpenCrowd key={open.id} open={open} />}</LevelPage>;
}
