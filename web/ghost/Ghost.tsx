import { clockTime, differenceWords, outcomesBeside, plainNumber } from '@dial/core/formats';
import { inOrder, type Level } from '@dial/core/level';
import type { Outcome } from '@dial/core/session';
import { useEffect, useMemo, useState } from 'react';
import { playbackActions } from '../state/slices/playback.ts';
import { contributionsOf, type Contribution } from '../state/simulation/contributions.ts';
import { runTried } from '../state/simulation/startFrom.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Progress } from '../controls/Progress.tsx';
import { Button } from '../controls/controls.tsx';
import { partingOf } from './parting.ts';

/** More changes than this are not tried one by one. */
const MOST_CHANGES = 40;

const headClass = 'sticky top-0 border-b border-line bg-panel px-2 py-0.5 text-left text-[11px] font-bold text-soft';

/** Reads a figure of one player off an outcome; 0 when there is no such player. */
const ofPlayer =
  (player: number, read: (of: Outcome['players'][number]) => number | undefined) =>
  ({ players }: Outcome): number => {
    const one = players[player];
    return one === undefined ? 0 : (read(one) ?? 0);
  };

/** What each change alone does to the compared version's session: begun by hand, shown as it comes, and to be stopped. */
function Contributions({ level, was, compared }: { readonly level: Level; readonly was: Level; readonly compared: string }) {
  const run = useAppSelector(runTried);
  const route = useAppSelector((state) => state.simulated.run?.route ?? null);
  const base = useAppSelector((state) => state.simulated.shown.compared?.outcome ?? null);
  const changes = useMemo(() => differenceWords(was, level), [was, level]);
  const [asked, setAsked] = useState<{ readonly changes: typeof changes; readonly run: typeof run } | null>(null);
  const [found, setFound] = useState<readonly Contribution[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const tried = asked?.changes === changes && asked.run === run;
  const most = changes.slice(0, MOST_CHANGES);
  useEffect(() => {
    if (asked === null || asked.run === null) return;
    let wanted = true;
    contributionsOf(
      was,
      asked.changes.slice(0, MOST_CHANGES),
      asked.run,
      route,
      () => wanted,
      (one) => setFound((before) => [...before, one]),
    ).catch((error: unknown) => wanted && setTrouble(`The changes could not be tried: ${String(error)}`));
    return () => {
      wanted = false;
    };
  }, [asked, was, route]);
  const busy = tried && found.length < most.length && trouble === null;
  const count = base?.players.length ?? 1;
  const columns = Array.from({ length: count }, (_, player) => {
    const of = count > 1 ? ` of ${String(player + 1)}` : '';
    const meters = inOrder(level.meters).map(([id, { name }]) => ({
      name: `${name}${of}`,
      read: ofPlayer(player, ({ meters: all }) => all[id]),
    }));
    return [...meters, { name: `deaths${of}`, read: ofPlayer(player, ({ deaths }) => deaths) }];
  }).flat();
  if (changes.length === 0) return <p className="px-2 py-1 text-soft">The level is the same as “{compared}”.</p>;
  return (
    <>
      <div className="flex items-center gap-2 px-2 py-1">
        {busy ? (
          <>
            <Progress label="Changes tried" done={found.length} of={most.length} />
            <span>
              {found.length} of {most.length}
            </span>
            <Button kind="quiet" className="px-1.5! py-0!" onClick={() => setAsked(null)}>
              Stop
            </Button>
          </>
        ) : (
          <Button
            kind="quiet"
            className="px-1.5! py-0!"
            onClick={() => {
              setFound([]);
              setTrouble(null);
              setAsked({ changes, run });
            }}
          >
            Try each change alone
          </Button>
        )}
        {changes.length > MOST_CHANGES && <span className="text-soft">The first {MOST_CHANGES} changes.</span>}
        {trouble !== null && <span role="alert">{trouble}</span>}
      </div>
      <table className="w-full text-xs" aria-label="What each change does alone">
        <thead>
          <tr>
            <th className={headClass}>change</th>
            {columns.map(({ name }) => (
              <th key={name} className={`${headClass} text-right`}>
                {name}
              </th>
            ))}
          </tr>
        </thead>
        <tbody>
          {most.map(({ path, words }) => {
            const one = tried ? found.find(({ difference }) => difference.path === path) : undefined;
            const by = (read: (outcome: Outcome) => number): string => {
              if (one === undefined) return '';
              if (one.outcome === null || base === null) return '—';
              const change = read(one.outcome) - read(base);
              return change === 0 ? '0' : (change > 0 ? '+' : '') + plainNumber(change, 1);
            };
            return (
              <tr key={path} className="border-b border-line/60">
                <td className="px-2 py-px">{words}</td>
                {columns.map(({ name, read }) => (
                  <td key={name} className="px-2 text-right font-mono">
                    {by(read)}
                  </td>
                ))}
              </tr>
            );
          })}
        </tbody>
      </table>
      {tried && found.some(({ outcome }) => outcome === null) && (
        <p className="px-2 py-1 text-soft">— : alone, this change does not make a valid level.</p>
      )}
    </>
  );
}

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
                    <td className="px-2 text-right font-mono">
                      {other && here?.value !== null ? (by > 0 ? '+' : '') + plainNumber(by, 1) : ''}
                    </td>
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
