import type { Level } from '@dial/core/level';
import type { Run } from '@dial/core/players';
import type { Operation } from 'rfc6902';
import type { Change } from '../document/changes.ts';

/** A version that the level is compared with. */
export interface Compared {
  readonly id: number;
  readonly name: string;
  readonly level: Level;
}

/** The run that is drawn; of a walk the ids of the route and the personas too: it is walked anew on every change. */
export interface DrawnRun {
  readonly id: string;
  /** Of a walk: what is to be walked, with nothing pressed yet. */
  readonly run: Run;
  readonly route?: string | undefined;
  /** One for each player from the first on; the last plays those for whom none is given. */
  readonly personas?: readonly string[] | undefined;
  /** Of a walk that is cut off: seconds. */
  readonly seconds?: number | undefined;
  /** What the worker last made of the walk. */
  readonly walked?: Run;
}

/** The ids of a route and of personas who walk it, or one of them; and after how long they are cut off. */
export type Walks = Pick<DrawnRun, 'route' | 'personas' | 'seconds'>;

/** A walk that is asked for, with its seed where that is not left open. */
export type AskedWalk = Walks & { readonly seed?: number | undefined };

/** An accepted edit on its way to the server. */
export interface Unsent {
  readonly key: string;
  readonly operations: readonly Operation[];
}

/** Things and solids set aside on the Plan, by JSON Pointer. It is how one looks at the level, not part of it. */
export interface Aside {
  /** Cannot be moved, resized or deleted by hand. */
  readonly locked: readonly string[];
  /** Not drawn while tuning. */
  readonly hidden: readonly string[];
}

/** A level as it is opened: what the server has of it, and what this browser has kept of it since it was last open. */
export interface Opening {
  readonly id: string;
  readonly level: Level;
  readonly revision: number;
  readonly compared: Compared | null;
  readonly run: DrawnRun | null;
  readonly kept?: {
    readonly aside: Aside;
    readonly undo: readonly Change[];
    readonly redo: readonly Change[];
    readonly unsent: readonly Unsent[];
  };
}
