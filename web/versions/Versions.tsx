import { differenceWords } from '@dial/core/formats';
import { differencesOf, type Level } from '@dial/core/level';
import { useCallback, useDeferredValue, useMemo } from 'react';
import { newId } from '../browser/ids.ts';
import type { Compared } from '../state/slices/opening.ts';
import { documentActions, type OpenLevel } from '../state/slices/document.ts';
import { viewActions } from '../state/slices/view.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { hasFocusAtFirst } from '../controls/firstFocus.ts';
import { Button, Refused } from '../controls/controls.tsx';
import { Popover } from '../controls/Popover.tsx';
import { useOnce, useOnceEach } from '../controls/hooks/useOnce.ts';
import { Hint } from '../controls/Hint.tsx';
import { useVersions } from './useVersions.ts';

const MOST_WORDS = 60;
/** What can be compared with although nobody kept it. */
const WHEN_OPENED = 'as it was when opened';

function Differences({ was, now }: { readonly was: Level; readonly now: Level }) {
  const words = useMemo(() => differenceWords(was, now), [was, now]);
  if (words.length === 0) return <p className="text-xs text-soft">Nothing has changed since.</p>;
  return (
    <ul className="list-disc pl-4 text-xs" aria-label="Changed since">
      {words.slice(0, MOST_WORDS).map(({ path, words: text }) => (
        <li key={path}>{text}</li>
      ))}
      {words.length > MOST_WORDS && <li>and {words.length - MOST_WORDS} more</li>}
    </ul>
  );
}

interface PanelProps {
  readonly open: OpenLevel;
  readonly level: Level;
}

interface KeepFormProps {
  readonly busy: boolean;
  /** `kept` is told once it is. */
  readonly onKeep: (name: string, kept: () => void) => void;
}

function KeepForm({ busy, onKeep }: KeepFormProps) {
  return (
    <form
      className="flex gap-2"
      onSubmit={(event) => {
        event.preventDefault();
        const form = event.currentTarget;
        const field = form.elements.namedItem('name');
        const name = field instanceof HTMLInputElement ? field.value.trim() : '';
        onKeep(name, () => form.reset());
      }}
    >
      <input
        name="name"
        aria-label="Name of this state"
        placeholder="Name of this state"
        maxLength={80}
        className="min-w-0 flex-1 rounded-sm border border-ink bg-paper px-1.5 py-1"
        ref={hasFocusAtFirst}
      />
      <Button type="submit" disabled={busy}>
        Keep
      </Button>
    </form>
  );
}

/** What has changed since the version that is compared with. */
function Since({ compared, level }: { readonly compared: Compared; readonly level: Level }) {
  const store = useAppStore();
  const differencesShown = useAppSelector((state) => state.view.differencesShown);
  return (
    <section aria-label="Differences" className="mt-2.5 max-h-44 overflow-y-auto" tabIndex={0}>
      <h3 className="flex items-center text-[11px] font-bold text-soft">
        since “{compared.name}”
        <Button
          kind="quiet"
          className="ml-auto px-1.5! py-0! text-xs text-ink"
          aria-pressed={differencesShown}
          keys="D"
          onClick={() => store.dispatch(viewActions.differencesToggled())}
        >
          {differencesShown ? 'Hide on the Plan' : 'Show on the Plan'}
        </Button>
      </h3>
      <Differences was={compared.level} now={level} />
    </section>
  );
}

/** Named states of a level: kept, compared with, restored, branched off. */
function Panel({ open, level }: PanelProps) {
  const store = useAppStore();
  const compared = useAppSelector((state) => state.document.compared);
  const { versions, trouble, deleted, ...does } = useVersions({ ...open, level });
  const [busy, once] = useOnce();
  const onceEach = useOnceEach();
  const keep = (name: string, kept: () => void): void => {
    if (name === '') does.fail('Give this state a name first.');
    else once(async () => (await does.keep(name, newId())) && kept());
  };
  return (
    <>
      <KeepForm busy={busy} onKeep={keep} />
      <Refused why={trouble} />
      {compared !== null && <Since compared={compared} level={level} />}
      {deleted !== null && (
        <p role="status" className="mt-1.5 flex items-center gap-2 text-xs">
          “{deleted.name}” is deleted.
          <Button
            kind="quiet"
            className="px-1.5! py-0!"
            onClick={() => onceEach(`restore ${String(deleted.id)}`, () => does.setGone(deleted, false))}
          >
            Undo
          </Button>
        </p>
      )}
      <ul aria-label="Versions" className="mt-2.5 max-h-56 overflow-y-auto border-t border-line">
        <li aria-label={WHEN_OPENED} className="flex items-center gap-1.5 border-b border-line py-1.5 text-xs">
          <b className="min-w-0 flex-1">{WHEN_OPENED}</b>
          <Button
            kind="quiet"
            aria-pressed={compared?.id === 0}
            onClick={() => store.dispatch(documentActions.comparedChanged({ id: 0, name: WHEN_OPENED, level: open.begun }))}
          >
            Compare
          </Button>
        </li>
        {versions === null && trouble === null && <li className="py-1 text-soft">Fetching the versions …</li>}
        {versions?.map((version) => (
          <li key={version.id} aria-label={version.name} className="flex items-center gap-1.5 border-b border-line py-1.5 text-xs">
            <span className="min-w-0 flex-1">
              <b className="block truncate">{version.name}</b>
              <span className="text-soft">{new Date(version.createdAt).toLocaleString()}</span>
            </span>
            <Button kind="quiet" aria-pressed={compared?.id === version.id} onClick={() => void does.compare(version)}>
              Compare
            </Button>
            <Button kind="quiet" onClick={() => once(() => does.restore(version))}>
              Restore
            </Button>
            <Button kind="quiet" disabled={busy} onClick={() => once(() => does.branch(version))}>
              Branch off
            </Button>
            <Button
              kind="quiet"
              aria-label={`Delete ${version.name}`}
              onClick={() => onceEach(`delete ${String(version.id)}`, () => does.setGone(version, true))}
            >
              Delete
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
  const compared = useAppSelector((state) => state.document.compared);
  const shown = useAppSelector((state) => state.view.panel === 'versions');
  const setShown = useCallback((now: boolean) => store.dispatch(viewActions.panelShown(now ? 'versions' : null)), [store]);
  // How many they are may come a little later than what they do.
  const settled = useDeferredValue(level);
  const off = useMemo(() => (compared === null ? [] : differencesOf(compared.level, settled)), [compared, settled]);
  // What came or went is no value that is off.
  const values = off.every(({ was, now }) => typeof was !== 'object' && typeof now !== 'object' && was !== undefined && now !== undefined);
  const count = `${String(off.length)} ${values ? 'value' : 'change'}${off.length === 1 ? '' : 's'} ${values ? 'off' : 'from'}`;
  const words = compared === null ? 'Versions' : `${off.length === 0 ? 'same as' : count} “${compared.name}”`;
  return (
    <Popover
      shown={shown}
      onShown={setShown}
      label="Versions"
      className="w-[440px] p-3"
      button={
        <Hint says="Versions: keep, compare, restore, branch off">
          <button
            type="button"
            className="cursor-pointer rounded-full border border-line bg-card px-2 py-px text-xs whitespace-nowrap max-w-44 truncate max-[1179px]:max-w-36 hover:border-ink"
          >
            {words}
          </button>
        </Hint>
      }
    >
      <Panel open={open} level={level} />
    </Popover>
  );
}
