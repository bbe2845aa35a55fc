import { useEffect } from 'react';
import type { OpenLevel } from '../state/bench.ts';
import { useAppSelector } from '../state/store.ts';
import { Sheet } from '../sheet/Sheet.tsx';
import { Notice } from '../ui/controls.tsx';
import { CommandList } from './CommandList.tsx';
import { LevelHeader } from './LevelHeader.tsx';
import { LevelPage } from './LevelPage.tsx';
import { Outcome } from './RunCaption.tsx';
import { SaveTrouble } from './Saved.tsx';
import { useCommandKeys } from './useCommandKeys.ts';

function OpenSheet({ open }: { readonly open: OpenLevel }) {
  const level = useAppSelector((state) => state.bench.turning) ?? open.level;
  const trouble = useAppSelector((state) => state.bench.trouble);
  useCommandKeys('sheet');
  useEffect(() => {
    document.title = `Sheet of ${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="flex flex-col desk:h-full desk:min-h-[480px]">
      <LevelHeader open={open} level={level} here="Sheet" />
      <CommandList where="sheet" />
      <SaveTrouble />
      {trouble !== null && <Notice>{trouble}</Notice>}
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
