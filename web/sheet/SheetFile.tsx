import type { Level } from '@dial/core/level';
import { useMemo, useState } from 'react';
import { Check } from '../controls/Check.tsx';
import { writeMany } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { ChangePreview } from '../controls/ChangePreview.tsx';
import { FileButton, readChosen, type ChosenFile } from '../controls/FileButton.tsx';
import { TABLES, type Table } from './tables.ts';

interface FileProps {
  readonly level: Level;
  readonly table: Table;
}

function Preview({ level, table, file, onClose }: FileProps & { readonly file: ChosenFile; readonly onClose: () => void }) {
  const store = useAppStore();
  const [yDown, setYDown] = useState(false);
  const reading = useMemo(() => TABLES[table].read(level, file.text, yDown), [level, file.text, table, yDown]);
  return (
    <ChangePreview
      name={file.name}
      reading={reading}
      counts="line"
      onMake={() => void writeMany(store, `import ${file.name}`, reading.changes)}
      onClose={onClose}
    >
      {TABLES[table].file === 'placements' && (
        <label className="flex items-center gap-1.5 text-xs">
          <Check checked={yDown} onCheck={setYDown} />
          in this file y counts down from the top
        </label>
      )}
    </ChangePreview>
  );
}

/** Takes in a CSV of the table shown: what it would change is shown first. */
export function SheetFile({ level, table }: FileProps) {
  const [file, setFile] = useState<ChosenFile | null>(null);
  return (
    <>
      <FileButton
        label="CSV to import"
        command="import csv"
        accept=".csv,.tsv,.txt,text/csv"
        onFile={(chosen) => void readChosen(chosen).then(setFile)}
      >
        Import CSV
      </FileButton>
      {file !== null && <Preview level={level} table={table} file={file} onClose={() => setFile(null)} />}
    </>
  );
}
