import { settleClash } from '../state/saving.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { Button, Notice, Pill } from '../ui/controls.tsx';

/** Whether the edits are on the server, honestly. */
export function SavedState() {
  const saving = useAppSelector((state) => state.bench.saving);
  return (
    <span role="status" aria-label="Saving">
      {saving.state === 'not saved' ? (
        <span className="rounded-full border border-harm bg-card px-2 py-px text-xs text-harm" title={saving.why}>
          not saved
        </span>
      ) : (
        <Pill>{saving.state === 'saving' ? 'saving …' : saving.state === 'clash' ? 'changed elsewhere' : 'saved'}</Pill>
      )}
    </span>
  );
}

const shown = (value: unknown): string => (typeof value === 'object' && value !== null ? 'a changed entry' : JSON.stringify(value ?? null));

/** What was changed here and, differently, elsewhere: both values, and the choice. Or why an edit is not saved yet. */
export function SaveTrouble() {
  const store = useAppStore();
  const saving = useAppSelector((state) => state.bench.saving);
  if (saving.state === 'not saved') return <Notice>{`Not saved: ${saving.why}`}</Notice>;
  if (saving.state !== 'clash') return null;
  return (
    <Notice>
      <div className="flex-1">
        <p className="font-semibold">This level was changed elsewhere at the same place. Nothing is lost; choose which stands.</p>
        <ul>
          {saving.values.map(({ path, mine, theirs }) => (
            <li key={path} className="font-mono text-xs">
              {path}: here {shown(mine)}, there {shown(theirs)}
            </li>
          ))}
        </ul>
      </div>
      <Button onClick={() => settleClash(store, 'mine')}>Keep mine</Button>
      <Button onClick={() => settleClash(store, 'theirs')}>Take theirs</Button>
    </Notice>
  );
}
