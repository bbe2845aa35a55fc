import { clockTime, plainNumber, thingName } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import type { CrowdReport } from '@dial/core/studies';

const headClass = 'sticky top-0 bg-panel px-2 py-1 text-left text-[11px] font-semibold text-soft';
const figureClass = 'px-2 text-right font-mono';

interface ThingsTableProps {
  readonly level: Level;
  readonly report: CrowdReport;
  /** Is told the number of a thing. */
  readonly onThing: (thing: number) => void;
}

/** What all sessions did at each thing; what nobody touched stands on top. */
export function ThingsTable({ level, report: { things, deaths }, onThing }: ThingsTableProps) {
  return (
    <div
      className="max-h-[420px] overflow-auto rounded-sm border border-ink bg-card"
      tabIndex={0}
      role="group"
      aria-label="Placements, a row each"
    >
      <table className="w-full text-xs">
        <thead>
          <tr>
            <th className={headClass}>placement</th>
            <th className={headClass}>touched by</th>
            {['uses a session', 'health a session', 'wasted', 'waited', 'first use', 'deaths'].map((name) => (
              <th key={name} className={`${headClass} text-right`}>
                {name}
              </th>
            ))}
            <th className={headClass}>refused, by reason</th>
          </tr>
        </thead>
        <tbody>
          {things.map((thing) => {
            const share = 100 * thing.touched.value;
            const none = (value: number, places: number): string => (value === 0 ? '–' : plainNumber(value, places));
            return (
              <tr key={thing.thing} className={`border-t border-line/60 ${share === 0 ? 'bg-harm/8' : ''}`}>
                <td className="px-2 py-0.5">
                  <button
                    type="button"
                    className="cursor-pointer text-left hover:underline"
                    disabled={thing.placement === null}
                    onClick={() => onThing(thing.thing)}
                  >
                    <b>{thingName(level, thing)}</b>
                    {share === 0 && <span className="text-harm"> never touched by anyone</span>}
                  </button>
                </td>
                <td className="px-2">
                  <span className="flex items-center gap-1.5">
                    <span className="h-2.5 w-16 bg-panel">
                      <span className="block h-full bg-ink" style={{ width: `${String(share)}%` }} />
                    </span>
                    <span className="font-mono">{plainNumber(share, 0)} %</span>
                  </span>
                </td>
                <td className={figureClass}>{none(thing.uses, 2)}</td>
                <td className={figureClass}>{none(thing.health, 1)}</td>
                <td className={figureClass}>{none(thing.wasted, 1)}</td>
                <td className={figureClass}>{thing.waitingSeconds === 0 ? '–' : `${plainNumber(thing.waitingSeconds, 1)} s`}</td>
                <td className={figureClass}>{thing.firstUseSeconds === null ? '–' : clockTime(thing.firstUseSeconds, 0)}</td>
                <td className={figureClass}>{thing.deaths === 0 ? '–' : `${String(thing.deaths)} of ${String(deaths)}`}</td>
                <td className="px-2">{thing.refused.map(({ reason, times }) => `${reason} ${plainNumber(times, 2)}`).join(' · ')}</td>
              </tr>
            );
          })}
        </tbody>
      </table>
    </div>
  );
}
