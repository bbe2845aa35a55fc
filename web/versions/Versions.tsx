import { levelText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useCallback, useEffect, useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { api, reasonOf, type Version } from '../state/api.ts';
import { benchActions, type OpenLevel } from '../state/bench.ts';
import { tryEdit } from '../state/edits.ts';
import { whenAllSent } from '../state/saving.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button } from '../ui/controls.tsx';
import { Popover } from '../ui/Popover.tsx';
import { differences } from './differences.ts';
import { numbersOff } from './numbersOff.ts';

const MOST_WORDS = 14;

function Differences({ was, now }: { readonly was: Level; readonly now: Level }) {
  const words = useMemo(() => differences(was, now), [was, now]);
  if (words.length === 0) {
    return (
      <p className="text-xs text-soft">
        {numbersOff(was, now) === 0 ? 'Nothing has changed since.' : 'Only rarer settings have changed since.'}
      </p>
    );
  }
  return (
    <ul className="list-disc pl-4 text-xs" aria-label="Changed since">
      {words.slice(0, MOST_WORDS).map((text, index) => (
        <li key={index}>{text}</li>
      ))}
      {words.length > MOST_WORDS && <li>and {words.length - MOST_WORDS} more</li>}
    </ul>
  );
}

interface PanelProps {
  readonly open: OpenLevel;
  readonly level: Level;
}

/** Named states of a level: kept, compared with, restored, branched off. */
function Panel({ open, level }: PanelProps) {
  const store = useAppStore();
  const navigate = useNavigate();
  const [versions, setVersions] = useState<readonly Version[] | null>(null);
  const [trouble, setTrouble] = useState<string | null>(null);
  useEffect(() => {
    api.listVersions(open.id).then(
      (list) => setVersions([...list].reverse()),
      (error: unknown) => setTrouble(reasonOf(error)),
    );
  }, [open.id]);

  const compare = ({ name, document }: Version): void => {
    store.dispatch(benchActions.comparedChanged({ name, level: document }));
  };
  const keep = async (name: string): Promise<void> => {
    try {
      // What is kept is what the server has: all edits first.
      await whenAllSent(store);
      const kept = await api.keepVersion(open.id, name);
      setVersions((list) => [kept, ...(list ?? [])]);
      compare(kept);
      setTrouble(null);
    } catch (error) {
      setTrouble(`This state was not kept. ${reasonOf(error)}`);
    }
  };
  const restore = ({ name, document }: Version): void => {
    tryEdit(store, `restore “${name}”`, (draft) => {
      Object.assign(draft, structuredClone(document));
    });
  };
  const branch = async ({ name, document }: Version): Promise<void> => {
    try {
      const { id } = await api.addLevel(levelText({ ...document, name: `${document.name}, ${name}`.slice(0, 120) }), 'copied');
      await navigate(`/levels/${id}`);
    } catch (error) {
      setTrouble(`No level was branched off. ${reasonOf(error)}`);
    }
  };
  return (
    <>
      <form
        className="flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          const form = event.currentTarget;
          const field = form.elements.namedItem('name');
          const name = field instanceof HTMLInputElement ? field.value.trim() : '';
          if (name === '') setTrouble('Give this state a name first.');
          else void keep(name).then(() => form.reset());
        }}
      >
        <input
          name="name"
          aria-label="Name of this state"
          placeholder="Name of this state"
          maxLength={120}
          className="min-w-0 flex-1 rounded-sm border border-ink bg-paper px-1.5 py-1"
          ref={(field) => field?.focus()}
        />
        <Button type="submit">Keep</Button>
      </form>
      {trouble !== null && (
        <p role="alert" className="mt-1.5 text-xs text-harm">
          {trouble}
        </p>
      )}
      {open.compared !== null && (
        <section aria-label="Differences" className="mt-2.5 max-h-44 overflow-y-auto" tabIndex={0}>
          <h3 className="text-[11px] font-bold text-soft">since “{open.compared.name}”</h3>
          <Differences was={open.compared.level} now={level} />
        </section>
      )}
      <ul aria-label="Versions" className="mt-2.5 max-h-56 overflow-y-auto border-t border-line">
        {versions === null && trouble === null && <li className="py-1 text-soft">Fetching the versions …</li>}
        {versions?.map((version) => (
          <li key={version.id} aria-label={version.name} className="flex items-center gap-1.5 border-b border-line py-1.5 text-xs">
            <span className="min-w-0 flex-1">
              <b className="block truncate">{version.name}</b>
              <span className="text-soft">{new Date(version.createdAt).toLocaleString()}</span>
            </span>
            <Button kind="quiet" aria-pressed={open.compared?.level === version.document} onClick={() => compare(version)}>
              Compare
            </Button>
            <Button kind="quiet" onClick={() => restore(version)}>
              Restore
            </Button>
            <Button kind="quiet" onClick={() => void branch(version)}>
              Branch off
            </Button>
          </li>
        ))}
      </ul>
    </>
  );
}

/** Says how far the level is from the version it is compared with, and opens the versions. */
export function Versions({ open, level }: PanelProps) {
  const store = useAppStore();
  const shown = useAppSelector((state) => state.bench.panel === 'versions');
  const setShown = useCallback((now: boolean) => store.dispatch(benchActions.panelShown(now ? 'versions' : null)), [store]);
  const off = useMemo(() => (open.compared === null ? 0 : numbersOff(level, open.compared.level)), [open.compared, level]);
  const words =
    open.compared === null
      ? 'Versions'
      : `${off === 0 ? 'same as' : `${String(off)} ${off === 1 ? 'number' : 'numbers'} off`} “${open.compared.name}”`;
  return (
    <Popover
      shown={shown}
      onShown={setShown}
      label="Versions"
      role="dialog"
      className="left-0 z-20 w-[400px] p-3"
      button={
        <button
          type="button"
          aria-expanded={shown}
          title="Versions: keep, compare, restore, branch off"
          className="cursor-pointer rounded-full border border-line bg-card px-2 py-px text-xs whitespace-nowrap hover:border-ink"
          onClick={() => setShown(!shown)}
        >
          {words}
        </button>
      }
    >
      <Panel open={open} level={level} />
    </Popover>
  );
}
