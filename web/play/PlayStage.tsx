import { labelOf } from '@dial/core/formats';
import { kindOf, type Level } from '@dial/core/level';
import { isStopped, type LedgerLine, type Moment } from '@dial/core/session';
import type { Ref } from 'react';
import { useCallback, useMemo, useRef } from 'react';
import { goingOn, happenings } from '../drawing/plan/happenings.ts';
import { usePalette, type Palette } from '../drawing/palette.ts';
import { PlanDrawing, type PlanLabel } from '../drawing/plan/PlanDrawing.tsx';
import type { ShownFlourish } from '../drawing/plan/PlanFlourishes.tsx';
import type { Pressed } from '../drawing/plan/PlanThing.tsx';
import { reachOf } from '../drawing/plan/thingPicture.ts';
import { useSize } from '../controls/hooks/useSize.ts';

interface PlayStageProps {
  readonly ref: Ref<HTMLDivElement>;
  readonly level: Level;
  readonly moment: Moment;
  readonly lines: readonly LedgerLine[];
  readonly flourishes: readonly ShownFlourish[];
  readonly inspected: string | null;
  readonly running: boolean;
  readonly onPress: (placement: string | null) => void;
}

/** How near a player reads the label of a thing that is not for use. Units from its edge. */
const READS_FROM = 1;

/** Labels of the things players are near to; of a thing for use only where the use key would use it. What is spent has none. */
function labelsInReach(level: Level, moment: Moment, palette: Palette): PlanLabel[] {
  return Object.entries(moment.placements).flatMap(([id, at], index) => {
    const kind = kindOf(level, at.kind);
    const text = kind === undefined ? null : labelOf(kind);
    if (kind === undefined || text === null || at.phase === 'spent') return [];
    const forUse = Object.values(kind.rules).some(({ setOffBy }) => setOffBy.type === 'use');
    const near = moment.players.some(({ x, y, inReach, dead }) => {
      if (dead) return false;
      return forUse ? inReach === id : Math.hypot(x - at.x, y - at.y) <= reachOf(kind) + READS_FROM;
    });
    return near ? [{ key: -1 - index, x: at.x, y: at.y, row: -1, text, colour: palette.ink }] : [];
  });
}

/** The level as it is played. */
export function PlayStage({ ref, level, moment, lines, flourishes, inspected, running, onPress }: PlayStageProps) {
  const frame = useRef<HTMLDivElement>(null);
  const { width, height } = useSize(frame);
  const palette = usePalette();
  const labels = useMemo(
    () => [
      ...labelsInReach(level, moment, palette),
      ...goingOn(level, moment, palette),
      ...happenings(level, moment, lines.filter(isStopped), palette),
    ],
    [level, moment, lines, palette],
  );
  const press = useCallback(({ placement }: Pressed) => onPress(placement ?? null), [onPress]);
  return (
    <div
      ref={ref}
      tabIndex={-1}
      className="min-h-0 flex-1 p-2.5 outline-none"
      role="application"
      aria-label={`${level.name}, to be played`}
    >
      <div ref={frame} className="h-full" role="img" aria-label={`${level.name} being played`}>
        <PlanDrawing
          level={level}
          width={width}
          height={height}
          moment={moment}
          labels={labels}
          flourishes={flourishes}
          selectedPlacements={inspected === null ? [] : [inspected]}
          showHidden={false}
          running={running}
          onPress={press}
        />
      </div>
    </div>
  );
}
