import { crowdFindings, type Finding } from '@dial/core/findings';
import { crowdCsv, crowdSentence, endsText, fileName, shareText, type Piece } from '@dial/core/formats';
import { entry, levelHash, type Level } from '@dial/core/level';
import { measuresOf, type CrowdReport, type SessionRow } from '@dial/core/studies';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { Chart } from '../../charts/Chart.tsx';
import { Button } from '../../controls/controls.tsx';
import { download } from '../../controls/download.ts';
import { Folded } from '../../controls/Folded.tsx';
import { FoundList } from '../../controls/FoundList.tsx';
import { Select } from '../../controls/Select.tsx';
import { useNotAside } from '../../state/document/meant.ts';
import { sessionOf } from '../../state/slices/simulated.ts';
import { useAppSelector } from '../../state/store.ts';
import { Beside } from './Beside.tsx';
import { HeatPlan } from './HeatPlan.tsx';
import type { CrowdResult } from './result.ts';
import { aliveSpec, dotsSpec, endingAt, personaName, rowsOf } from './specs.ts';
import { ThingsTable } from './ThingsTable.tsx';

const LOOKS: Readonly<Record<Piece['as'], string>> = {
  words: '',
  figure: 'font-bold',
  interval: 'text-soft font-normal',
  thing: 'cursor-pointer underline',
};

interface AnswerProps {
  readonly level: Level;
  readonly report: CrowdReport;
  /** Is told the number of a thing that is pressed. */
  readonly onThing: (thing: number) => void;
  /** Is told at which thing a life is lost, and whose; null: anybody's. */
  readonly onDeathAt: (thing: number, persona: string | null) => void;
}

function Answer({ level, report, onThing, onDeathAt }: AnswerProps) {
  return (
    <p className="text-[17px] leading-snug" role="status" aria-label="What the crowd came to">
      {crowdSentence(level, report).map(({ text, as, placement, dies }, at) => {
        const thing = placement === undefined ? undefined : report.things.find((one) => one.placement === placement)?.thing;
        return thing === undefined ? (
          <span key={at} className={LOOKS[as]}>
            {text}
          </span>
        ) : (
          <button
            key={at}
            type="button"
            className={LOOKS[as]}
            onClick={() => (dies === undefined ? onThing(thing) : onDeathAt(thing, dies))}
          >
            {text}
          </button>
        );
      })}
    </p>
  );
}

/** So long before a death the needle is set. Seconds. */
const BEFORE = 1;

const shownWords = (count: number): string => `${String(count)} ${count === 1 ? 'finding' : 'findings'} from these sessions`;

/** What the sessions show to be wrong, or worth a look; a press leads to a session at the thing. */
function Shown({ report, found, onThing }: Pick<AnswerProps, 'report' | 'onThing'> & { readonly found: readonly Finding[] }) {
  const { findings, onMeant } = useNotAside(found);
  if (findings.length === 0) return null;
  return (
    <Folded name="what a crowd shows" heading={shownWords(findings.length)} className="text-xs" headingClass="text-soft">
      <FoundList
        label="What the crowd shows"
        findings={findings}
        onMeant={onMeant}
        lead={({ where }) => {
          const thing = report.things.find(({ placement }) => placement !== null && where.placements.includes(placement))?.thing;
          return thing === undefined ? undefined : () => onThing(thing);
        }}
      />
    </Folded>
  );
}

interface ResultProps {
  readonly result: CrowdResult;
  readonly was: CrowdResult | null;
  readonly path: string;
}

/** The first session in which a thing is touched, or the first of all, and when it is used there. */
function firstAt(rows: readonly SessionRow[], wanted: number): [SessionRow | undefined, number] {
  const row = rows.find(({ touched }) => touched.some(({ thing }) => thing === wanted));
  return [row ?? rows[0], row?.touched.find(({ thing }) => thing === wanted)?.firstUseSeconds ?? 0];
}

/** The first session in which a life is lost at a thing, and a moment before that. */
function deathAt(rows: readonly SessionRow[], wanted: number): [SessionRow | undefined, number] {
  const row = rows.find(({ deaths }) => deaths.some(({ thing }) => thing === wanted));
  return [row, Math.max(0, (row?.deaths.find(({ thing }) => thing === wanted)?.seconds ?? 0) - BEFORE)];
}

/** What a crowd came to: its answer, who lived how long, how it is spread, where, and at which thing. */
export function Result({ result, was, path }: ResultProps) {
  const navigate = useNavigate();
  const { level, study, report, summary } = result;
  const now = useAppSelector((state) => state.document.open?.level ?? null);
  // A session is opened on the level as it is now: what it came to here it may not come to there.
  const isOther = useMemo(() => now !== null && levelHash(now) !== summary.level, [now, summary]);
  const measures = measuresOf(level).filter(({ asked }) => asked === 'number');
  const [measure, setMeasure] = useState(`final ${entry(level.meters, 'health')?.name ?? 'health'}`);
  const alive = useMemo(() => aliveSpec(result, was), [result, was]);
  const found = useMemo(() => crowdFindings(level, summary.rows), [level, summary]);
  const dots = useMemo(() => dotsSpec(result, measure, was), [result, measure, was]);
  const open = useMemo(
    () =>
      (row: SessionRow | undefined, seconds = 0): void => {
        if (row === undefined) return;
        const asked = sessionOf(study.settings.personas[row.persona]?.persona ?? '', row.seed, study.settings.seconds);
        // Also where it starts as the level says: another state may be chosen on the Bench.
        const from = encodeURIComponent(study.settings.start ?? '');
        void navigate(`${path}?run=${encodeURIComponent(asked)}&at=${String(seconds)}&from=${from}`);
      },
    [navigate, path, study.settings],
  );
  const onDot = useMemo(() => (persona: number, nth: number) => open(rowsOf(result, persona)[nth]), [open, result]);
  const onAlive = useMemo(
    () =>
      (line: number, x: number): void => {
        // Lines are those of personas that play at all.
        const playing = report.personas.flatMap(({ sessions }, persona) => (sessions > 0 ? [persona] : []));
        const ending = endingAt(result, playing[line] ?? -1, x);
        if (ending !== null) open(ending.row, Math.max(0, ending.at - BEFORE));
      },
    [open, report, result],
  );
  const onThing = (thing: number): void => open(...firstAt(summary.rows, thing));
  const onDeathAt = (thing: number, persona: string | null): void => {
    const mine = ({ persona: at }: SessionRow): boolean => persona === null || study.settings.personas[at]?.persona === persona;
    open(...deathAt(summary.rows.filter(mine), thing));
  };
  return (
    <>
      <Answer level={level} report={report} onThing={onThing} onDeathAt={onDeathAt} />
      <Shown report={report} found={found} onThing={onThing} />
      {isOther && (
        <p role="note" className="text-xs text-soft">
          It was played on another state of the level: a session that is opened is simulated on the level as it is now.
        </p>
      )}
      {was !== null && <Beside now={result} was={was} />}
      <div className="grid gap-4 desk:grid-cols-2">
        <div>
          <HeatPlan level={level} heat={summary.heat} rows={summary.rows} onDeath={open} />
          <table className="mt-2 text-xs" aria-label="By persona">
            <tbody>
              {[...report.personas, report.all].map((group) => (
                <tr key={group.persona ?? 'all'} className="border-t border-line/60">
                  <td className="pr-3 whitespace-nowrap">
                    <b>{personaName(level, group.persona)}</b>, {group.sessions}
                  </td>
                  <td className="pr-3 whitespace-nowrap">finish {shareText(group.finishes)}</td>
                  <td className="pr-3 whitespace-nowrap">lose a life {shareText(group.losesALife)}</td>
                  <td className="text-soft">{endsText(group)}</td>
                </tr>
              ))}
            </tbody>
          </table>
        </div>
        <div>
          <p className="text-xs">
            <b className="text-soft">alive, of 100</b>
            <span className="text-soft">
              {' '}
              · press a line where it falls, to see that death on the Bench{was !== null && ' · dotted: compared'}
            </span>
          </p>
          <Chart spec={alive} height={150} onLine={onAlive} />
          <div className="flex items-center gap-2 text-xs">
            <Select
              label="What is spread"
              value={measure}
              options={measures.map(({ name }) => [name, name] as const)}
              onChoose={setMeasure}
            />
            <span className="ml-auto text-soft">
              a dot is a session: press it to open it on the Bench
              {was !== null && ' · hollow: compared'}
              {dots?.rows.some(({ wished }) => wished.length > 0) === true && ' · tint: target'}
            </span>
          </div>
          {dots !== null && <Chart spec={dots} height={34 * dots.rows.length + 34} onDot={onDot} />}
        </div>
      </div>
      <ThingsTable level={level} report={report} onThing={onThing} />
      <div className="flex gap-2">
        <Button
          kind="quiet"
          onClick={() =>
            download(fileName(`${level.name} ${study.name}`, 'csv'), crowdCsv(level, study.settings, summary.rows), 'text/csv')
          }
        >
          A row a session, CSV
        </Button>
        <Button
          kind="quiet"
          onClick={() =>
            download(
              fileName(`${level.name} ${study.name}`, 'json'),
              JSON.stringify({ study, report, sessions: summary.rows }),
              'application/json',
            )
          }
        >
          JSON
        </Button>
      </div>
    </>
  );
}
