import { clockTime } from '@dial/core/formats';
import { inOrder, type Level } from '@dial/core/level';
import type { LedgerLine, Outcome } from '@dial/core/session';
import { useRef } from 'react';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Button, Notice } from '../controls/controls.tsx';
import type { OpenLevel } from '../state/slices/document.ts';
import { Ending } from './Ending.tsx';
import type { Beginning } from './game.ts';
import { KeyChooser } from './KeyChooser.tsx';
import { LiveLedger } from './LiveLedger.tsx';
import { PlayControls } from './PlayControls.tsx';
import { keysText } from './playKeys.ts';
import { PlayStage } from './PlayStage.tsx';
import { Readouts } from './Readouts.tsx';
import { usePlaying } from './usePlaying.ts';
import { Inspect, Watch } from './Watch.tsx';

const LINES_SHOWN = 40;

/** Whether a line is shown while one plays: not what things do by themselves, nor what they refuse each other. */
const isOfInterest = (line: LedgerLine): boolean =>
  line.type !== 'phase' && line.type !== 'flourish' && !(line.type === 'refused' && line.toucher?.startsWith('player') !== true);

interface HaltedProps {
  readonly level: Level;
  readonly seconds: number;
  /** What came of the session; null while it is only paused. */
  readonly outcome: Outcome | null;
}

/** Over the stage while nothing is played: how it ended, or where it stands, and by which keys it goes on. */
function Halted({ level, seconds, outcome }: HaltedProps) {
  return (
    <div
      className="absolute inset-x-0 top-8 mx-auto w-[360px] rounded-lg border-[1.5px] border-ink bg-card/95 p-4 text-center"
      role="status"
    >
      {outcome === null ? (
        <p className="text-base font-bold">Paused at {clockTime(seconds)}</p>
      ) : (
        <Ending level={level} outcome={outcome} />
      )}
      <p className="mt-1 text-xs text-soft">
        {outcome === null
          ? 'P goes on, N makes one step, R begins again, Esc ends. Press a thing to read about it.'
          : 'R plays again, Esc shows the run on the Bench.'}
      </p>
    </div>
  );
}

/** Where a session began, in words. */
function beginningWords(level: Level, begin: Beginning, startFrom: string | null): string {
  if ('from' in begin) return `taken over from “${begin.from.run.name}” at ${clockTime(begin.from.step / level.rate)}`;
  return startFrom === null ? 'from the start' : `from “${level.tries[startFrom]?.name ?? startFrom}”`;
}

interface PlayingProps {
  readonly open: OpenLevel;
  readonly begin: Beginning;
  /** The starting state that was asked for. */
  readonly startFrom: string | null;
}

/** A session as it is played, with its readouts, controls and live ledger. */
export function Playing({ open, begin, startFrom }: PlayingProps) {
  const { level } = open;
  const stage = useRef<HTMLDivElement>(null);
  const playing = usePlaying(stage, open.id, level, begin);
  const { game, choices, paused, over, inspected, trouble } = playing;
  const { moment, lines, flourishes } = playing.picture;
  const stated = 'from' in begin ? null : startFrom;
  return (
    <div className="flex h-full flex-col">
      <AppHeader oneLine>
        <h1 className="text-sm font-bold whitespace-nowrap">{level.name}</h1>
        <span className="max-w-[180px] min-w-0 truncate text-xs text-soft">{beginningWords(level, begin, startFrom)}</span>
        <div className="ml-3 min-w-0 py-1">
          <Readouts level={level} moment={moment} />
        </div>
        <Button kind="strong" className="ml-auto shrink-0" onClick={playing.end} disabled={playing.ending}>
          End and see the run
        </Button>
      </AppHeader>
      {trouble !== null && (
        <Notice>
          <span>{trouble}</span>
        </Notice>
      )}
      <div className="flex min-h-0 flex-1">
        <main className="relative flex min-w-0 flex-1 flex-col bg-panel">
          <PlayStage
            ref={stage}
            level={level}
            moment={moment}
            lines={lines}
            flourishes={flourishes}
            inspected={inspected}
            running={!paused && !over}
            onPress={playing.inspect}
          />
          {(over || paused) && <Halted level={level} seconds={moment.seconds} outcome={over ? game.outcome() : null} />}
          <PlayControls
            paused={paused}
            over={over}
            speed={playing.speed}
            sound={choices.sound}
            slow={playing.slow}
            keysText={keysText(choices.keys, moment.players.length, level.view === 'side')}
            keys={
              <KeyChooser
                level={level}
                keys={choices.keys}
                events={choices.eventKeys}
                onOpen={playing.pause}
                onKeys={choices.chooseKeys}
                onEvents={choices.chooseEventKeys}
              />
            }
            tries={inOrder(level.tries).map(([id, { name }]) => [id, name] as const)}
            startFrom={stated}
            personas={inOrder(level.personas).map(([id, { name }]) => [id, `${name} plays`] as const)}
            seats={moment.players.map((_, player) => ({ player, persona: playing.seats[player] }))}
            onSeat={playing.seat}
            onToggle={playing.toggle}
            onStep={playing.oneStep}
            onSpeed={playing.setSpeed}
            onRestart={() => playing.restart()}
            seed={playing.seed}
            onSeed={playing.restart}
            onFullScreen={playing.fullScreen}
            onSound={choices.hear}
            onStartFrom={playing.startOver}
          />
        </main>
        <aside aria-label="Live ledger" className="flex w-[270px] shrink-0 flex-col border-l-[1.5px] border-ink bg-paper">
          <Watch level={level} moment={moment} watched={choices.watched} onWatch={choices.watch} />
          {inspected !== null && (
            <Inspect
              level={level}
              moment={moment}
              watched={choices.watched}
              onWatch={choices.watch}
              placement={inspected}
              lines={game.lines()}
              onClose={playing.leave}
            />
          )}
          <LiveLedger level={level} lines={lines.filter(isOfInterest).slice(-LINES_SHOWN)} />
        </aside>
      </div>
    </div>
  );
}
