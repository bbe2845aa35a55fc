import { clockTime, outcomesBeside, signed } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { useMemo } from 'react';
import { playbackActions } from '../state/slices/playback.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Contributions } from './Contributions.tsx';
import { partingOf } from './parting.ts';
import { headClass } from './tables.ts';

/** The same run on the compared version: outcomes beside each other, where they part, and what each change does. */
export function Ghost({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const { now, compared: was } = useAppSelector((state) => state.simulated.shown);
  const compared = useAppSelector((state) => state.document.compared ?? null);
  const parting = useMemo(() => (now === null || was === null ? null : partingOf(now, was)), [now, was]);
  const rows = useMemo(() => (now === null || was === null ? [] : outcomesBeside([was, now])), [now, was]);
  const frameClass = 'h-full rounded-sm border-[1.3px] border-ink bg-card';
  if (compared === null || now === null || was === null) {
    return (
      <section aria-label="Ghost" className={`${frameClass} p-3 text-soft`}>
        Nothing to set beside this yet: choose what to compare with under Versions (Shift+V), and have a run on the Strip.
      </section>
    );
  }
  return (
    <section aria-label="Ghost" className={`flex flex-col text-xs ${frameClass}`}>
      <p className="border-b border-line bg-panel px-2 py-1" role="status" aria-label="Parting">
        {parting === null ? (
          `The same in every step as on “${compared.name}”.`
        ) : (
          <>
            Parts from “{compared.name}” at{' '}
            <button
              type="button"
              className="cursor-pointer font-mono underline"
              onClick={() => dispatch(playbackActions.needleMoved(parting.step))}
            >
              {clockTime(parting.seconds)}
            </button>
            : {parting.words}.
          </>
        )}
      </p>
      <div className="flex min-h-0 flex-1">
        <div className="w-[46%] overflow-y-auto" tabIndex={0} role="group" aria-label="Outcomes">
          <table className="w-full text-xs" aria-label="Outcomes beside each other">
            <thead>
              <tr>
                <th className={headClass}>outcome</th>
                <th className={`${headClass} text-right`}>now</th>
                <th className={`${headClass} text-right`}>{compared.name}</th>
                <th className={`${headClass} text-right`}>by</th>
              </tr>
            </thead>
            <tbody>
              {rows.map(({ name, cells: [before, here] }) => {
                const by = (here?.value ?? 0) - (before?.value ?? 0);
                const other = here?.text !== before?.text;
                return (
                  <tr key={name} className={`border-b border-line/60 ${other ? 'font-semibold' : 'text-soft'}`}>
                    <td className="px-2 py-px">{name}</td>
                    <td className="px-2 text-right font-mono">{here?.text ?? '—'}</td>
                    <td className="px-2 text-right font-mono">{before?.text ?? '—'}</td>
                    <td className="px-2 text-right font-mono">{other && here?.value !== null ? signed(by, 1) : ''}</td>
                  </tr>
                );
              })}
            </tbody>
          </table>
        </div>
        <div className="flex-1 overflow-y-auto border-l border-line" tabIndex={0} role="group" aria-label="Changes">
          <Contributions level={level} was={compared.level} compared={compared.name} />
        </div>
      </div>
    </section>
  );
}
