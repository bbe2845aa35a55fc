import { behindText, fileName, seekCsv, sensitivityCsv, sweepCsv, tuneCsv } from '@dial/core/formats';
import { reasonOf, type Level } from '@dial/core/level';
import { MOST_SEED } from '@dial/core/players';
import { turnedLevel, type CrowdSettings, type Judging, type Turned } from '@dial/core/studies';
import { useMemo, useState } from 'react';
import { useNavigate } from 'react-router';
import { Button, Refused } from '../../controls/controls.tsx';
import { download } from '../../controls/download.ts';
import { SeedField } from '../../fields/SeedField.tsx';
import { branchOff } from '../../state/server/branching.ts';
import { useVersionsQuery } from '../../state/server/lists.ts';
import type { OpenLevel } from '../../state/slices/document.ts';
import { useAppSelector, useAppStore } from '../../state/store.ts';
import { isJudging, type JudgingEntry } from '../kept.ts';
import { Choices, Outdated, Troubles, Unfinished, useKept } from '../Kept.tsx';
import { ofValues, useStudy } from '../../state/view/useStudy.ts';
import { WhoPlays } from '../WhoPlays.tsx';
import { MattersView } from './MattersView.tsx';
import { asked, costText, firstQuestion, QUESTIONS, questionOf, studyName, type Question } from './question.ts';
import { QuestionForm } from './QuestionForm.tsx';
import { resultOf, type StudyResult } from './result.ts';
import { SeekView } from './SeekView.tsx';
import { SweepView } from './SweepView.tsx';
import { TuneView, type DrawStrip } from './TuneView.tsx';
import { sessionPath, takeValues, type Taken } from './taking.ts';
import type { StudyEntry } from '../../state/server/api.ts';

const isShown = (study: StudyEntry): study is JudgingEntry => isJudging(study) && study.settings.kind !== 'check';

/** What the address says of a question that was begun on the Bench. */
const ASKED = ['dial', 'ask'];

/** The crowd behind a study. */
const crowdOf = (settings: Exclude<Judging, { kind: 'check' }>): CrowdSettings | null =>
  settings.kind === 'tune' ? null : settings.of.crowd;

function csvOf({ level, kind, settings, result }: StudyResult): string {
  if (kind === 'sweep') return sweepCsv(level, settings.of, result);
  if (kind === 'sensitivity') return sensitivityCsv(level, settings.of, result);
  if (kind === 'tune') return tuneCsv(level, settings.of, result);
  return seekCsv(level, settings.of, result);
}

interface FoundProps {
  readonly strip: DrawStrip;
  readonly open: OpenLevel;
  readonly level: Level;
  readonly found: StudyResult;
  readonly onAgain: (seed: number) => void;
}

/** What a study came to, and what can be done with it. */
function Found({ strip, open, level, found, onAgain }: FoundProps) {
  const store = useAppStore();
  const navigate = useNavigate();
  const compared = useAppSelector((state) => state.document.compared?.level ?? null);
  const [taken, setTaken] = useState<Taken | null>(null);
  const present = useMemo(() => ({ now: level, compared }), [level, compared]);
  const crowd = crowdOf(found.settings);
  const seed = crowd?.seed ?? (found.kind === 'tune' ? found.settings.of.seed : 1);
  const take = (turned: readonly Turned[], session: number | null): void => {
    const done = takeValues(store, turned);
    setTaken(done);
    if (done.ok && session !== null && crowd !== null) void navigate(sessionPath(open.id, crowd, session));
  };
  const branch = (turned: readonly Turned[], name: string): void => {
    const made = turnedLevel(level, turned);
    if (!made.ok) {
      setTaken({ ok: false, words: `Not branched off: ${made.problems[0]?.message ?? ''}.` });
      return;
    }
    branchOff(made.value, name).then(
      (id) => navigate(`/levels/${encodeURIComponent(id)}`),
      (why: unknown) => setTaken({ ok: false, words: `No level was branched off. ${reasonOf(why)}` }),
    );
  };
  const toDial = (paths: readonly string[]): void =>
    void navigate(`/levels/${encodeURIComponent(open.id)}?dial=${encodeURIComponent(paths[0] ?? '')}`);
  const file = (type: string): string => fileName(`${found.level.name} ${found.study.name}`, type);
  return (
    <>
      {found.kind === 'sweep' && <SweepView found={found} present={present} onTake={take} />}
      {found.kind === 'sensitivity' && <MattersView found={found} onDial={toDial} />}
      {found.kind === 'tune' && <TuneView found={found} strip={strip} onTake={take} onBranch={branch} />}
      {found.kind === 'seek' && <SeekView found={found} present={present} onTake={take} />}
      {taken !== null && (
        <p role="status" className={`text-xs ${taken.ok ? 'font-semibold' : 'text-harm'}`}>
          {taken.words}
        </p>
      )}
      <div className="flex flex-wrap items-center gap-2 text-xs">
        {crowd !== null && <span className="text-soft">{behindText(crowd, 'a value')}</span>}
        <Button
          kind="quiet"
          hint="the same question with other chances: what does not hold then was noise"
          onClick={() => onAgain((seed + 1000) % (MOST_SEED + 1))}
        >
          Ask with another seed
        </Button>
        <Button kind="quiet" onClick={() => download(file('csv'), csvOf(found), 'text/csv')}>
          CSV
        </Button>
        <Button
          kind="quiet"
          onClick={() => download(file('json'), JSON.stringify({ study: found.study, result: found.result }), 'application/json')}
        >
          JSON
        </Button>
      </div>
    </>
  );
}

interface AskBarProps {
  readonly level: Level;
  readonly question: Question;
  readonly ready: ReturnType<typeof asked>;
  readonly onQuestion: (question: Question) => void;
  readonly onAsk: () => void;
}

/** Who plays, what it costs, and the way to begin; tuning is played by the players of its targets. */
function AskBar({ level, question, ready, onQuestion, onAsk }: AskBarProps) {
  const { crowd } = question;
  const problem = ready.ok ? null : ready.why;
  const begin = ready.ok ? `Ask: ${costText(question, ready.sessions)}` : 'Ask';
  if (question.kind !== 'tune') {
    const onSettings = (next: CrowdSettings): void => onQuestion({ ...question, crowd: next });
    return <WhoPlays level={level} settings={crowd} problem={problem} begin={begin} onSettings={onSettings} onPlay={onAsk} />;
  }
  return (
    <div className="flex items-center gap-2 border-b border-line bg-panel px-2.5 py-2 text-xs" role="group" aria-label="Search">
      <span className="text-soft">the players of each target play it;</span>
      <SeedField seed={crowd.seed} width="w-14" onSeed={(seed) => onQuestion({ ...question, crowd: { ...crowd, seed } })} />
      <span className="ml-auto flex items-center gap-2">
        <Refused why={problem} />
        <Button kind="strong" disabled={!ready.ok} onClick={onAsk}>
          {begin}
        </Button>
      </span>
    </div>
  );
}

interface SweepProps {
  readonly open: OpenLevel;
  readonly level: Level;
  readonly strip: DrawStrip;
}

/** Studies of values: what is asked, what those that are kept came to, and their values taken. */
export function Sweep({ open, level, strip }: SweepProps) {
  const { search, studies, chosen, shown, trouble, choose, begin, change, stop, goOn } = useKept(open.id, 'study', isShown, ASKED);
  const { data: versions = [] } = useVersionsQuery(open.id);
  const [version, setVersion] = useState('');
  const [wished, setWished] = useState<Question | null>(null);
  // A dial that was pressed on the Bench is asked about first, not what was asked last.
  const pressed = search.getAll('dial').map((paths) => paths.split(' '));
  const kind = QUESTIONS.find(([one]) => one === search.get('ask'))?.[0] ?? (pressed.length > 1 ? 'two' : 'one');
  const fresh = pressed.length > 0 || search.has('ask');
  const before = !fresh && shown !== undefined ? questionOf(level, shown.settings) : null;
  const question = wished ?? before ?? firstQuestion(level, kind, pressed);
  const ready = asked(level, question);
  const now = useStudy(open.id, fresh ? null : chosen, resultOf, ofValues);
  const ask = async (wish: Question): Promise<void> => {
    const made = asked(level, wish);
    if (!made.ok) return;
    const of = versions.find((one) => String(one.id) === version);
    const begun = await begin(() => ({ name: studyName(level, wish), settings: made.judging, version: of?.id ?? null }));
    // What has been changed meanwhile, or could not be begun, is still there to be asked.
    if (begun) setWished((latest) => (latest === wished ? null : latest));
  };
  return (
    <main className="flex min-h-0 flex-1 flex-col">
      <QuestionForm key={`${fresh ? '' : (shown?.id ?? '')} ${question.kind}`} level={level} question={question} onQuestion={setWished} />
      <AskBar level={level} question={question} ready={ready} onQuestion={setWished} onAsk={() => void ask(question)} />
      <div className="flex min-h-0 flex-1 flex-col gap-3 overflow-y-auto p-3 [&>*]:shrink-0">
        <Troubles all={[trouble, now.trouble]} />
        <Choices
          level={open.id}
          what="study"
          studies={studies ?? []}
          chosen={fresh ? null : chosen}
          version={version}
          onVersion={setVersion}
          onChoose={choose}
          onChange={change}
        />
        {shown !== undefined && !fresh && (
          <Unfinished key={`how far ${shown.id}`} study={shown} onStop={() => stop(shown.id)} onGoOn={() => goOn(shown.id)} />
        )}
        {shown !== undefined && !fresh && (
          <Outdated study={shown} played={now.result?.level} again="Ask again" onAgain={() => void ask(question)} />
        )}
        {(studies?.length === 0 || fresh) && (
          <p className="text-soft">
            Choose a dial, a range and an outcome above, and press “Ask”: the same simulated players play at each value, and you see where
            the value should be. “What matters” nudges all dials; “seek” looks for the value that gives what you wish; “tune” moves several
            dials so that the targets of the level are met.
          </p>
        )}
        {now.result !== null && (
          <Found
            key={`result ${now.result.study.id}`}
            strip={strip}
            open={open}
            level={level}
            found={now.result}
            onAgain={(seed) => void ask({ ...question, crowd: { ...question.crowd, seed } })}
          />
        )}
      </div>
    </main>
  );
}
