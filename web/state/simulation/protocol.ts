import type { Finding } from '@dial/core/findings';
import type { Level } from '@dial/core/level';
import type { Fit, Nearest, Recording, Run, Thought, Walked, Walker } from '@dial/core/players';
import type { LineNames, Moment, Outcome, RuleTests } from '@dial/core/session';
import { z } from 'zod';
import { Sent } from './sending.ts';

/** Which of two simulations: the level as it is turned now, or the version it is compared with. */
export const Side = z.enum(['now', 'compared']);
export type Side = z.infer<typeof Side>;

const walker = z
  .custom<Walker>((value) => value === null || (typeof value === 'object' && 'route' in value && 'personas' in value))
  .nullable();

/** A walker walks the level anew, in place of the run's inputs. With a side of null nothing can be asked about it later. */
export const SimulateRequest = Sent.extend({ side: Side.nullable(), walker });
export type SimulateRequest = z.infer<typeof SimulateRequest>;
export const OutcomeRequest = SimulateRequest.omit({ side: true });
export type OutcomeRequest = z.infer<typeof OutcomeRequest>;
export const MomentRequest = z.strictObject({ side: Side, step: z.int().min(0) });
export type MomentRequest = z.infer<typeof MomentRequest>;
/** `walks` names who walks the level anew for each value, in place of the run's inputs. */
export const CurveRequest = Sent.extend({
  walks: z.strictObject({ route: z.string().max(200).optional(), personas: z.array(z.string().max(200)).max(4).readonly().optional() }),
  paths: z.array(z.string()).max(5000),
  values: z.array(z.number()).max(64),
  meter: z.string(),
});
export type CurveRequest = z.infer<typeof CurveRequest>;

export const WhyRequest = MomentRequest.extend({ placement: z.string().max(200), player: z.int().min(0).max(3) });
export type WhyRequest = z.infer<typeof WhyRequest>;

/** Why a thing does nothing to a player at a moment: the tests of its rules, and how near anybody ever came. */
export interface Why {
  readonly tests: readonly RuleTests[];
  readonly nearest: Nearest | null;
}

/** Plays of a level that a persona is fitted to. */
export const FitRequest = z.strictObject({
  level: z.custom<Level>((value) => typeof value === 'object'),
  runs: z.array(z.custom<Run>()).max(100),
});
export type FitRequest = z.infer<typeof FitRequest>;

/** A level in which mistakes are looked for: by itself, or in what runs of it show. */
export const FindingsRequest = FitRequest.extend({ runs: FitRequest.shape.runs.nullable() });
export type FindingsRequest = z.infer<typeof FindingsRequest>;

/** A simulated run as the page draws it. Numbers of step k stand at index k. */
export interface SimulatedRun extends Omit<Recording, 'lines' | 'contacts' | 'snapshots' | 'snapshotSteps'> {
  readonly lines: { readonly count: number; readonly values: Float64Array };
  readonly contacts: { readonly count: number; readonly values: Float64Array };
  /** What it takes to read lines and contacts. */
  readonly names: LineNames;
  /** What the walker made of it, when it was walked. */
  readonly walk: Pick<Walked, 'run' | 'stuckAt' | 'decisions' | 'ending'> | null;
  /** Milliseconds the simulation took. */
  readonly took: number;
}

/** A simulated run together with the very level it was simulated on, which its ids and numbers are of. */
export interface ShownRun extends SimulatedRun {
  readonly level: Level;
}

/** All there is at a moment; and, where a persona plays, what it knows and means then. */
export interface ShownMoment {
  readonly moment: Moment | null;
  readonly thought: Thought | null;
}

/** What the simulation worker does. */
export interface SimulationApi {
  simulate(request: SimulateRequest): SimulatedRun;
  momentAt(request: MomentRequest): ShownMoment;
  /**
   * Simulates the beginning of what is on screen again and again while nothing is asked, until its code is compiled to
   * the last: the first turned dial is then as quick as the hundredth.
   */
  warmUp(): void;
  /** What the rules of a thing would test at a step of the run shown; null when none is, or the level has no such thing. */
  why(request: WhyRequest): Why | null;
  /** What comes of a run, and nothing else of it; quicker than `simulate`, and what is on screen stays. */
  outcome(request: OutcomeRequest): Outcome;
  /** What can be told of a player from plays. */
  fit(request: FitRequest): Fit;
  /** What is wrong with a level, or worth a look; or what runs of it show to be. */
  findings(request: FindingsRequest): readonly Finding[];
  /** The closing value of a meter for each value of one dial; null where the level would not be valid. */
  curve(request: CurveRequest): (number | null)[];
}
