import { levelText } from '@dial/core/formats';
import { tooLarge } from '@dial/core/level';
import { useEffect, useState } from 'react';
import { useNavigate } from 'react-router';
import { z } from 'zod';
import { readText } from '../browser/reading.ts';
import { lasting, remember } from '../browser/storage.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Button, Notice } from '../controls/controls.tsx';
import { FileButton } from '../controls/FileButton.tsx';
import { SearchField } from '../controls/SearchField.tsx';
import { Select, type Option } from '../controls/Select.tsx';
import { api, type LevelEntry } from '../state/server/api.ts';
import { Introduction } from './Introduction.tsx';
import { LevelCard } from './LevelCard.tsx';
import { NewLevel } from './NewLevel.tsx';
import { useLevels } from './useLevels.ts';

/** The demo level that the tour leads through. */
const TOUR_LEVEL = 'night-firing';

/** How the levels are put in order. */
const SortBy = z.enum(['changed', 'name']);
type Sort = z.infer<typeof SortBy>;
const SORTS: readonly Option<Sort>[] = [
  ['changed', 'changed last first'],
  ['name', 'by name'],
];
const ORDERS: Readonly<Record<Sort, (a: LevelEntry, b: LevelEntry) => number>> = {
  changed: (a, b) => Date.parse(b.updatedAt) - Date.parse(a.updatedAt),
  name: (a, b) => a.name.localeCompare(b.name),
};
const SORTED = 'dial.levels.order';

/** What is left on the server's disk, when it is little. */
function useLittleRoom(): string | null {
  const [room, setRoom] = useState<string | null>(null);
  useEffect(() => {
    api.health().then(
      ({ disk }) => setRoom(disk.state === 'nearly full' ? `${String(Math.floor(disk.freeBytes / 1024 / 1024))} MB` : null),
      () => setRoom(null), // That the server does not answer is said by the list.
    );
  }, []);
  return room;
}

interface BarProps {
  readonly sought: string;
  readonly onSeek: (words: string) => void;
  /** Enter in the field of what is sought. */
  readonly onFirst: () => void;
  readonly sort: Sort;
  readonly onSort: (sort: Sort) => void;
  readonly onNew: () => void;
  readonly onFile: (file: File) => void;
}

function Bar({ sought, onSeek, onFirst, sort, onSort, onNew, onFile }: BarProps) {
  return (
    <div className="mb-4 flex items-center gap-2">
      <h1 className="text-xl font-bold">Levels</h1>
      <span className="ml-auto">
        <SearchField label="Find a level" hint="find a level" width="w-44" value={sought} onChange={onSeek} onEnter={onFirst} />
      </span>
      <Select label="Order of the levels" value={sort} options={SORTS} onChoose={onSort} />
      <Button kind="strong" onClick={onNew}>
        New level
      </Button>
      <FileButton label="Level file" accept=".json,application/json" kind="plain" onFile={onFile}>
        Import a level
      </FileButton>
    </div>
  );
}

/** The first page: all levels, and ways to begin one, bring one in, copy and delete. */
export function LevelsPage() {
  const navigate = useNavigate();
  const { levels, trouble, deleted, busy, add, ...does } = useLevels();
  const room = useLittleRoom();
  const [beginning, setBeginning] = useState(false);
  const [sought, setSought] = useState('');
  const [sort, setSort] = useState<Sort>(() => readText(lasting.get(SORTED), SortBy) ?? 'changed');
  const words = sought.trim().toLowerCase();
  const found = levels?.filter(({ name }) => name.toLowerCase().includes(words)).sort(ORDERS[sort]) ?? null;
  useEffect(() => {
    document.title = 'Levels · Dial';
  }, []);
  const open = ({ id }: LevelEntry, more = ''): void => void navigate(`/levels/${encodeURIComponent(id)}${more}`);
  const tour = levels?.find(({ id }) => id === TOUR_LEVEL);
  return (
    <div className="flex min-h-full flex-col">
      <AppHeader />
      <main className="mx-auto w-full max-w-[1230px] px-6 py-6">
        <Bar
          sought={sought}
          onSeek={setSought}
          onFirst={() => {
            if (sought !== '' && found?.[0] !== undefined) open(found[0]);
          }}
          sort={sort}
          onSort={(chosen) => {
            remember(SORTED, JSON.stringify(chosen));
            setSort(chosen);
          }}
          onNew={() => setBeginning(true)}
          onFile={(file) => {
            const large = tooLarge(file.size);
            if (large !== null) does.fail(`${file.name} was not imported: ${large}. Nothing was changed.`);
            else add(() => file.text(), 'imported', `${file.name} was not imported.`);
          }}
        />
        <Introduction onTour={tour === undefined ? null : () => open(tour, '?tour')} />
        {beginning && (
          <NewLevel
            onCancel={() => setBeginning(false)}
            busy={busy}
            onBegin={(level) => add(() => levelText(level), 'begun', 'The level was not begun.')}
          />
        )}
        {trouble !== null && (
          <div className="mb-4">
            <Notice>
              <span className="flex-1">{trouble}</span>
              <Button onClick={does.again}>{levels === null ? 'Try again' : 'Dismiss'}</Button>
            </Notice>
          </div>
        )}
        {room !== null && (
          <div className="mb-4">
            <Notice>The disk that Dial keeps its data on is nearly full: {room} are left. Make room, or saving will soon fail.</Notice>
          </div>
        )}
        {deleted !== null && (
          <p role="status" className="mb-4 flex items-center gap-3 rounded-md border-[1.3px] border-ink bg-card px-3 py-2">
            <span className="flex-1">“{deleted.name}” is deleted.</span>
            <Button onClick={() => does.bringBack(deleted)}>Undo</Button>
          </p>
        )}
        {levels === null && trouble === null && <p className="text-soft">Fetching the levels …</p>}
        {levels?.length === 0 && <p className="text-soft">There are no levels yet. Begin a new one, or import a level file.</p>}
        {found?.length === 0 && levels?.length !== 0 && (
          <p className="text-soft">No level is called that. Empty the field to see them all.</p>
        )}
        <ul className="flex flex-wrap gap-5">
          {found?.map((listed) => (
            <LevelCard
              key={listed.id}
              listed={listed}
              onRename={(name) => does.rename(listed, name)}
              onDuplicate={does.duplicate}
              onExport={does.exportFile}
              onDelete={() => does.remove(listed)}
            />
          ))}
        </ul>
      </main>
    </div>
  );
}
