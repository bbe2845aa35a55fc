import { clockTime, placementName, plainNumber, whyWords } from '@dial/core/formats';
import { useEffect, useState } from 'react';
import { openFindings } from '../state/slices/findings.ts';
import { playbackActions } from '../state/slices/playback.ts';
import { viewActions } from '../state/slices/view.ts';
import type { ShownRun, Why } from '../state/simulation/protocol.ts';
import { simulation } from '../state/simulation/simulation.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';
import { Select } from '../controls/Select.tsx';

interface Asked {
  readonly run: ShownRun;
  readonly placement: string;
  readonly step: number;
  readonly player: number;
}

/** Asks the worker why a thing does nothing at a moment. Answers come in the order they were asked for; only the last counts. */
function useWhy({ run, placement, step, player }: Asked): Why | null | undefined {
  const [answer, setAnswer] = useState<{ readonly asked: Asked; readonly why: Why | null } | null>(null);
  const dispatch = useAppDispatch();
  useEffect(() => {
    let wanted = true;
    simulation.why({ side: 'now', step, placement, player }).then(
      (why) => wanted && setAnswer({ asked: { run, placement, step, player }, why }),
      (error: unknown) => wanted && dispatch(viewActions.troubled(`This could not be worked out: ${String(error)}`)),
    );
    return () => {
      wanted = false;
    };
  }, [run, placement, step, player, dispatch]);
  // An answer of another moment of the same thing stays until the new one is there.
  return answer?.asked.run === run && answer.asked.placement === placement && answer.asked.player === player ? answer.why : undefined;
}

/** Every test that a thing's rules make at the needle's moment, passed or failed, with what each saw; also of what nobody touched. */
export function WhyNot({ run, placement }: { readonly run: ShownRun; readonly placement: string }) {
  const dispatch = useAppDispatch();
  const step = useAppSelector((state) => state.playback.needleStep);
  const [player, setPlayer] = useState(0);
  const found = useAppSelector(openFindings).filter(({ where }) => where.placements.includes(placement));
  const why = useWhy({ run, placement, step, player });
  const name = placementName(run.level, placement);
  const { nearest } = why ?? { nearest: null };
  const players = run.others.length + 1;
  // What is thrown off, or takes itself away, is touched between two steps only.
  const { uses = 0, refusals = 0 } = run.outcome.perPlacement[placement] ?? {};
  const happened = uses + refusals > 0;
  return (
    <section aria-label="Why did this not work?">
      <h3 className="flex items-center gap-1.5 text-[11px] font-bold text-soft">
        Why did {name} not work at {clockTime(step / run.rate)}?
        {players > 1 && (
          <Select
            label="For whom"
            className="font-normal"
            value={String(player)}
            options={Array.from({ length: players }, (_, index) => [String(index), `player ${String(index + 1)}`])}
            onChoose={(one) => setPlayer(Number(one))}
          />
        )}
      </h3>
      {nearest !== null && nearest.distance > 0 && !happened && (
        <p>
          Never touched: nearest <b className="font-mono">{plainNumber(nearest.distance)} u</b> at{' '}
          <button
            type="button"
            className="cursor-pointer font-mono underline"
            onClick={() => dispatch(playbackActions.needleMoved(nearest.step))}
          >
            {clockTime(nearest.seconds)}
          </button>
          .
        </p>
      )}
      {found.map(({ id, what, why: because }) => (
        <p key={id}>
          <b>{what}</b> {because}
        </p>
      ))}
      {why === null && <p className="text-soft">It is not in this level.</p>}
      {why?.tests.length === 0 && <p>It has no rules: touching it does nothing.</p>}
      {why?.tests.map((rule, index) => {
        const { head, tests } = whyWords(run.level, placement, rule);
        const failed = tests.filter(({ passed }) => !passed).length;
        return (
          <div key={rule.rule} className="mt-1">
            <p className="font-semibold">
              Rule {index + 1}, {head}:{' '}
              {failed === 0 ? 'it would act now' : failed === 1 ? 'one thing is missing' : `${String(failed)} things are missing`}
            </p>
            <ul>
              {tests.map(({ asks, saw, passed }, at) => (
                <li key={at} className={`flex gap-1.5 ${passed ? '' : 'text-harm'}`}>
                  <span className="w-10 shrink-0 font-semibold">{passed ? 'yes' : 'no'}</span>
                  <span>
                    {asks} <span className="font-mono text-[11px]">· {saw}</span>
                  </span>
                </li>
              ))}
            </ul>
          </div>
        );
      })}
    </section>
  );
}
