import { differenceWords, signed } from '@dial/core/formats';
import { inOrder, isPlayed, type Level } from '@dial/core/level';
import type { Run, Walker } from '@dial/core/players';
import type { Outcome } from '@dial/core/session';
import { useEffect, useMemo, useState } from 'react';
import { Chart } from '../charts/Chart.tsx';
import type { BarsSpec } from '../charts/spec.ts';
import { Progress } from '../controls/Progress.tsx';
import { Select } from '../controls/Select.tsx';
import { Button, Refused } from '../controls/controls.tsx';
import { contributionsOf, type Contribution } from '../state/simulation/contributions.ts';
import { runTried } from '../state/simulation/startFrom.ts';
import { walkerOn } from '../state/simulation/walker.ts';
import { useAppSelector } from '../state/store.ts';
import { headClass } from './tables.ts';

/** More changes than this are not tried one by one. */
const MOST_CHANGES = 40;

/** CSS pixels of a bar, and of what stands around them. */
const [BAR, AROUND] = [22, 40];

/** What was asked for by hand: it stays as it was then, whatever is turned meanwhile. */
interface Asked {
  readonly was: Level;
  readonly changes: ReturnType<typeof differenceWords>;
  readonly run: Run;
  /** Who walks in place of the run, as a level has them. */
  readonly walkerFor: (level: Level) => Walker | null;
}

/** Reads a figure of one player off an outcome; 0 when there is no such player. */
const ofPlayer =
  (player: number, read: (of: Outcome['players'][number]) => number | undefined) =>
  ({ players }: Outcome): number => {
    const one = players[player];
    return one === undefined ? 0 : (read(one) ?? 0);
  };

/** A figure of a session, by its name. */
interface Column {
  readonly name: string;
  readonly read: (outcome: Outcome) => number;
}

/** The closing meters and the deaths of each of so many players. */
function columnsOf(level: Level, count: number): Column[] {
  return Array.from({ length: count }, (_, player) => {
    const of = count > 1 ? ` of ${String(player + 1)}` : '';
    const meters = inOrder(level.meters).map(([id, { name }]) => ({
      name: `${name}${of}`,
      read: ofPlayer(player, ({ meters: all }) => all[id]),
    }));
    return [...meters, { name: `deaths${of}`, read: ofPlayer(player, ({ deaths }) => deaths) }];
  }).flat();
}

interface ChangesTableProps {
  readonly changes: Asked['changes'];
  readonly columns: readonly Column[];
  readonly base: Outcome | null;
  readonly found: readonly Contribution[];
}

function ChangesTable({ changes, columns, base, found }: ChangesTableProps) {
  return (
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
        {changes.map(({ path, words }) => {
          const one = found.find(({ difference }) => difference.path === path);
          const by = (read: (outcome: Outcome) => number): string => {
            if (one === undefined) return '';
            if (one.outcome === null || base === null) return '—';
            const change = read(one.outcome) - read(base);
            return signed(change, 1);
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
  );
}

/** What each change alone does to the compared version's session: begun by hand, shown as it comes, and to be stopped. */
export function Contributions({ level, was, compared }: { readonly level: Level; readonly was: Level; readonly compared: string }) {
  const run = useAppSelector(runTried);
  const drawn = useAppSelector((state) => state.simulated.run);
  const base = useAppSelector((state) => state.simulated.shown.compared?.outcome ?? null);
  // What no session depends on is not tried.
  const changes = useMemo(() => differenceWords(was, level).filter(({ path }) => isPlayed(path)), [was, level]);
  const [asked, setAsked] = useState<Asked | null>(null);
  const [found, setFound] = useState<readonly Contribution[]>([]);
  const [trouble, setTrouble] = useState<string | null>(null);
  const [wished, setWished] = useState<string | null>(null);
  const walkerFor = (of: Level): Walker | null => walkerOn(of, drawn, level);
  const tried = asked?.changes === changes && asked.run === run;
  const most = changes.slice(0, MOST_CHANGES);
  useEffect(() => {
    if (asked === null) return;
    let wanted = true;
    contributionsOf(
      asked.was,
      asked.changes.slice(0, MOST_CHANGES),
      asked.run,
      asked.walkerFor,
      () => wanted,
      (one) => setFound((before) => [...before, one]),
    ).catch((error: unknown) => wanted && setTrouble(`The changes could not be tried: ${String(error)}`));
    return () => {
      wanted = false;
    };
  }, [asked]);
  const busy = tried && found.length < most.length && trouble === null;
  const columns = columnsOf(level, base?.players.length ?? 1);
  const changesIn = (read: (outcome: Outcome) => number) =>
    found.map(({ outcome }) => (outcome === null || base === null ? null : read(outcome) - read(base)));
  const differing = tried ? columns.filter(({ read }) => changesIn(read).some((by) => by !== null && by !== 0)) : [];
  const shown = differing.find(({ name }) => name === wished) ?? differing[0];
  const spec: BarsSpec | null =
    shown === undefined
      ? null
      : {
          kind: 'bars',
          label: `What each change alone does to ${shown.name}`,
          names: found.map(({ difference }) => most.find(({ path }) => path === difference.path)?.words ?? difference.path),
          series: [{ name: shown.name, values: changesIn(shown.read) }],
          signed: true,
        };
  if (changes.length === 0) return <p className="px-2 py-1 text-soft">The level is played the same as “{compared}”.</p>;
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
              if (run !== null) setAsked({ was, changes, run, walkerFor });
            }}
          >
            Try each change alone
          </Button>
        )}
        {changes.length > MOST_CHANGES && <span className="text-soft">The first {MOST_CHANGES} changes.</span>}
        <Refused why={trouble} />
      </div>
      {spec !== null && shown !== undefined && !busy && (
        <section className="border-y border-line px-2 py-1" aria-label="Chart of changes">
          <label className="flex items-center gap-1.5">
            by
            <Select label="outcome" value={shown.name} options={differing.map(({ name }) => [name, name] as const)} onChoose={setWished} />
          </label>
          <Chart spec={spec} height={AROUND + BAR * spec.names.length} />
        </section>
      )}
      <ChangesTable changes={most} columns={columns} base={base} found={tried ? found : []} />
      {tried && found.some(({ outcome }) => outcome === null) && (
        <p className="px-2 py-1 text-soft">— : alone, this change does not make a valid level.</p>
      )}
    </>
  );
}
