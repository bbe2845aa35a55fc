import { shortTarget, studyDials, targetText } from '@dial/core/formats';
import { inOrder, type Level } from '@dial/core/level';
import { Button } from '../../controls/controls.tsx';
import { Hint } from '../../controls/Hint.tsx';
import { Select } from '../../controls/Select.tsx';
import { TargetWords } from '../../fields/TargetWords.tsx';
import { addTargets } from '../../state/document/targets.ts';
import { useAppStore } from '../../state/store.ts';
import { NumberInput } from './DialRow.tsx';
import { dialKey, stretchAt, type Question } from './question.ts';

/** So many dials move together at most. */
const MOST_MOVING = 12;

interface TuneFormProps {
  readonly level: Level;
  readonly question: Question;
  readonly onQuestion: (question: Question) => void;
}

/** One more dial that may move, chosen among those that do not. */
function MoreDials({ level, question, onQuestion }: TuneFormProps) {
  const { moving } = question;
  const used = new Set(moving.map(dialKey));
  const free = studyDials(level).filter(({ spec }) => !used.has(dialKey(spec)));
  if (moving.length >= MOST_MOVING || free.length === 0) return null;
  return (
    <Select
      label="One more dial"
      hint="one more dial that may move"
      className="font-semibold"
      value="+ dial"
      options={free.map(({ spec, name }) => [dialKey(spec), name] as const)}
      onChoose={(key) => {
        const chosen = stretchAt(level, key.split(' '), 'all');
        if (chosen !== null) onQuestion({ ...question, moving: [...moving, chosen] });
      }}
    />
  );
}

/** The targets that dials are tuned to: all that the level states, or chosen ones; and new ones in words. */
function Held({ level, question, onQuestion }: TuneFormProps) {
  const store = useAppStore();
  const targets = inOrder(level.targets);
  const ids = targets.map(([id]) => id);
  const held = question.held ?? ids;
  const hold = (next: readonly string[]): void => onQuestion({ ...question, held: next.length === ids.length ? null : next });
  return (
    <>
      {targets.map(([id, target]) => {
        const isHeld = held.includes(id);
        return (
          <Hint key={id} says={`${targetText(level, target)} ${isHeld ? 'Tuned to' : 'Left aside'}.`}>
            <button
              type="button"
              aria-pressed={isHeld}
              className={`cursor-pointer rounded-sm border px-1.5 py-0.5 ${isHeld ? 'border-ink bg-card' : 'border-line text-soft line-through'}`}
              onClick={() => hold(isHeld ? held.filter((one) => one !== id) : ids.filter((one) => one === id || held.includes(one)))}
            >
              {shortTarget(level, target)}
            </button>
          </Hint>
        );
      })}
      {targets.length > 1 && (
        <Button
          kind="quiet"
          className="px-1.5! py-0!"
          hint={held.length > 0 ? 'all of them are left aside' : 'tuned to all of them'}
          onClick={() => hold(held.length > 0 ? [] : ids)}
        >
          {held.length > 0 ? 'none' : 'all'}
        </Button>
      )}
      <TargetWords
        level={level}
        onTargets={(read) => {
          const added = addTargets(store, read);
          if (!added.ok) return added.why;
          if (question.held !== null) onQuestion({ ...question, held: [...new Set([...held, ...added.ids])] });
          return null;
        }}
      />
    </>
  );
}

/** What tuning is asked beside its dials: the targets they are tuned to, and what the search may cost. */
export function TuneForm({ level, question, onQuestion }: TuneFormProps) {
  const { budget } = question;
  return (
    <>
      <MoreDials level={level} question={question} onQuestion={onQuestion} />
      <div className="flex w-full flex-wrap items-center gap-x-2 gap-y-1.5" role="group" aria-label="Tuned to">
        <span className="text-soft">so that</span>
        <Held level={level} question={question} onQuestion={onQuestion} />
        <span className="flex items-center gap-2 text-soft">
          with at most
          <NumberInput
            label="Sessions that it may cost"
            name=""
            value={budget}
            onValue={(value) => onQuestion({ ...question, budget: value ?? NaN })}
          />
          sessions
        </span>
      </div>
    </>
  );
}
