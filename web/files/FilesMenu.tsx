import type { Level } from '@dial/core/level';
import { useCallback, useState } from 'react';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import type { ChosenFile } from '../controls/FileButton.tsx';
import { later } from '../controls/later.tsx';
import { Popover } from '../controls/Popover.tsx';

const FilesList = later(() => import('./FilesList.tsx').then((module) => module.FilesList), { soon: true });
const SvgPreview = later(() => import('./SvgPreview.tsx').then((module) => module.SvgPreview));

/** The button of files, and what opens from it. */
export function FilesMenu({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const shown = useAppSelector((state) => state.view.panel === 'files');
  const setShown = useCallback((now: boolean) => store.dispatch(viewActions.panelShown(now ? 'files' : null)), [store]);
  const close = useCallback(() => setShown(false), [setShown]);
  const [drawing, setDrawing] = useState<ChosenFile | null>(null);
  return (
    <>
      <Popover shown={shown} onShown={setShown} label="Files" className="w-56 p-1.5" button={<Button>Files</Button>}>
        <FilesList level={level} onDrawing={setDrawing} onClose={close} />
      </Popover>
      {drawing !== null && <SvgPreview level={level} file={drawing} onClose={() => setDrawing(null)} />}
    </>
  );
}
