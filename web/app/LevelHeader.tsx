import { askedBy } from '../state/slices/simulated.ts';
import { clockTime } from '@dial/core/formats';
import type { Level } from '@dial/core/level';
import { Link, useNavigate } from 'react-router';
import { openFindings } from '../state/slices/findings.ts';
import { useFindings } from '../state/simulation/useFindings.ts';
import { viewActions } from '../state/slices/view.ts';
import type { OpenLevel } from '../state/slices/document.ts';
import { redo, undo } from '../state/document/edits.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { FilesMenu } from '../files/FilesMenu.tsx';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Button, buttonClass } from '../controls/controls.tsx';
import { Said } from './Said.tsx';
import { Versions } from '../versions/Versions.tsx';
import { playPath } from './commands.ts';
import { SavedState } from './Saved.tsx';
import { Hint } from '../controls/Hint.tsx';

const PAGES = [
  ['Bench', ''],
  ['Sheet', '/sheet'],
  ['Runs', '/runs'],
  ['Crowd', '/crowd'],
  ['Sweep', '/sweep'],
  ['Play', '/play'],
] as const;

const tabClass = 'flex items-center border-b-[3px] px-3 pt-[3px] font-semibold max-[1179px]:px-2';

/** How much is found, by the name of the level; pressed, it shows the list. */
function FindingsCount({ path }: { readonly path: string }) {
  const store = useAppStore();
  const navigate = useNavigate();
  useFindings();
  const open = useAppSelector(openFindings);
  if (open.length === 0) return null;
  const grave = open.some(({ severity }) => severity === 'breaks it');
  return (
    <Hint says={`${String(open.length)} found wrong, or worth a look`} keys="J">
      <button
        type="button"
        aria-label={`${String(open.length)} ${open.length === 1 ? 'finding' : 'findings'}`}
        className={`min-w-6 cursor-pointer rounded-full border px-1.5 py-0.5 font-mono text-xs hover:border-ink ${grave ? 'border-harm text-harm font-bold' : 'border-line bg-card'}`}
        onClick={() => {
          store.dispatch(viewActions.evidenceChosen('findings'));
          void navigate(path);
        }}
      >
        {open.length}
      </button>
    </Hint>
  );
}

interface LevelHeaderProps {
  readonly open: OpenLevel;
  readonly level: Level;
  readonly here: (typeof PAGES)[number][0];
}

/** The bar over the pages of a level: its name and version, the pages, and what is done from any of them. */
export function LevelHeader({ open, level, here }: LevelHeaderProps) {
  const store = useAppStore();
  const undone = useAppSelector((state) => state.document.undo.at(-1)?.label);
  const redone = useAppSelector((state) => state.document.redo.at(-1)?.label);
  const run = useAppSelector((state) => state.simulated.run);
  const needleStep = useAppSelector((state) => state.playback.needleStep);
  const play = useAppSelector(playPath);
  const path = `/levels/${encodeURIComponent(open.id)}`;
  return (
    <AppHeader>
      <h1 className="truncate text-sm font-bold">{level.name}</h1>
      <Versions open={open} level={level} />
      <FindingsCount path={path} />
      <nav aria-label="Level" className="ml-3 flex min-h-[42px] self-stretch max-[1179px]:ml-0">
        {PAGES.map(([name, at]) =>
          name === here ? (
            <span key={name} aria-current="page" className={`${tabClass} border-needle`}>
              {name}
            </span>
          ) : (
            <Link key={name} to={name === 'Play' ? play : path + at} className={`${tabClass} border-transparent hover:border-line`}>
              {name}
            </Link>
          ),
        )}
      </nav>
      <div className="relative ml-auto flex flex-wrap items-center gap-2 py-1 max-[1179px]:gap-1">
        <Said />
        <SavedState />
        <Hint says="Find a command, and learn its key">
          <button
            type="button"
            className="cursor-pointer rounded-sm border border-line bg-card px-1.5 py-0.5 font-mono text-xs hover:border-ink"
            onClick={() => store.dispatch(viewActions.panelShown('commands'))}
          >
            Ctrl+K
          </button>
        </Hint>
        <Button kind="quiet" disabled={undone === undefined} hint={undone ?? ''} keys="Ctrl+Z" onClick={() => undo(store)}>
          Undo
        </Button>
        <Button kind="quiet" disabled={redone === undefined} hint={redone ?? ''} keys="Shift+Ctrl+Z" onClick={() => redo(store)}>
          Redo
        </Button>
        <FilesMenu level={open.level} />
        {run !== null && (
          <Link to={`${path}/play?run=${encodeURIComponent(askedBy(run))}&at=${String(needleStep)}`} className={buttonClass('strong')}>
            <span>
              Take over<span className="max-[1179px]:sr-only"> at {clockTime(needleStep / level.rate, 0)}</span>
            </span>
          </Link>
        )}
      </div>
    </AppHeader>
  );
}
