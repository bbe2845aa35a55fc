import { dialText } from '@dial/core/formats';
import { entry, isOwn, kindOf, type Level, readAt, type DialSpec } from '@dial/core/level';
import { dropOwn, forgetValue, sayRefused, writeMany } from '../state/document/edits.ts';
import { operated, OPERATIONS, type Operation } from '../state/document/operations.ts';
import { useAppStore } from '../state/store.ts';
import { OperationForm } from '../fields/OperationForm.tsx';

const CHANGES = OPERATIONS.filter((one) => one !== 'set to');
const buttonClass = 'cursor-pointer rounded-sm border border-line bg-card px-1 hover:border-ink';

/** Under a dial: that its number is not the one of the kind it would follow, or is not the same for all that are chosen. */
export function OwnMark({ level, spec }: { readonly level: Level; readonly spec: DialSpec }) {
  const store = useAppStore();
  const values = spec.paths.map((path) => readAt(level, path)).filter((value) => typeof value === 'number');
  const [least, most] = [Math.min(...values), Math.max(...values)];
  const own = spec.paths.some((path) => isOwn(level, path));
  const [, map, id = ''] = /^\/([a-z]+)\/([^/]+)\//.exec(spec.paths[0] ?? '') ?? [];
  const followed = map === 'variants' ? entry(level.variants, id)?.basedOn : entry(level.placements, id)?.kind;
  const name = (followed === undefined ? undefined : kindOf(level, followed)?.name) ?? 'its kind';
  const several = spec.paths.length > 1;
  if (!own && !several) return null;
  const operate = (operation: Operation, by: number): void => {
    const writes = spec.paths.flatMap((path) => {
      const value = readAt(level, path);
      return typeof value === 'number' ? [{ path, value: operated(operation, value, by, spec.range) }] : [];
    });
    const [refused] = writeMany(store, `${spec.label}: ${operation} ${dialText(by)}`, writes);
    if (refused !== undefined) sayRefused(store, `${spec.label}: ${refused.why}`);
  };
  return (
    <p className="mt-0.5 flex flex-wrap items-center gap-1.5 text-[11px] text-soft">
      {least !== most && (
        <span>
          {dialText(least)} to {dialText(most)} in {values.length}; turning sets all.
        </span>
      )}
      {several && <OperationForm label={`${spec.label} of all`} operations={CHANGES} first="add" can onApply={operate} />}
      {own && (
        <>
          <span>{map === 'variants' ? 'changed' : 'own value'}</span>
          <button type="button" className={buttonClass} onClick={() => sayRefused(store, forgetValue(store, spec.paths, spec.label))}>
            back to {name}
          </button>
          {map === 'placements' && least === most && (
            <button
              type="button"
              className={buttonClass}
              onClick={() => sayRefused(store, dropOwn(store, spec.paths, spec.label, spec.value))}
            >
              make it the kind’s
            </button>
          )}
        </>
      )}
    </p>
  );
}
