import type { Mobile, Track } from '../geometry/index.ts';
import type { Compiled } from './compile.ts';
import type { Recorder } from './ledger.ts';
import type { State } from './state.ts';

/** The crossings of one step, by time, then player, then placement order. */
export interface Crossings {
  count: number;
  at: Float64Array;
  toucher: Int32Array;
  placement: Int32Array;
  type: Uint8Array;
  inside: Float64Array;
}

/** What a step works with; nothing in it outlives the step. */
interface Scratch {
  /** The way of each toucher within the step. */
  readonly toucherTracks: readonly Track[];
  readonly crossings: Crossings;
  readonly line: Float64Array;
  readonly body: Mobile;
  /** Marks the placements looked at for the toucher at hand. */
  readonly sensed: Int32Array;
  senseStamp: number;
  /** Left, bottom, right, top of each toucher's way within the step. */
  readonly bounds: Float64Array;
}

/** A session under way. `step` moves it on; `snapshot` and `restore` save it and go back to it. */
export interface Session {
  readonly compiled: Compiled;
  readonly state: State;
  readonly recorder: Recorder | null;
  readonly scratch: Scratch;
}
