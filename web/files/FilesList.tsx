import { reasonOf } from '@dial/core/level';
import { fileName, ledgerCsv, ledgerNdjson, levelText, planSvgText, stripSvgText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { viewActions } from '../state/slices/view.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { download, downloadPicture } from '../controls/download.ts';
import { FileButton, readChosen, type ChosenFile } from '../controls/FileButton.tsx';

const lineClass = 'w-full justify-start border-transparent!';

interface FilesListProps {
  readonly level: Level;
  readonly onDrawing: (file: ChosenFile) => void;
  readonly onClose: () => void;
}

/** What goes out of a level as files, and what comes into it. */
export function FilesList({ level, onDrawing, onClose }: FilesListProps) {
  const store = useAppStore();
  const run = useAppSelector((state) => state.simulated.shown.now);
  const runName = useAppSelector((state) => state.simulated.run?.run.name ?? 'run');
  const picture = (name: string, svg: string): void => {
    downloadPicture(fileName(name, 'png'), svg).catch((error: unknown) => {
      store.dispatch(viewActions.troubled(`No picture was made: ${reasonOf(error)}`));
    });
  };
  const exports: readonly (readonly [name: string, act: () => void])[] = [
    ['Export level (JSON)', () => download(fileName(level.name, 'json'), levelText(level), 'application/json')],
    ['Export Plan (SVG)', () => download(fileName(level.name, 'svg'), planSvgText(level), 'image/svg+xml')],
    ['Export Plan (PNG)', () => picture(level.name, planSvgText(level))],
  ];
  const named = `${level.name} ${runName}`;
  const strip = (of: ShownRun): string => stripSvgText(of.level, { lanes: of, rate: of.rate, steps: of.steps, lines: ledgerOf(of) });
  const ofRun: typeof exports =
    run === null
      ? []
      : [
          ['Export Ledger (NDJSON)', () => download(fileName(named, 'ndjson'), ledgerNdjson(ledgerOf(run)), 'application/x-ndjson')],
          ['Export Ledger (CSV)', () => download(fileName(named, 'ledger.csv'), ledgerCsv(run.level, ledgerOf(run)), 'text/csv')],
          [
            'Export outcome (JSON)',
            () => download(fileName(named, 'outcome.json'), JSON.stringify(run.outcome, null, 2), 'application/json'),
          ],
          ['Export Strip (SVG)', () => download(fileName(`${named} strip`, 'svg'), strip(run), 'image/svg+xml')],
          ['Export Strip (PNG)', () => picture(`${named} strip`, strip(run))],
        ];
  return (
    <>
      {[...exports, ...ofRun].map(([name, act], index) => (
        <Button
          key={name}
          autoFocus={index === 0}
          kind="quiet"
          className={lineClass}
          onClick={() => {
            act();
            onClose();
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
          void readChosen(file).then(onDrawing);
          onClose();
        }}
      >
        Shapes from an SVG …
      </FileButton>
      <p className="px-2.5 pt-1 text-[11px] text-soft">Values and placements go in and out as CSV on the Sheet.</p>
    </>
  );
}
