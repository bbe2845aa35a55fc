import { clockTime, plainNumber } from '@dial/core/formats';
import { inOrder, kindOf, type Level } from '@dial/core/level';
import type { Outcome } from '@dial/core/session';

const HOW = {
  won: 'Won',
  lost: 'The session is lost',
  time: 'Time is up',
  'inputs ended': 'Ended',
  'too many contacts': 'Too many contacts',
  'too many changes': 'Too many changes of movement',
} as const;
const MOST_NAMED = 6;

/** Kinds of which nothing was ever touched, with how many there are. */
function untouched(level: Level, outcome: Outcome): string[] {
  return Object.entries(outcome.perKind).flatMap(([id, { uses, refusals }]) => {
    const kind = kindOf(level, id);
    return uses + refusals > 0 || kind === undefined || Object.keys(kind.rules).length === 0 ? [] : [kind.name];
  });
}

/** What a play came to, at its end. */
export function Ending({ level, outcome }: { readonly level: Level; readonly outcome: Outcome }) {
  const never = untouched(level, outcome);
  return (
    <>
      <p className="text-base font-bold">
        {HOW[outcome.ended.how]} at {clockTime(outcome.ended.seconds)}
      </p>
      {outcome.players.map((player, index) => (
        <p key={index} className="mt-1 text-xs">
          {outcome.players.length > 1 && <b>player {index + 1}: </b>}
          {inOrder(level.meters)
            .map(([id, { name }]) => `${name} ${plainNumber(player.meters[id] ?? 0, 1)}`)
            .join(' · ')}
          {` · lowest health ${plainNumber(player.lowestHealth, 1)} · ${plainNumber(player.deaths)} ${player.deaths === 1 ? 'death' : 'deaths'} · ${plainNumber(player.distance, 0)} u walked`}
        </p>
      ))}
      {never.length > 0 && (
        <p className="mt-1 text-xs text-soft">
          Never touched: {never.slice(0, MOST_NAMED).join(', ')}
          {never.length > MOST_NAMED && ` and ${String(never.length - MOST_NAMED)} more`}.
        </p>
      )}
    </>
  );
}
