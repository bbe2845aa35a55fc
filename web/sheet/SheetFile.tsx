import { readKindSheet, readPlacements, type SheetReading } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useMemo, useRef, useState } from 'react';
import { writeMany } from '../state/edits.ts';
import { useAppStore } from '../state/store.ts';
import { Button, Notice } from '../ui/controls.tsx';

const MOST_SHOWN = 200;

interface FileProps {
  readonly level: Level;
  readonly table: string;
}

interface Chosen {
  readonly name: string;
  readonly text: string;
}

function Preview({ level, table, file, onClose }: FileProps & { readonly file: Chosen; readonly onClose: () => void }) {
  const store = useAppStore();
  const [yDown, setYDown] = useState(false);
  const placements = table !== 'kinds';
  const { changes, refused, same }: SheetReading = useMemo(
    () => (placements ? readPlacements(level, file.text, { yDown }) : readKindSheet(level, file.text)),
    [level, file.text, placements, yDown],
  );
  const count = (number: number, one: string): string => `${String(number)} ${one}${number === 1 ? '' : 's'}`;
  return (
    <dialog
      ref={(dialog) => {
        if (dialog?.open === false) dialog.showModal();
      }}
      aria-label={`Import ${file.name}`}
      className="m-auto flex max-h-[80vh] w-[620px] flex-col gap-2 rounded-md border-[1.3px] border-ink bg-card p-4 text-ink backdrop:bg-ink/20"
      onClose={onClose}
      onKeyDown={(event) => event.stopPropagation()}
    >
      <h2 className="text-sm font-bold">What {file.name} would change</h2>
      <p className="text-xs">
        {count(changes.length, 'change')}, {count(same, 'value')} as they are already, {count(refused.length, 'cell')} not taken. Nothing is
        changed yet.
      </p>
      {placements && (
        <label className="flex items-center gap-1.5 text-xs">
          <input type="checkbox" checked={yDown} onChange={(event) => setYDown(event.target.checked)} />
          in this file y counts down from the top
        </label>
      )}
      {refused.length > 0 && (
        <Notice>
          <ul aria-label="Not taken" className="max-h-36 flex-1 overflow-y-auto text-xs" tabIndex={0}>
            {refused.slice(0, MOST_SHOWN).map(({ line, text, why }, index) => (
              <li key={index}>
                line {line}
                {text === '' ? '' : ` (${text.slice(0, 60)})`}: {why}
              </li>
            ))}
            {refused.length > MOST_SHOWN && <li>and {refused.length - MOST_SHOWN} more</li>}
          </ul>
        </Notice>
      )}
      <ul aria-label="Changes" className="min-h-10 overflow-y-auto border-y border-line py-1 font-mono text-xs" tabIndex={0}>
        {changes.slice(0, MOST_SHOWN).map(({ line, words }) => (
          <li key={`${String(line)} ${words}`}>{words}</li>
        ))}
        {changes.length > MOST_SHOWN && <li>and {changes.length - MOST_SHOWN} more</li>}
        {changes.length === 0 && <li className="font-sans text-soft">Nothing in this file differs from the level.</li>}
      </ul>
      <div className="flex justify-end gap-2">
        <Button kind="quiet" onClick={onClose}>
          Cancel
        </Button>
        <Button
          kind="strong"
          disabled={changes.length === 0}
          onClick={() => {
            writeMany(store, `import ${file.name}`, changes);
            onClose();
          }}
        >
          Make {count(changes.length, 'change')}
        </Button>
      </div>
    </dialog>
  );
}

/** Takes in a CSV of the table shown: what it would change is shown first. */
export function SheetFile({ level, table }: FileProps) {
  const chooser = useRef<HTMLInputElement>(null);
  const [file, setFile] = useState<Chosen | null>(null);
  return (
    <>
      <Button kind="quiet" onClick={() => chooser.current?.click()}>
        Import CSV
      </Button>
      <input
        ref={chooser}
        type="file"
        accept=".csv,.tsv,.txt,text/csv"
        aria-label="CSV to import"
        className="hidden"
        onChange={(event) => {
          const [chosen] = event.target.files ?? [];
          event.target.value = '';
          void chosen?.text().then((text) => setFile({ name: chosen.name, text }));
        }}
      />
      {file !== null && <Preview level={level} table={table} file={file} onClose={() => setFile(null)} />}
    </>
  );
}
