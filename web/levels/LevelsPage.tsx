import { levelText } from '@dial/core/formats';
import { tooLarge, type Level } from '@dial/core/level';
import { useEffect, useRef, useState } from 'react';
import { useNavigate } from 'react-router';
import { newId } from '../browser/ids.ts';
import { api, ApiError, reasonOf, type LevelEntry } from '../state/sync/api.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Button, Notice } from '../controls/controls.tsx';
import { SearchField } from '../controls/SearchField.tsx';
import { useOnce, useOnceEach } from '../controls/useOnce.ts';
import { LevelCard } from './LevelCard.tsx';
import { NewLevel } from './NewLevel.tsx';
import { z } from 'zod';
import { readText } from '../browser/reading.ts';
import { lasting, remember } from '../browser/storage.ts';
import { Select, type Option } from '../controls/Select.tsx';

/** What is wrong with a file, place by place. */
function problemsOf(error: unknown): string {
  const problems = error instanceof ApiError ? error.problems.slice(0, 5).map(({ path, message }) => `${path || 'file'}: ${message}`) : [];
  return problems.length > 0 ? `${problems.join('; ')}. Nothing was changed.` : reasonOf(error);
}

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

/** Whether it was said that one knows what Dial is for. */
const INTRODUCED = 'dial.introduced';

/** The first page: all levels, and ways to begin one, bring one in, copy and delete. */
export function LevelsPage() {
  const [levels, setLevels] = useState<readonly LevelEntry[] | null>(null);
  /** What is left on the disk, when it is little. */
  const [room, setRoom] = useState<string | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [deleted, setDeleted] = useState<LevelEntry | null>(null);
  const [beginning, setBeginning] = useState(false);
  const [attempt, setAttempt] = useState(0);
  const file = useRef<HTMLInputElement>(null);
  const navigate = useNavigate();
  const [busy, once] = useOnce();
  const [sought, setSought] = useState('');
  const [sort, setSort] = useState<Sort>(() => readText(lasting.get(SORTED), SortBy) ?? 'changed');
  const [introduced, setIntroduced] = useState(() => lasting.get(INTRODUCED) !== null);
  const words = sought.trim().toLowerCase();
  const found = levels?.filter(({ name }) => name.toLowerCase().includes(words)).sort(ORDERS[sort]) ?? null;
  const fetchAgain = (): void => setAttempt((now) => now + 1);

  useEffect(() => {
    document.title = 'Levels · Dial';
    api.listLevels().then(setLevels, (error: unknown) => setTrouble(reasonOf(error)));
    api.health().then(
      ({ disk }) => setRoom(disk.state === 'nearly full' ? `${String(Math.floor(disk.freeBytes / 1024 / 1024))} MB` : null),
      () => setRoom(null), // That the server does not answer is said by the list.
    );
  }, [attempt]);

  /** Does something on the server and shows how the levels are then, or why it was not done. */
  const act = (what: string, done: Promise<unknown>): Promise<void> =>
    done.then(fetchAgain, (error: unknown) => setTrouble(`${what} ${reasonOf(error)}`));
  /** Adds a level and opens it. A press that comes while one is being added adds none. */
  const add = (text: () => Promise<string> | string, as: 'imported' | 'begun', what: string): void => {
    const key = newId();
    once(async () => {
      try {
        const { id } = await api.addLevel(await text(), as, key);
        await navigate(`/levels/${id}`);
      } catch (error) {
        setTrouble(`${what} ${problemsOf(error)}`);
      }
    });
  };
  const duplicate = (document: Level): void => {
    const copy: Level = { ...document, name: `${document.name} copy`.slice(0, 80) };
    once(() => act('The level was not duplicated.', api.addLevel(levelText(copy), 'copied', newId())));
  };
  const onceEach = useOnceEach();
  const remove = (listed: LevelEntry): void => {
    setLevels((now) => now?.filter(({ id }) => id !== listed.id) ?? null);
    setDeleted(listed);
    onceEach(`delete ${listed.id}`, () => act('The level was not deleted.', api.deleteLevel(listed.id)));
  };
  const rename = ({ id, revision, name: was }: LevelEntry, name: string): void => {
    const operations = [
      { op: 'test' as const, path: '/name', value: was },
      { op: 'replace' as const, path: '/name', value: name },
    ];
    onceEach(`rename ${id}`, () => act('The level was not renamed.', api.patchLevel(id, revision, newId(), operations)));
  };

  return (
    <div className="flex min-h-full flex-col">
      <AppHeader />
      <main className="mx-auto w-full max-w-[1230px] px-6 py-6">
        <div className="mb-4 flex items-center gap-2">
          <h1 className="text-xl font-bold">Levels</h1>
          <span
            className="ml-auto"
            onKeyDown={({ key }) => {
              const first = found?.[0];
              if (key === 'Enter' && sought !== '' && first !== undefined) void navigate(`/levels/${encodeURIComponent(first.id)}`);
            }}
          >
            <SearchField label="Find a level" hint="find a level" width="w-44" value={sought} onChange={setSought} />
          </span>
          <Select
            label="Order of the levels"
            value={sort}
            options={SORTS}
            onChoose={(chosen) => {
              remember(SORTED, JSON.stringify(chosen));
              setSort(chosen);
            }}
          />
          <Button kind="strong" onClick={() => setBeginning(true)}>
            New level
          </Button>
          <Button onClick={() => file.current?.click()}>Import a level</Button>
          <input
            ref={file}
            type="file"
            accept=".json,application/json"
            aria-label="Level file"
            className="hidden"
            onChange={(event) => {
              const chosen = event.target.files?.[0];
              event.target.value = '';
              const large = chosen === undefined ? null : tooLarge(chosen.size);
              if (large !== null) setTrouble(`${chosen?.name ?? ''} was not imported: ${large}. Nothing was changed.`);
              else if (chosen !== undefined) add(() => chosen.text(), 'imported', `${chosen.name} was not imported.`);
            }}
          />
        </div>
        {!introduced && (
          <section
            aria-label="What Dial is for"
            className="mb-4 flex flex-wrap items-center gap-3 rounded-md border-[1.3px] border-ink bg-card px-3.5 py-2.5"
          >
            <p className="min-w-[300px] flex-1">
              Dial is for tuning what acts on a player by touch: pickups, hazards, pads, boosts, and how long each rests.
              <br />
              Turn a value and see the whole session change, with the reason for each thing that happened in it.
            </p>
            {levels?.some(({ id }) => id === TOUR_LEVEL) === true && (
              <Button kind="strong" onClick={() => void navigate(`/levels/${TOUR_LEVEL}?tour`)}>
                Take the tour
              </Button>
            )}
            <Button
              kind="quiet"
              onClick={() => {
                remember(INTRODUCED, 'true');
                setIntroduced(true);
              }}
            >
              Do not show this again
            </Button>
          </section>
        )}
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
              <Button
                onClick={() => {
                  setTrouble(null);
                  fetchAgain();
                }}
              >
                {levels === null ? 'Try again' : 'Dismiss'}
              </Button>
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
            <Button
              onClick={() => {
                onceEach(`restore ${deleted.id}`, () => act('The level was not brought back.', api.restoreLevel(deleted.id)));
                setDeleted(null);
              }}
            >
              Undo
            </Button>
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
              key={`${listed.id} ${String(listed.revision)}`}
              listed={listed}
              onRename={(name) => rename(listed, name)}
              onDuplicate={duplicate}
              onDelete={() => remove(listed)}
            />
          ))}
        </ul>
      </main>
    </div>
  );
}
