import { differenceWords } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import type { ClashedValue } from '../state/bench.ts';
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

/** What was changed here and, differently, elsewhere: both values, and the choice. Or why an edit is not saved yet. */
export function SaveTrouble() {
  const store = useAppStore();
  const saving = useAppSelector((state) => state.bench.saving);
  const mine = useAppSelector((state) => state.bench.open?.level);
  if (saving.state === 'not saved') return <Notice>{`Not saved: ${saving.why}`}</Notice>;
  if (saving.state !== 'clash') return null;
  return (
    <Notice>
      <div className="flex-1">
        <p>
          <b>This level was changed elsewhere at the same place.</b> Nothing is lost; choose which stands. Here → there:
        </p>
        {mine !== undefined && <ClashedWords mine={mine} theirs={saving.theirs} values={saving.values} />}
      </div>
      <Button onClick={() => settleClash(store, 'mine')}>Keep mine</Button>
      <Button onClick={() => settleClash(store, 'theirs')}>Take theirs</Button>
    </Notice>
  );
}
