import { fileName, levelText, planSvgText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useState } from 'react';
import { benchActions } from '../state/bench.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../ui/controls.tsx';
import { download, downloadPicture } from '../ui/download.ts';
import { FileButton, readChosen, type ChosenFile } from '../ui/FileButton.tsx';
import { Popover } from '../ui/Popover.tsx';
import { SvgPreview } from './SvgPreview.tsx';

const lineClass = 'w-full justify-start border-transparent!';

/** What goes out of a level as files, and what comes into it. */
export function FilesMenu({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const shown = useAppSelector((state) => state.bench.panel === 'files');
  const setShown = useCallback((now: boolean) => store.dispatch(benchActions.panelShown(now ? 'files' : null)), [store]);
  const close = useCallback(() => setShown(false), [setShown]);
  const [drawing, setDrawing] = useState<ChosenFile | null>(null);
  const picture = (): void => {
    downloadPicture(fileName(level.name, 'png'), planSvgText(level)).catch((error: unknown) => {
      store.dispatch(benchActions.troubled(`No picture was made: ${error instanceof Error ? error.message : String(error)}`));
    });
  };
  const exports: readonly (readonly [name: string, act: () => void])[] = [
    ['Export level (JSON)', () => download(fileName(level.name, 'json'), levelText(level), 'application/json')],
    ['Export Plan (SVG)', () => download(fileName(level.name, 'svg'), planSvgText(level), 'image/svg+xml')],
    ['Export Plan (PNG)', picture],
  ];
  return (
    <>
      <Popover
        shown={shown}
        onShown={setShown}
        label="Files"
        role="group"
        className="right-0 z-30 w-56 p-1.5"
        button={
          <Button aria-expanded={shown} onClick={() => setShown(!shown)}>
            Files
          </Button>
        }
      >
        {exports.map(([name, act]) => (
          <Button
            key={name}
            kind="quiet"
            className={lineClass}
            onClick={() => {
              act();
              close();
            }}
          >
            {name}
          </Button>
        ))}
        <FileButton
          label="SVG to take shapes from"
          accept=".svg,image/svg+xml"
          className={lineClass}
          onFile={(file) => {
            void readChosen(file).then(setDrawing);
            close();
          }}
        >
          Shapes from an SVG …
        </FileButton>
        <p className="px-2.5 pt-1 text-[11px] text-soft">Values and placements go in and out as CSV on the Sheet.</p>
      </Popover>
      {drawing !== null && <SvgPreview level={level} file={drawing} onClose={() => setDrawing(null)} />}
    </>
  );
}
