import { reasonOf } from '@dial/core/level';
import { differenceWords, fileName, levelText } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import type { ClashedValue } from '../state/slices/savingMachine.ts';
import { bringBack, settleClash, takeBackRejected } from '../state/sync/saving.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { viewActions } from '../state/slices/view.ts';
import { AlertDialog } from '../controls/AlertDialog.tsx';
import { Button, Notice, Pill } from '../controls/controls.tsx';
import { download } from '../controls/download.ts';
import { useOnce } from '../controls/hooks/useOnce.ts';
import { Hint } from '../controls/Hint.tsx';

/** Whether the edits are on the server, honestly. */
export function SavedState() {
  const saving = useAppSelector((state) => state.saving.now);
  const unsent = useAppSelector((state) => state.saving.unsent.length > 0);
  return (
    <span role="status" aria-label="Saving">
      {saving.state === 'waiting' || saving.state === 'rejected' ? (
        <Hint says={saving.why}>
          <span className="rounded-full border border-harm bg-card px-2 py-px text-xs text-harm">
            {saving.state === 'waiting' ? 'not saved' : 'not taken'}
          </span>
        </Hint>
      ) : (
        <Pill>{saving.state === 'clash' ? 'changed elsewhere' : saving.state === 'sending' || unsent ? 'saving …' : 'saved'}</Pill>
      )}
    </span>
  );
}

const shown = (value: unknown): string => (typeof value === 'object' && value !== null ? 'a changed entry' : JSON.stringify(value ?? null));

const within = (inner: string, outer: string): boolean => inner === outer || inner.startsWith(`${outer}/`);

/** What stands here and elsewhere at the places of a clash: in words, or with its path where there are none, as for an order. */
function ClashedWords({
  mine,
  theirs,
  values,
}: {
  readonly mine: Level;
  readonly theirs: Level;
  readonly values: readonly ClashedValue[];
}) {
  const differences = differenceWords(mine, theirs);
  const lines = values.flatMap((value) => {
    const said = differences.filter(({ path }) => within(path, value.path) || within(value.path, path)).map(({ words }) => words);
    return said.length > 0 ? said : [`${value.path} ${shown(value.mine)} → ${shown(value.theirs)}`];
  });
  return (
    <ul aria-label="Here → there">
      {[...new Set(lines)].map((text) => (
        <li key={text} className="font-mono text-xs">
          {text}
        </li>
      ))}
    </ul>
  );
}

/** An edit that the server will not take, and the ways on from there. Edits made since wait behind it. */
function Rejected({ why, gone }: { readonly why: string; readonly gone: boolean }) {
  const store = useAppStore();
  const [busy, once] = useOnce();
  const act = (what: string, done: (of: typeof store) => Promise<void>): void =>
    once(() => done(store).catch((error: unknown) => store.dispatch(viewActions.troubled(`${what} ${reasonOf(error)}`))));
  return (
    <Notice>
      <div className="flex-1">
        <p>
          <b>The server does not take the last edit.</b> {why} It is kept here, and so is what you do after it.
        </p>
      </div>
      <Button
        onClick={() => {
          const { open } = store.getState().document;
          if (open !== null) download(fileName(open.level.name, 'json'), levelText(open.level), 'application/json');
        }}
      >
        Export the level
      </Button>
      {gone ? (
        <Button disabled={busy} onClick={() => act('The level was not brought back.', bringBack)}>
          Bring the level back
        </Button>
      ) : (
        <Button disabled={busy} onClick={() => act('The edit was not taken back.', takeBackRejected)}>
          Take it back
        </Button>
      )}
    </Notice>
  );
}

/** Something that went wrong: over the lower edge of the page, where it moves nothing, until it is closed or something else is done. */
export function Trouble() {
  const store = useAppStore();
  const trouble = useAppSelector((state) => state.view.trouble);
  if (trouble === null) return null;
  return (
    <div className="fixed bottom-3 left-3 z-40 max-w-[min(640px,calc(100vw-24px))] text-xs">
      <Notice>
        <span className="flex-1">{trouble}</span>
        <Button kind="quiet" className="py-0.5!" onClick={() => store.dispatch(viewActions.troubled(null))}>
          Close
        </Button>
      </Notice>
    </div>
  );
}

/** What was changed here and, differently, elsewhere: both values, and the choice. Or why an edit is not saved yet. */
export function SaveTrouble() {
  const store = useAppStore();
  const saving = useAppSelector((state) => state.saving.now);
  const mine = useAppSelector((state) => state.document.open?.level);
  if (saving.state === 'waiting') return <Notice>{`Not saved: ${saving.why}`}</Notice>;
  if (saving.state === 'rejected') return <Rejected why={saving.why} gone={saving.gone} />;
  if (saving.state !== 'clash') return null;
  return (
    <Notice>
      <p className="flex-1">
        <b>This level was changed elsewhere at the same place.</b> Nothing is lost, and you can go on; saving waits until it is chosen which
        stands.
      </p>
      <AlertDialog
        title="Which stands?"
        button={<Button>Choose which stands</Button>}
        leave="Not yet"
        answers={[
          ['Keep mine', () => settleClash(store, 'mine')],
          ['Take theirs', () => settleClash(store, 'theirs')],
        ]}
      >
        <p className="text-xs">Here → there:</p>
        {mine !== undefined && <ClashedWords mine={mine} theirs={saving.theirs} values={saving.values} />}
      </AlertDialog>
    </Notice>
  );
}
