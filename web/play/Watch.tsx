import { placementName } from '@dial/core/formats';
import { kindOf, inOrder, type Level } from '@dial/core/level';
import type { LedgerLine, Moment } from '@dial/core/session';
import { Menu, MenuItem } from '../controls/Menu.tsx';
import { Button } from '../controls/controls.tsx';
import { Mark } from '../drawing/Mark.tsx';
import { ruleSentence } from '@dial/core/formats';
import { LedgerLines } from './LiveLedger.tsx';
import { phaseText, watchables, watchedText } from './watching.ts';

interface WatchProps {
  readonly level: Level;
  readonly moment: Moment;
  readonly watched: readonly string[];
  readonly onWatch: (keys: readonly string[]) => void;
}

/** Values that are pinned, as they are now. */
export function Watch({ level, moment, watched, onWatch }: WatchProps) {
  const all = watchables(level, moment);
  return (
    <section aria-label="Watched" className="border-b border-line px-3 py-1.5 text-xs">
      <h2 className="flex items-center gap-2 text-[11px] font-bold text-soft">
        watched
        <Menu
          label="Watch a value"
          className="text-xs"
          button={
            <button
              type="button"
              aria-label="Watch a value"
              className="ml-auto cursor-pointer rounded-sm border border-line bg-card px-1.5 py-px font-normal text-ink hover:border-ink"
            >
              + a value
            </button>
          }
        >
          {all
            .filter(({ key }) => !watched.includes(key))
            .map(({ key, name }) => (
              <MenuItem key={key} onChoose={() => onWatch([...watched, key])}>
                {name}
              </MenuItem>
            ))}
        </Menu>
      </h2>
      {watched.length === 0 && <p className="text-soft">Choose a value here, or pause and press a thing.</p>}
      <ul>
        {watched.map((key) => (
          <li key={key} className="flex items-center gap-2 py-px">
            <span className="min-w-0 flex-1 [overflow-wrap:anywhere]">{all.find((one) => one.key === key)?.name ?? key}</span>
            <span className="font-mono">{watchedText(moment, key) ?? 'not there'}</span>
            <button
              type="button"
              aria-label={`Stop watching ${all.find((one) => one.key === key)?.name ?? key}`}
              className="cursor-pointer rounded-sm border border-line bg-card px-1 leading-4 hover:border-ink"
              onClick={() => onWatch(watched.filter((one) => one !== key))}
            >
              ×
            </button>
          </li>
        ))}
      </ul>
    </section>
  );
}

interface InspectProps extends WatchProps {
  readonly placement: string;
  readonly lines: readonly LedgerLine[];
  readonly onClose: () => void;
}

const MOST_LINES = 6;

/** What a thing is, does, and has done so far. */
export function Inspect({ level, moment, watched, onWatch, placement, lines, onClose }: InspectProps) {
  const at = moment.placements[placement];
  const kind = kindOf(level, at?.kind ?? level.placements[placement]?.kind ?? '');
  const key = `thing ${placement}`;
  if (kind === undefined) return null;
  const about = lines.filter((line) => 'placement' in line && line.placement === placement).slice(-MOST_LINES);
  return (
    <section aria-label={`About ${placementName(level, placement)}`} className="border-b border-line px-3 py-1.5 text-xs">
      <h2 className="flex items-center gap-1.5">
        <Mark kind={kind} />
        <b className="min-w-0 flex-1 [overflow-wrap:anywhere]">{placementName(level, placement)}</b>
        <Button kind="quiet" className="px-1.5! py-0! text-xs" onClick={onClose}>
          Close
        </Button>
      </h2>
      <p className="mt-1">
        now <span className="font-mono">{at === undefined ? 'gone' : phaseText(at)}</span>
      </p>
      {inOrder(kind.rules).map(([id, rule]) => (
        <p key={id} className="mt-1">
          {ruleSentence(level, kind.name, rule, '').map(({ text }) => text)}
        </p>
      ))}
      {about.length > 0 && <LedgerLines level={level} lines={about} />}
      {!watched.includes(key) && (
        <Button kind="quiet" className="mt-1 px-1.5! py-0! text-xs" onClick={() => onWatch([...watched, key])}>
          Watch it
        </Button>
      )}
    </section>
  );
}
