import { clockTime, decisionWords } from '@dial/core/formats';
import { useDeferredValue, useMemo, useState } from 'react';
import { ledgerOf } from '../state/simulation/lines.ts';
import { walkerOn } from '../state/simulation/walker.ts';
import type { ShownRun } from '../state/simulation/protocol.ts';
import { useAppSelector } from '../state/store.ts';
import { usePalette } from '../drawing/palette.ts';
import { goingOn, happenings } from '../drawing/plan/happenings.ts';
import type { PlanTrack } from '../drawing/plan/PlanPlayers.tsx';
import { tracksOf } from './tracks.ts';

/** The ways of all players of a run; the same list as long as nobody goes another way. */
function useTracks(run: ShownRun | null): readonly PlanTrack[] {
  const [tracks, setTracks] = useState<readonly PlanTrack[]>([]);
  const now = run === null ? [] : [run, ...run.others];
  const same = now.length === tracks.length && now.every(({ x, y }, player) => x === tracks[player]?.x && y === tracks[player].y);
  if (!same) setTracks(run === null ? [] : tracksOf(run));
  return tracks;
}

/** What the Plan shows of the run and of its ghost at the moment of the needle; `described` in words. */
export function usePlanRun() {
  const palette = usePalette();
  const simulated = useAppSelector((state) => state.simulated.shown);
  const moment = useAppSelector((state) => state.simulated.moment);
  // The Strip comes first: a way of thousands of steps is drawn right after it, and only where it is another.
  const tracks = useDeferredValue(useTracks(simulated.now));
  const ghost = useTracks(simulated.compared)[0] ?? null;
  const ghostPlace = useMemo(() => {
    const { now, compared: was } = simulated;
    if (moment === null || now === null || was === null || now.rate !== was.rate) return null;
    const step = Math.min(moment.step, was.steps);
    const [x, y] = [was.x[step] ?? 0, was.y[step] ?? 0];
    const player = moment.players[0];
    // Where both are at one place, one of them is drawn.
    return player !== undefined && Math.hypot(player.x - x, player.y - y) < 0.01 ? null : { x, y };
  }, [simulated, moment]);
  const labels = useMemo(() => {
    if (moment === null || simulated.now === null) return [];
    const { level: of } = simulated.now;
    return [...happenings(of, moment, ledgerOf(simulated.now), palette), ...goingOn(of, moment, palette)];
  }, [moment, simulated.now, palette]);
  const thought = useAppSelector((state) => state.simulated.thought);
  const drawn = useAppSelector((state) => state.simulated.run);
  const decided = useMemo(() => {
    const { now } = simulated;
    const [persona = null] = now === null ? [] : (walkerOn(now.level, drawn)?.personas ?? []);
    const last = now?.walk?.decisions.findLast(({ step, player }) => player === 0 && step <= (moment?.step ?? 0));
    return now === null || persona === null || last === undefined ? null : `${persona.name} ${decisionWords(now.level, persona, last)}`;
  }, [simulated, drawn, moment]);
  const described =
    moment === null
      ? 'no run'
      : `${decided === null ? '' : `${decided}; `}the run at ${clockTime(moment.seconds)}: ${labels.map(({ text }) => text).join(', ') || 'nothing just happened'}`;
  return { moment, tracks, ghost, ghostPlace, labels, described, thought, decided };
}
