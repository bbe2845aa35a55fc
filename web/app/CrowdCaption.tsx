import { plainNumber, rangeText } from '@dial/core/formats';
import { inOrder, type Level } from '@dial/core/level';
import { Fragment } from 'react';
import { Hint } from '../controls/Hint.tsx';
import { Select } from '../controls/Select.tsx';
import { CROWD_SIZES, crowdActions, type CrowdSize } from '../state/slices/crowd.ts';
import { useAppDispatch, useAppSelector } from '../state/store.ts';

/** How large the crowd beside the run is. */
export function CrowdChoice() {
  const dispatch = useAppDispatch();
  const size = useAppSelector((state) => state.crowd.size);
  return (
    <Select
      label="Crowd beside the run"
      className="shrink-0"
      hint="Simulated players whose sessions follow every dial, beside the one run"
      value={String(size)}
      options={CROWD_SIZES.map((one) => [String(one), one === 0 ? 'no crowd' : `crowd ${String(one)}`])}
      onChoose={(chosen) => dispatch(crowdActions.sizeChosen(Number(chosen) as CrowdSize))}
    />
  );
}

interface FigureProps {
  readonly name: string;
  readonly now: string;
  /** In the compared version; null: not known, or the same. */
  readonly was: string | null;
  /** Where eight of ten sessions lie. */
  readonly spread?: string;
}

function Figure({ name, now, was, spread }: FigureProps) {
  return (
    <span className="whitespace-nowrap">
      {name} <b className="font-mono">{now}</b>
      {spread !== undefined && <span className="font-mono text-soft"> ({spread})</span>}
      {was !== null && was !== now && <span className="font-mono text-soft"> was {was}</span>}
    </span>
  );
}

const hundredth = (share: number): string => plainNumber(100 * share, 0);

/** What the crowd beside the run comes to, in one line: it keeps its height while figures come in. */
export function CrowdCaption({ level }: { readonly level: Level }) {
  const { size, shown, trouble } = useAppSelector((state) => state.crowd);
  if (size === 0) return null;
  const { now, compared } = shown;
  // Compared with the whole of the other crowd only: a part of it has other players.
  const was = compared?.took == null ? null : compared.bands;
  return (
    <div className="flex min-h-6 items-center gap-x-3 overflow-hidden pb-1 text-xs" role="status" aria-label="What the crowd comes to">
      {trouble !== null && <b className="text-harm">{trouble}</b>}
      {trouble === null && now === null && <span className="text-soft">The crowd is playing …</span>}
      {now !== null && (
        <>
          <span className="flex min-w-0 flex-1 items-center gap-x-3 overflow-hidden">
            <Hint says="Simulated players, each persona as often as another. In the Strip the tint holds eight of ten of them at each moment, the dots are the one in the middle.">
              <b className="whitespace-nowrap">of 100 players</b>
            </Hint>
            <Figure name="finish" now={hundredth(now.bands.finish)} was={was === null ? null : hundredth(was.finish)} />
            <Figure name="lose a life" now={hundredth(now.bands.loseALife)} was={was === null ? null : hundredth(was.loseALife)} />
            {inOrder(level.meters).map(([id, { name }]) => {
              const final = now.bands.finals[id];
              const before = was?.finals[id];
              // What is the same for all needs no room.
              if (final === undefined || (final.tenth === final.ninetieth && (before?.median ?? final.median) === final.median))
                return <Fragment key={id} />;
              return (
                <Figure
                  key={id}
                  name={`final ${name}`}
                  now={plainNumber(final.median, 0)}
                  spread={rangeText(final.tenth, final.ninetieth)}
                  was={before === undefined ? null : plainNumber(before.median, 0)}
                />
              );
            })}
          </span>
          <span className="shrink-0 whitespace-nowrap text-soft" data-crowd={now.took === null ? 'coming in' : 'done'}>
            {now.bands.sessions} of {now.asked} sessions{now.took === null ? '' : ` in ${plainNumber(now.took, 0)} ms`}
          </span>
        </>
      )}
    </div>
  );
}
