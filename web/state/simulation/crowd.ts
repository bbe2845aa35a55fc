import { crowdFindings, type Finding } from '@dial/core/findings';
import type { Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import {
  addHeat,
  bandsOf,
  crowdProblems,
  crowdTouches,
  emptyCounts,
  finalsOf,
  heatGrid,
  heatOf,
  sessionCount,
  smallCrowd,
  verdictsFrom,
  type CrowdBands,
  type CrowdSettings,
  type CrowdTouches,
  type Heat,
  type HeatCounts,
  type SessionRow,
  type Summary,
  type Verdict,
} from '@dial/core/studies';
import { wrap, type Remote } from 'comlink';
import type { CrowdApi, CrowdRequest } from './crowdProtocol.ts';
import { createSending } from './sending.ts';
import { createWorkerClient, startedFrom, type WorkerClient } from './workerClient.ts';

const start = () => {
  const worker = new Worker(new URL('./crowd.worker.ts', import.meta.url), { type: 'module' });
  return startedFrom<Remote<CrowdApi>>(worker, wrap<CrowdApi>(worker));
};

/** A worker, and how many sessions it has played. */
interface Player {
  readonly worker: WorkerClient<Remote<CrowdApi>>;
  played: number;
}

const players: Player[] = Array.from({ length: Math.max(1, Math.min(4, navigator.hardwareConcurrency)) }, () => ({
  worker: createWorkerClient(start, createSending),
  played: 0,
}));

type Asking = Pick<CrowdRequest, 'settings' | 'from' | 'to' | 'turned'> & Pick<CrowdAsked, 'level' | 'run'>;

async function play(player: Player, asking: Asking): Promise<Pick<Summary, 'rows' | 'heat'> | null> {
  try {
    player.played += asking.to - asking.from;
    return await player.worker.ask((api, asChanges) => api.play(asChanges(asking)));
  } catch (error) {
    // It is started anew where it is next asked, and cold.
    player.played = 0;
    throw error;
  }
}

/** Sessions that a worker plays at a time: so long an older crowd is in the way of a newer one. */
const AT_A_TIME = 5;

/** Seconds that a session of the crowd beside the run lasts at most. */
const SECONDS = 120;

/** What is to be played; the run is what goes along with a level to a worker. */
export interface CrowdAsked {
  readonly level: Level;
  readonly run: Run;
  readonly sessions: number;
  /** Id of a starting state; null: the level's own. */
  readonly start: string | null;
}

/** Whether it is still wanted: another may have been asked for since. */
type Wanted = () => boolean;

/** What has come in so far. */
interface Come {
  readonly settings: CrowdSettings;
  readonly rows: readonly SessionRow[];
  readonly counts: HeatCounts;
}

/** The settings of the crowd beside the run: the same seeds for every level. Throws where nobody can play. */
function settingsFor({ level, sessions, start: from }: CrowdAsked): CrowdSettings {
  if (Object.keys(level.personas).length === 0) throw new Error('the level has no persona to play it');
  const settings = { ...smallCrowd(level, sessions, SECONDS), start: from };
  const [problem] = crowdProblems(level, settings);
  if (problem !== undefined) throw new Error(problem.message);
  return settings;
}

/** Plays a crowd in all workers; tells what there is each time some sessions have come in. Stops when it is not wanted any more. */
export async function playCrowd(asked: CrowdAsked, wanted: Wanted, onCome: (come: Come, asked: number) => void): Promise<void> {
  const settings = settingsFor(asked);
  const { level, run } = asked;
  const count = sessionCount(settings);
  const come = { settings, rows: [] as SessionRow[], counts: emptyCounts(heatGrid(level)) };
  let next = 0;
  await Promise.all(
    players.map(async (player) => {
      while (wanted() && next < count) {
        const from = next;
        next = Math.min(count, from + AT_A_TIME);
        const to = next;
        const some = await play(player, { level, run, settings, from, to, turned: null });
        if (some === null) continue;
        come.rows.push(...some.rows);
        addHeat(come.counts, some.heat);
        if (wanted()) onCome(come, count);
      }
    }),
  );
}

/** After so many sessions the engine of a worker has made all of the core quick: the first take five times as long. */
const WARM = 150;

/** Plays on, for nobody to see, until all workers are warm. Stops when there is something else to play, or where it fails: there nobody waits. */
export async function warmUp(asked: CrowdAsked, wanted: Wanted): Promise<void> {
  const settings = settingsFor(asked);
  const { level, run } = asked;
  const count = sessionCount(settings);
  await Promise.allSettled(
    players.map(async (player) => {
      for (let from = 0; wanted() && player.played < WARM; from = (from + AT_A_TIME) % count) {
        await play(player, { level, run, settings, from, to: Math.min(count, from + AT_A_TIME), turned: null });
      }
    }),
  );
}

/** What a meter comes to in the end along a dial: in the middle, and where eight of ten sessions lie. Null where the level would not be valid. */
export interface CurvePoint {
  readonly value: number;
  readonly spread: CrowdBands['finals'][string] | null;
}

/** Plays a crowd for each value of a dial. Stops when it is not wanted any more. */
export async function crowdAlong(
  asked: CrowdAsked,
  { paths, values, meter }: { readonly paths: readonly string[]; readonly values: readonly number[]; readonly meter: string },
  wanted: Wanted,
): Promise<CurvePoint[]> {
  const settings = settingsFor(asked);
  const { level, run } = asked;
  const to = sessionCount(settings);
  const left = [...values];
  const points: CurvePoint[] = [];
  await Promise.all(
    players.map(async (player) => {
      for (let value = left.shift(); value !== undefined && wanted(); value = left.shift()) {
        const turned = { paths: [...paths], value };
        const some = await play(player, { level, run, settings, from: 0, to, turned });
        points.push({ value, spread: some === null ? null : (finalsOf(level, some.rows)[meter] ?? null) });
      }
    }),
  );
  return points.sort((a, b) => a.value - b.value);
}

/** What a crowd comes to. */
export interface Summed {
  readonly bands: CrowdBands;
  readonly heat: Heat;
  readonly touches: CrowdTouches;
  /** Ids of those who play, in the order in which touches tell of them. */
  readonly personas: readonly string[];
  /** How the targets of the level stand by it. */
  readonly verdicts: readonly Verdict[];
  /** What its sessions show to be wrong, or worth a look; none while they come in. */
  readonly findings: readonly Finding[];
}

/** What has come in, summed up in the order of its numbers: the same however it came. */
export function summedUp(level: Level, { settings, rows, counts }: Come): Summed {
  const ordered = [...rows].sort((a, b) => a.index - b.index);
  return {
    bands: bandsOf(level, ordered),
    heat: heatOf(counts),
    touches: crowdTouches(level, ordered),
    personas: settings.personas.map(({ persona }) => persona),
    verdicts: verdictsFrom(level, settings, ordered),
    // Only all of them show what nobody does.
    findings: rows.length === sessionCount(settings) ? crowdFindings(level, ordered) : [],
  };
}
