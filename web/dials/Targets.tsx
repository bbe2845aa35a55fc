import isEqual from 'fast-deep-equal';
import { targetSentence, verdictText, type Part } from '@dial/core/formats';
import {
  blank,
  type DialSpec,
  entry,
  fieldAt,
  freeId,
  inOrder,
  isAsked,
  lastOrder,
  type Level,
  levelFields,
  numberAt,
  pointer,
  type QuantityName,
  type Target,
} from '@dial/core/level';
import { usualFigure, type Verdict } from '@dial/core/studies';
import { Button } from '../controls/controls.tsx';
import { Folded } from '../controls/Folded.tsx';
import { spaced } from '../fields/fieldInputs.tsx';
import { FieldEditor } from '../fields/FieldEditor.tsx';
import { TargetWords } from '../fields/TargetWords.tsx';
import { writeTo } from '../state/document/changes.ts';
import { makeEdit, sayRefused, setValue } from '../state/document/edits.ts';
import { addTargets } from '../state/document/targets.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { useVerdicts } from '../state/view/useVerdicts.ts';
import { DialGroup, focusDial } from './DialGroup.tsx';

/** The numbers of a target, as dials. */
function targetDials(id: string, { outcome, statistic, least, most, sessions, seconds, seed }: Target): DialSpec[] {
  const at = ['targets', id];
  const one = (way: readonly string[], group: string, label: string, value: number | null, quantity: QuantityName): DialSpec[] => {
    if (value === null) return [];
    const spec = numberAt([...at, ...way], group, label, value, quantity);
    return [{ ...spec, paths: [spec.path] }];
  };
  const counts = statistic.type === 'share' ? statistic : { from: null, to: null };
  return [
    ...one(['least'], 'has to be', 'at least', least, 'meterValue'),
    ...one(['most'], 'has to be', 'at most', most, 'meterValue'),
    ...one(['outcome', 'within'], 'what is asked', 'within', outcome.type === 'finishes' ? outcome.within : null, 'playTime'),
    ...one(['statistic', 'from'], 'what is asked', 'counts from', counts.from, 'meterValue'),
    ...one(['statistic', 'to'], 'what is asked', 'counts up to', counts.to, 'meterValue'),
    ...one(['statistic', 'below'], 'what is asked', 'share below', statistic.type === 'quantile' ? statistic.below : null, 'share'),
    ...one(['sessions'], 'who plays', 'sessions', sessions, 'sessions'),
    ...one(['seconds'], 'who plays', 'up to', seconds, 'playTime'),
    ...one(['seed'], 'who plays', 'seed', seed, 'seed'),
  ];
}

/** Sessions that a share is of count from here at first. */
const COUNTED_FROM = 50;

/** What stands in the dials already, or is arranged otherwise. */
const ELSEWHERE = ['order', 'sessions', 'seconds', 'seed'];

/** A sentence whose numbers lead to their dials. */
function Sentence({ parts }: { readonly parts: readonly Part[] }) {
  return (
    <p className="my-1 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
      {parts.map(({ text, path }, at) =>
        path === undefined ? (
          <span key={at}>{text}</span>
        ) : (
          <button key={at} type="button" className="cursor-pointer font-mono font-semibold underline" onClick={() => focusDial(path)}>
            {text}
          </button>
        ),
      )}
    </p>
  );
}

interface TargetProps {
  readonly level: Level;
  readonly id: string;
  readonly target: Target;
  readonly verdict: Verdict | undefined;
}

function TargetEntry({ level, id, target, verdict }: TargetProps) {
  const store = useAppStore();
  const at = pointer(['targets', id]);
  const field = fieldAt(levelFields(), level, at);
  const parts = targetSentence(level, target, at);
  /** One part is changed; what is judged of it goes along where it would make no sense any more. */
  const setPart = (name: string, next: unknown): string | null =>
    makeEdit(store, `target: ${spaced(name)}`, (draft) => {
      writeTo(draft, `${at}/${name}`, next);
      const made = entry(draft.targets, id);
      if (made === undefined) return;
      const wasUsual = isEqual(target.statistic, usualFigure(target.outcome).statistic);
      if (name === 'outcome' && (wasUsual || isAsked(made.outcome) !== isAsked(target.outcome)))
        made.statistic = usualFigure(made.outcome).statistic;
      const { statistic } = made;
      if (statistic.type === 'share' && !isAsked(made.outcome) && statistic.from === null && statistic.to === null)
        statistic.from = COUNTED_FROM;
    });
  return (
    <div className="mt-2 border-l-2 border-line pl-2">
      <Sentence parts={parts} />
      {verdict !== undefined && (
        <p className={`text-xs ${verdict.state === 'missed' ? 'text-harm' : verdict.state === 'met' ? 'font-semibold' : 'text-soft'}`}>
          {verdictText(verdict)}
        </p>
      )}
      <Folded name={`target ${id}`} heading="change it" className="text-xs" headingClass="text-xs font-semibold">
        <DialGroup specs={targetDials(id, target)} level={level} />
        {field?.type === 'group' &&
          Object.entries(field.fields)
            .filter(([name]) => !ELSEWHERE.includes(name))
            .map(([name, part]) => (
              <FieldEditor
                key={name}
                field={part}
                value={target[name as keyof Target]}
                label={spaced(name)}
                level={level}
                onSet={(next) => setPart(name, next)}
              />
            ))}
      </Folded>
      <Button kind="quiet" className="mt-1 text-xs" onClick={() => sayRefused(store, setValue(store, [at], 'delete a target', undefined))}>
        Delete target
      </Button>
    </div>
  );
}

/** The targets of the open level, each a sentence with dials, and how it stands. */
export function Targets({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const id = useAppSelector((state) => state.document.open?.id ?? '');
  const { verdicts } = useVerdicts(id, level);
  const targets = inOrder(level.targets);
  const add = (): void => {
    const field = fieldAt(levelFields(), level, '/targets/any');
    const begun = field === null ? {} : (blank(field, level) as object);
    const outcome = { type: 'finishes', within: null };
    const made = {
      ...begun,
      outcome,
      statistic: { type: 'share', from: null, to: null },
      least: 80,
      most: null,
      than: null,
      personas: [],
      order: lastOrder(level.targets),
    };
    sayRefused(store, setValue(store, [pointer(['targets', freeId(level.targets, 'target')])], 'new target', made));
  };
  return (
    <>
      <p className="mt-1 text-xs text-soft">
        {targets.length === 0
          ? 'None stated. A target says what simulated players shall come to, such as “of 200 players, at least 80 of 100 finish”; it is judged as dials turn, and by “dial check” on a build server.'
          : 'What simulated players shall come to; judged as dials turn, by the crowd beside the run, or by a full check.'}
      </p>
      {targets.map(([id, target]) => (
        <TargetEntry key={id} level={level} id={id} target={target} verdict={verdicts.find((one) => one.target === id)} />
      ))}
      <div className="mt-1.5 text-xs">
        <TargetWords
          level={level}
          onTargets={(read) => {
            const added = addTargets(store, read);
            return added.ok ? null : added.why;
          }}
        />
      </div>
      <Button kind="quiet" className="mt-1.5 text-xs" onClick={add}>
        New target
      </Button>
    </>
  );
}
