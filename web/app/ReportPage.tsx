import { askedBy } from '../state/slices/simulated.ts';
import { outcomeRows, planSvgText, plainNumber, clockTime, stripSvgText, placementName, partingWords } from '@dial/core/formats';
import { allKinds, levelHash, type Level } from '@dial/core/level';
import { SIMULATION_VERSION, type Outcome } from '@dial/core/session';
import { useEffect } from 'react';
import { Link } from 'react-router';
import type { OpenLevel } from '../state/slices/document.ts';
import { ledgerOf } from '../state/simulation/lines.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { openFindings } from '../state/slices/findings.ts';
import { useFindings } from '../state/simulation/useFindings.ts';
import { useAppSelector } from '../state/store.ts';
import { ChartPicture } from '../charts/Chart.tsx';
import type { BarsSpec } from '../charts/spec.ts';
import { Button, buttonClass } from '../controls/controls.tsx';
import { LevelPage } from './LevelPage.tsx';

type KindFigures = Outcome['perKind'][string];

const picture = (svg: string): string => `data:image/svg+xml,${encodeURIComponent(svg)}`;
const cellClass = 'border-b border-line px-2 py-px print:px-1';
const MOST_DEATHS = 8;
const MOST_FINDINGS = 6;
/** More kinds than these are left out, so that the report is one page: those that were touched least. */
const MOST_KINDS = 18;
/** So many kinds have bars, so that the report is one page. */
const MOST_BARS = 8;
/** Pixels of a bar, and of what stands around them. */
const [BAR, BARS_AROUND] = [20, 52];

interface KindsTableProps {
  readonly kinds: readonly { readonly id: string; readonly name: string; readonly one: KindFigures }[];
  /** How many kinds are left out. */
  readonly more: number;
}

function KindsTable({ kinds, more }: KindsTableProps) {
  return (
    <table aria-label="Kinds">
      <thead>
        <tr className="text-right text-soft">
          {['kind', 'used', 'refused', 'healed', 'wasted', 'hurt', 'scored'].map((head) => (
            <th key={head} className={`${cellClass} first:text-left`}>
              {head}
            </th>
          ))}
        </tr>
      </thead>
      <tbody>
        {kinds.map(({ id, name: kind, one }) => (
          <tr key={id}>
            <td className={`${cellClass} print:whitespace-nowrap`}>{kind}</td>
            {[one.uses, one.refusals, one.healed, one.wasted, one.hurt, one.scored].map((value, index) => (
              <td key={index} className={`${cellClass} text-right font-mono`}>
                {value === 0 ? '' : plainNumber(value, 1)}
              </td>
            ))}
          </tr>
        ))}
        {more > 0 && (
          <tr>
            <td colSpan={7} className={`${cellClass} text-soft`}>
              and {more} more kinds
            </td>
          </tr>
        )}
      </tbody>
    </table>
  );
}

function Deaths({ level, deaths }: { readonly level: Level; readonly deaths: Outcome['deaths'] }) {
  return (
    <>
      <h2 className="mt-2 font-bold">Deaths</h2>
      {deaths.length === 0 && <p>None.</p>}
      <ul>
        {deaths.slice(0, MOST_DEATHS).map(({ seconds, placement, x, y }, index) => (
          <li key={index}>
            {clockTime(seconds)} {placement === null ? '' : `of ${placementName(level, placement)} `}at {plainNumber(x, 1)},{' '}
            {plainNumber(y, 1)}
          </li>
        ))}
        {deaths.length > MOST_DEATHS && <li>and {deaths.length - MOST_DEATHS} more</li>}
      </ul>
    </>
  );
}

/** What is wrong with the level, in so many lines that the report is one page. */
function FoundIn() {
  const open = useAppSelector(openFindings);
  if (open.length === 0) return null;
  return (
    <section aria-label="Findings" className="mt-2">
      <h2 className="font-bold">Findings</h2>
      <ul>
        {open.slice(0, MOST_FINDINGS).map(({ id, what, severity }) => (
          <li key={id}>
            {what} <span className="text-soft">({severity})</span>
          </li>
        ))}
        {open.length > MOST_FINDINGS && <li>and {open.length - MOST_FINDINGS} more</li>}
      </ul>
    </section>
  );
}

function Report({ run }: { readonly run: ShownRun }) {
  const { level, outcome } = run;
  const drawn = useAppSelector((state) => state.simulated.run);
  const name = drawn?.run.name ?? '';
  const rows = outcomeRows(level, outcome);
  const kinds = allKinds(level).flatMap(([id, kind]) => {
    const one = outcome.perKind[id];
    return one === undefined || Object.keys(kind.rules).length === 0 ? [] : [{ id, name: kind.name, one }];
  });
  const touched = kinds.filter(({ one }) => one.uses + one.refusals > 0);
  const fewest = touched.map(({ one }) => one.uses + one.refusals).sort((a, b) => b - a)[MOST_KINDS - 1] ?? 0;
  const listed = touched.filter(({ one }) => one.uses + one.refusals >= fewest).slice(0, MOST_KINDS);
  const never = kinds.filter(({ one }) => one.uses + one.refusals === 0);
  const acted = touched.filter(({ one }) => one.healed + one.hurt > 0).slice(0, MOST_BARS);
  const health: BarsSpec = {
    kind: 'bars',
    label: 'What each kind did to health',
    names: acted.map(({ name: kind }) => kind),
    series: [
      { name: 'healed', role: 'mend', values: acted.map(({ one }) => one.healed) },
      { name: 'hurt', role: 'harm', values: acted.map(({ one }) => one.hurt) },
    ],
  };
  const half = Math.ceil(rows.length / 2);
  return (
    <article
      data-theme="light"
      className="mx-auto max-w-[1000px] bg-card p-5 text-xs text-ink print:max-w-none print:p-0 print:text-[10px]"
      aria-label="Report"
    >
      <h1 className="text-lg font-bold">
        {level.name}: {name}
      </h1>
      <p className="text-soft">
        level <span className="font-mono">{levelHash(level)}</span> · {run.rate} steps a second · digest{' '}
        <span className="font-mono">{run.digest}</span> by simulation {SIMULATION_VERSION}
        {drawn?.run.branched != null && ` · taken over from “${drawn.run.branched.name}”`}
        {run.partsAtSeconds !== null && ` · ${partingWords(run.partsAtSeconds)}`}
      </p>
      <div className="mt-2 grid grid-cols-2 gap-4 print:grid-cols-[220px_1fr]">
        <img
          src={picture(planSvgText(level, run))}
          alt={`Plan of ${level.name} with the way of the run`}
          className="w-full border border-line"
        />
        <div className="grid grid-cols-2 gap-x-4 self-start">
          {[rows.slice(0, half), rows.slice(half)].map((part, index) => (
            <table key={index}>
              <tbody>
                {part.map(({ name: row, text }) => (
                  <tr key={row}>
                    <td className={`${cellClass} print:whitespace-nowrap`}>{row}</td>
                    <td className={`${cellClass} text-right font-mono`}>{text}</td>
                  </tr>
                ))}
              </tbody>
            </table>
          ))}
        </div>
      </div>
      <img
        src={picture(stripSvgText(level, { lanes: run, rate: run.rate, steps: run.steps, lines: ledgerOf(run) }))}
        alt="The session over time"
        className="mt-3 w-full border border-line"
      />
      {health.names.length > 0 && (
        <section className="mt-3" aria-label="What each kind did to health">
          <h2 className="font-bold">What each kind did to health</h2>
          <ChartPicture spec={health} height={BARS_AROUND + BAR * health.names.length} />
        </section>
      )}
      <div className="mt-3 grid grid-cols-[1.6fr_1fr] gap-4">
        <KindsTable kinds={listed} more={touched.length - listed.length} />
        <div>
          <h2 className="font-bold">Never touched</h2>
          <p>{never.length === 0 ? 'Everything was touched.' : never.map(({ name: kind }) => kind).join(', ')}</p>
          <Deaths level={level} deaths={outcome.deaths} />
          <FoundIn />
        </div>
      </div>
    </article>
  );
}

function OpenReport({ open }: { readonly open: OpenLevel }) {
  const run = useAppSelector((state) => state.simulated.shown.now);
  const drawn = useAppSelector((state) => state.simulated.run);
  useFindings();
  useEffect(() => {
    document.title = `Report of ${open.level.name} · Dial`;
  }, [open.level.name]);
  return (
    <div className="min-h-full bg-panel">
      <div className="flex gap-2 p-2.5 print:hidden">
        <Link to={`/levels/${encodeURIComponent(open.id)}?run=${encodeURIComponent(askedBy(drawn))}`} className={buttonClass('quiet')}>
          Back to the Bench
        </Link>
        <Button kind="strong" disabled={run === null} onClick={() => print()}>
          Print
        </Button>
      </div>
      <main>
        {drawn === null && <p className="p-4 text-soft">This level has no run yet: play it, or draw a route for the walker.</p>}
        {drawn !== null && run === null && <p className="p-4 text-soft">Simulating the run …</p>}
        {run !== null && <Report run={run} />}
      </main>
    </div>
  );
}

/** A run on one page, to be printed. */
export function ReportPage() {
  return <LevelPage>{(open) => <OpenReport key={open.id} open={open} />}</LevelPage>;
}
