import { useEffect } from 'react';
import type { OpenLevel } from '../state/slices/document.ts';
import { useAppSelector } from '../state/store.ts';
import { Sheet } from '../sheet/Sheet.tsx';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { Outcome } from './RunCaption.tsx';
import { SaveTrouble, Trouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

function OpenSheet({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.document.turning) ?? open.level;
  useCommandKeys('sheet');
  useEffect(() => {
    document.title = `Sheet of ${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[480px]">
      <LevelHeader open={open} level={level} here="Sheet" />
      <CommandList where="sheet" />
      <SaveTrouble />
      <Trouble />
      <main className="flex min-h-0 flex-1 flex-col">
        <Sheet level={level} outcome={<Outcome level={level} />} />
      </main>
    </div>
  );
}

/** All values of a level in one table. */
export function SheetPage() {
  return <LevelPage>{(open) => <OpenSheet key={open.id} open={open} />}</LevelPage>;
}
