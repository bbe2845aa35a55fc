import { clockTime, plainNumber } from '@dial/core/formats';
import { entry, readoutsOf, whyNoPips, type Level, type Readout } from '@dial/core/level';
import type { Moment, PlayerMoment } from '@dial/core/session';
import { Hint } from '../controls/Hint.tsx';

const padded = (value: number, digits: number): string => plainNumber(value, 0).padStart(digits, '0');

function Pips({ full, of }: { readonly full: number; readonly of: number }) {
  return (
    <span className="flex gap-[3px]" role="img" aria-label={`${plainNumber(full)} of ${plainNumber(of)}`}>
      {Array.from({ length: of }, (_, index) => (
        <span key={index} className={`block h-3 w-2 rounded-[2px] border-[1.3px] border-ink ${index < full ? 'bg-mend' : 'bg-card'}`} />
      ))}
    </span>
  );
}

function Value({ text, hint }: { readonly text: string; readonly hint?: string | undefined }) {
  return (
    <Hint says={hint}>
      <span className="font-mono text-base font-semibold">{text}</span>
    </Hint>
  );
}

function MeterValue({
  level,
  readout,
  player,
}: {
  readonly level: Level;
  readonly readout: Readout & { type: 'meter' };
  readonly player: PlayerMoment;
}) {
  const meter = entry(level.meters, readout.meter);
  const value = player.meters[readout.meter] ?? 0;
  const text = padded(value, readout.digits);
  const why = whyNoPips(level, readout) ?? undefined;
  if (meter?.upper == null || readout.as === 'number') return <Value text={text} hint={why} />;
  const size = meter.upper - meter.lower;
  if (readout.as === 'pips' && why === undefined) return <Pips full={Math.round(value - meter.lower)} of={Math.round(size)} />;
  const share = Math.max(0, Math.min(1, (value - meter.lower) / Math.max(1e-9, size)));
  return (
    <>
      <Hint says={why}>
        <span className="block h-3 w-24 border-[1.3px] border-ink bg-card" role="img" aria-label={`${plainNumber(share * 100, 0)} %`}>
          <span className="block h-full bg-mend" style={{ width: `${String(share * 100)}%` }} />
        </span>
      </Hint>
      {readout.as !== 'bar' && <Value text={text} hint={why} />}
    </>
  );
}

function One({
  level,
  readout,
  player,
  seconds,
}: {
  readonly level: Level;
  readonly readout: Readout;
  readonly player: PlayerMoment;
  readonly seconds: number;
}) {
  switch (readout.type) {
    case 'meter':
      return (
        <>
          <span className="text-xs font-semibold">{entry(level.meters, readout.meter)?.name}</span>
          <MeterValue level={level} readout={readout} player={player} />
        </>
      );
    case 'item': {
      const item = entry(level.items, readout.item);
      const count = player.items[readout.item] ?? 0;
      const why = whyNoPips(level, readout) ?? undefined;
      return (
        <>
          <span className="text-xs font-semibold">{item?.name}</span>
          {readout.as === 'pips' && why === undefined ? (
            <Pips full={count} of={item?.most ?? 0} />
          ) : (
            <Value text={padded(count, readout.digits)} hint={why} />
          )}
        </>
      );
    }
    case 'held item':
      return (
        <span className="text-xs whitespace-nowrap">
          held <b>{player.held === null ? 'nothing' : (entry(level.items, player.held)?.name ?? player.held)}</b>
        </span>
      );
    case 'time':
      return <span className="font-mono text-sm">{clockTime(seconds)}</span>;
  }
}

/** What the level shows to the players while playing; the time once, the rest for each of them. */
export function Readouts({ level, moment }: { readonly level: Level; readonly moment: Moment }) {
  const readouts = readoutsOf(level);
  const several = moment.players.length > 1;
  return (
    <div className="flex flex-wrap items-center gap-x-4 gap-y-1" aria-label="Readouts" role="group">
      {moment.players.map((player, index) => (
        <div key={index} className="flex flex-wrap items-center gap-x-4 gap-y-1">
          {several && <b className="text-xs text-soft">player {index + 1}</b>}
          {readouts.map(([id, readout]) =>
            readout.type === 'time' && index > 0 ? null : (
              <span key={id} className="flex items-center gap-2">
                <One level={level} readout={readout} player={player} seconds={moment.seconds} />
              </span>
            ),
          )}
        </div>
      ))}
    </div>
  );
}
