import { studyDials } from '@dial/core/formats';
import { isAsked, type Level, type Statistic } from '@dial/core/level';
import { usualFigure, type Figure } from '@dial/core/studies';
import { Button } from '../../controls/controls.tsx';
import { Radios } from '../../controls/Radios.tsx';
import { Select } from '../../controls/Select.tsx';
import { DialChoice, DialRow, NumberInput, Without } from './DialRow.tsx';
import { dialKey, nudgeGroups, outcomeChoices, QUESTIONS, type Question, type Stretch } from './question.ts';
import { TuneForm } from './TuneForm.tsx';

const STATISTICS = [
  ['median', 'median'],
  ['mean', 'mean'],
  ['tenth', 'a tenth below'],
  ['ninetieth', 'nine tenths below'],
  ['share', 'share of sessions'],
] as const;
type StatisticName = (typeof STATISTICS)[number][0];

function nameOf(statistic: Statistic): StatisticName {
  if (statistic.type !== 'quantile') return statistic.type;
  return statistic.below < 0.3 ? 'tenth' : statistic.below > 0.7 ? 'ninetieth' : 'median';
}

const STATED: Readonly<Record<StatisticName, Statistic>> = {
  median: { type: 'quantile', below: 0.5 },
  mean: { type: 'mean' },
  tenth: { type: 'quantile', below: 0.1 },
  ninetieth: { type: 'quantile', below: 0.9 },
  share: { type: 'share', from: 60, to: null },
};

interface FigureRowProps {
  readonly level: Level;
  readonly nth: number;
  readonly figure: Figure;
  readonly onFigure: (figure: Figure) => void;
  readonly onRemove: (() => void) | null;
}

/** What is asked of each session, and what of many. */
function FigureRow({ level, nth, figure, onFigure, onRemove }: FigureRowProps) {
  const { outcome, statistic } = figure;
  const choices = outcomeChoices(level);
  const key = JSON.stringify(outcome);
  const of = `outcome ${String(nth + 1)}`;
  const bounds = statistic.type === 'share' && !isAsked(outcome) ? statistic : null;
  const within = outcome.type === 'finishes' ? outcome.within : null;
  return (
    <span className="flex items-center gap-1.5 rounded-sm border border-line bg-card px-1.5 py-0.5">
      <Select
        label={`Outcome ${String(nth + 1)}`}
        className="font-semibold"
        value={outcome.type === 'finishes' ? JSON.stringify({ type: 'finishes', within: null }) : key}
        options={choices.map(([one, name]) => [one, name] as const)}
        onChoose={(chosen) => {
          const found = choices.find(([one]) => one === chosen)?.[2];
          if (found !== undefined) onFigure(usualFigure(found));
        }}
      />
      {outcome.type === 'finishes' && (
        <NumberInput
          label={`Seconds within which ${of} is`}
          name="within (s)"
          value={within}
          onValue={(value) => onFigure({ ...figure, outcome: { type: 'finishes', within: value } })}
        />
      )}
      {!isAsked(outcome) && (
        <Select
          label={`Statistic of ${of}`}
          value={nameOf(statistic)}
          options={STATISTICS}
          onChoose={(name) => onFigure({ outcome, statistic: STATED[name] })}
        />
      )}
      {bounds !== null &&
        (['from', 'to'] as const).map((end) => (
          <NumberInput
            key={end}
            label={`${of} counts ${end}`}
            name={end === 'from' ? 'at least' : 'at most'}
            value={bounds[end]}
            onValue={(value) => onFigure({ outcome, statistic: { ...bounds, [end]: value } })}
          />
        ))}
      {onRemove !== null && <Without what={of} onRemove={onRemove} />}
    </span>
  );
}

interface QuestionFormProps {
  readonly level: Level;
  readonly question: Question;
  readonly onQuestion: (question: Question) => void;
}

/** What the choice of dials to nudge says beside the names of groups. */
const [ALL, THESE] = ['all dials', 'chosen dials'];

/** Which dials are nudged: all, those of a kind, or chosen ones. */
function Nudged({
  level,
  nudged,
  onNudged,
}: Pick<Question, 'nudged'> & { readonly level: Level; readonly onNudged: (nudged: readonly string[]) => void }) {
  const groups = nudgeGroups(level);
  const group = groups.find(([, keys]) => keys.join('\n') === nudged.join('\n'))?.[0];
  const chosen = nudged.length === 0 ? ALL : (group ?? THESE);
  const free = studyDials(level).find(({ spec }) => !nudged.includes(dialKey(spec)));
  return (
    <>
      <Select
        label="Dials nudged"
        className="max-w-60 font-semibold"
        value={chosen}
        options={[ALL, THESE, ...groups.map(([name]) => name)].map((name) => [name, name] as const)}
        onChoose={(name) => {
          if (name === THESE) onNudged(nudged.length === 0 ? (groups[0]?.[1].slice(0, 1) ?? []) : nudged.slice(0, 1));
          else onNudged(groups.find(([one]) => one === name)?.[1] ?? []);
        }}
      />
      {chosen === THESE &&
        nudged.map((key, nth) => (
          <span key={key} className="flex items-center rounded-sm border border-line bg-card px-1.5 py-0.5">
            <DialChoice
              level={level}
              label={`Nudged dial ${String(nth + 1)}`}
              value={key}
              onChoose={(next) => onNudged([...new Set(nudged.map((one) => (one === key ? next : one)))])}
            />
            {nudged.length > 1 && (
              <Without what={`nudged dial ${String(nth + 1)}`} onRemove={() => onNudged(nudged.filter((one) => one !== key))} />
            )}
          </span>
        ))}
      {chosen === THESE && free !== undefined && (
        <Button
          kind="quiet"
          className="px-1.5! py-0!"
          hint="one more dial that is nudged"
          onClick={() => onNudged([...nudged, dialKey(free.spec)])}
        >
          + dial
        </Button>
      )}
    </>
  );
}

/** Which outcomes are laid over each other at most. */
const MOST_FIGURES = 3;

/** What is asked: of which dials, over which values, about which outcome. */
export function QuestionForm({ level, question, onQuestion }: QuestionFormProps) {
  const { kind, figures, wish, share, nudged, moving } = question;
  const dials = kind === 'tune' ? moving : question.dials;
  const change = (changed: Partial<Question>): void => onQuestion({ ...question, ...changed });
  const shown = kind === 'tune' ? dials : kind === 'two' ? dials.slice(0, 2) : kind === 'matters' ? [] : dials.slice(0, 1);
  const changeDials = (next: readonly Stretch[]): void => change(kind === 'tune' ? { moving: next } : { dials: next });
  const several = kind === 'tune' ? [] : kind === 'one' ? figures : figures.slice(0, 1);
  return (
    <div
      className="flex flex-wrap items-center gap-x-2 gap-y-1.5 border-b border-line bg-panel px-2.5 py-2 text-xs"
      role="group"
      aria-label="Question"
    >
      <Radios label="ask about" value={kind} options={QUESTIONS} className="px-2 py-0.5" onChoose={(chosen) => change({ kind: chosen })} />
      {shown.map((dial, nth) => (
        <DialRow
          key={`${String(nth)} ${dial.paths.join(' ')}`}
          level={level}
          nth={nth}
          dial={dial}
          kind={kind}
          onDial={(next) => changeDials(dials.map((one, at) => (at === nth ? next : one)))}
          onRemove={kind === 'tune' && dials.length > 1 ? () => changeDials(dials.filter((_, at) => at !== nth)) : null}
        />
      ))}
      {kind === 'matters' && (
        <span className="flex items-center gap-1.5">
          <Nudged level={level} nudged={nudged} onNudged={(next) => change({ nudged: next })} /> each{' '}
          <NumberInput label="Nudged by, of 100" name="" value={100 * share} onValue={(value) => change({ share: (value ?? NaN) / 100 })} />{' '}
          % down and up
        </span>
      )}
      {kind === 'tune' && <TuneForm level={level} question={question} onQuestion={onQuestion} />}
      {several.map((figure, nth) => (
        <span key={`${String(nth)} ${figure.outcome.type}`} className="flex items-center gap-2">
          {nth === 0 && <span className="text-soft">for</span>}
          <FigureRow
            level={level}
            nth={nth}
            figure={figure}
            onFigure={(next) => change({ figures: figures.map((one, at) => (at === nth ? next : one)) })}
            onRemove={several.length > 1 ? () => change({ figures: figures.filter((_, at) => at !== nth) }) : null}
          />
        </span>
      ))}
      {kind === 'one' && figures.length < MOST_FIGURES && (
        <Button
          kind="quiet"
          className="px-1.5! py-0!"
          hint="another outcome, laid over it"
          onClick={() => change({ figures: [...figures, usualFigure({ type: 'finishes', within: null })] })}
        >
          + outcome
        </Button>
      )}
      {kind === 'seek' && <NumberInput label="Wished" name="to be" value={wish} onValue={(value) => change({ wish: value ?? NaN })} />}
    </div>
  );
}
