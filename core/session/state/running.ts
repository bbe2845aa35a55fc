import type { DiscMotion, Mobile, Motion, ShapeTable, Solids, Span, Track, Vector } from '../../geometry/index.ts';
import type { Compiled } from '../compile/compile.ts';
import type { Courses } from './courses.ts';
import type { Timers } from './due.ts';
import type { Line, Recorder } from './ledger.ts';
import type { State } from './state.ts';

/** The crossings of one step, by time, then player, then placement order. */
export interface Crossings {
  count: number;
  at: Float64Array;
  toucher: Int32Array;
  placement: Int32Array;
  type: Uint8Array;
  inside: Float64Array;
  /** Direction of the contact, from the thing to the toucher; (0, 0) when they overlapped already. */
  normalX: Float64Array;
  normalY: Float64Array;
  /** Which zone of the thing is come to or left. */
  zone: Uint8Array;
}

/** What one rule has set off and is not done yet: notices, spawns, relocations, in order. */
export interface Links {
  count: number;
  done: number;
  readonly type: Uint8Array;
  /** What it is about: a notice, an effect, or a rule. */
  readonly subject: Int32Array;
  readonly placement: Int32Array;
  readonly toucher: Int32Array;
  readonly cause: Int32Array;
}

/** Something that happens to a session from outside at the start of a step. */
export interface OutsideEvent {
  readonly step: number;
  readonly player: number;
  readonly what: 'meter' | 'item' | 'notice' | 'join' | 'leave';
  /** Number of the meter, item or notice; −1 for joining and leaving. */
  readonly subject: number;
  readonly amount: number;
}

/** What is known of a player's motion: what it can do undisturbed, and how it glides (see `glide`). */
export interface PlayerMotion {
  /** How far the player can go before anything about things that stay, that travel, or solids can change. Units. */
  stillSlack: number;
  travelSlack: number;
  solidSlack: number;
  /** The solid nearest when last looked for, or −1, and how far it can go before meeting any other. Units. */
  nearSolid: number;
  besideSlack: number;
  /** The same for coming into reach of a magnet. Units. */
  magnetSlack: number;
  /** The magnets that were near when last looked for, and how far it can go before others are. Units. */
  readonly magnetsNear: number[];
  magnetsKnown: number;
  /** How far it went in this step, or `GLIDING`. Units. */
  gone: number;
  /** What the keys ask for, kept for as long as they and the control over them stay the same. */
  wishFor: { x: number; y: number; control: number };
  wishX: number;
  wishY: number;
  /** Whether the motion of this step was steady, and may go on as it is. */
  steady: boolean;
  /** The last step of its glide, and whether it has still to begin. */
  glideUntil: number;
  begins: boolean;
  /** The motion of each step of it, before solids; the keys that ask for it; and the way gone in each step. */
  x: number;
  y: number;
  moveX: number;
  moveY: number;
  wayX: number;
  wayY: number;
  /** The wall slid along, or −1 for none, −2 for several. */
  along: number;
  /** After what share of each step's way the wall is met; −1 while not known to be the same for all. */
  share: number;
  /** The resting thing waited at, or −1. */
  waits: number;
  /** In a quiet step: the buttons held, and whether the player is there to move, and under a change of movement. */
  held: number;
  moves: boolean;
  changed: boolean;
  /** The buttons pressed in this step. */
  pressed: number;
  /** Whether its later crossings of this step are dropped. */
  dropped: boolean;
  /** The line by which it was put elsewhere, while its contacts have still to end; else −1. */
  movedBy: number;
}

/** A call for the session's end: who, at what, by which rule, and the line that brought it about. */
export interface Call {
  made: boolean;
  toucher: number;
  placement: number;
  rule: number;
  cause: number;
}

/** A rule that is tested: may it act? One object for a session, stated anew for each test. */
export interface Attempt {
  toucher: number;
  placement: number;
  rule: number;
  /** The phase the thing was in when it was touched. */
  phase: number;
  /** Whether the side does not matter; else the direction of the contact, seen from the thing: (0, 0) when they overlapped already. */
  anySide: boolean;
  sideX: number;
  sideY: number;
  /** Only asked: nothing is drawn for it. */
  supposed: boolean;
  /** A rate that has begun: its items have been given. */
  goesOn: boolean;
  /** A refusal is not written. */
  quiet: boolean;
  /** What it was refused for, the condition or the item, and the step it lasts to; −1 where there is none. */
  subject: number;
  until: number;
}

/** A place within the step at hand. Units. */
export interface Spot {
  x: number;
  y: number;
}

/** Where somebody or something is put, and whether that was as clear as asked. Units. */
export interface Place extends Spot {
  crowded: boolean;
}

/** What a change of a meter came to: asked; asked within its whole steps; applied within its limits; before and after. */
export interface Amounts {
  asked: number;
  wanted: number;
  applied: number;
  before: number;
  after: number;
}

/** A turned thing's pivot, and the cosine and sine of its turn. */
export interface Turning extends Spot {
  cos: number;
  sin: number;
}

/** Separate stretches of one step during which a pair touches, sorted: shares of the step, and the direction of contact. */
export interface Stretches {
  count: number;
  from: Float64Array;
  to: Float64Array;
  normalX: Float64Array;
  normalY: Float64Array;
}

/** What the narrow phase works with while it looks at one pair. */
export interface Narrow {
  readonly stretches: Stretches;
  /** A stretch to be added: shares of the step, and the direction of contact at its start. */
  readonly stretch: { from: number; to: number; normalX: number; normalY: number };
  /** Two motions seen from each other over one piece of the step; and which shares of the step it lies between. */
  readonly piece: Motion;
  readonly between: { from: number; to: number };
  readonly span: Span;
  /** A player within the reach of a magnet that has drawn a thing to it. */
  readonly reach: DiscMotion;
}

/** What goes into a player's motion within a step. */
export interface Steering {
  /** Steady push of velocity and acceleration. */
  readonly pushed: { x: number; y: number; accelerationX: number; accelerationY: number };
  /** By how much it is carried. Units. */
  readonly carried: Vector;
  /** The velocity come to along a line, and the way gone. */
  readonly reached: { velocity: number; way: number };
  /** The way it would go, before solids. Units. */
  readonly motion: Vector;
}

/** What a step works with; nothing in it outlives the step, or it can be worked out anew. */
export interface Scratch {
  /** The way of each toucher within the step, of things that travel once it is asked for, and the step it is of; and room for how many corners it has. */
  readonly tracks: (Track | null)[];
  readonly mostCorners: number;
  readonly trackStep: Int32Array;
  readonly courses: Courses;
  readonly timers: Timers;
  readonly crossings: Crossings;
  readonly links: Links;
  readonly attempt: Attempt;
  readonly place: Place;
  readonly spot: Spot;
  readonly amounts: Amounts;
  readonly turning: Turning;
  /** What the keys ask for, as a direction no longer than 1. */
  readonly wish: Vector;
  readonly steering: Steering;
  readonly narrow: Narrow;
  /** A crossing to be added: share of the step, seconds inside within it, the direction of contact, and the zone. */
  readonly crossing: { share: number; inside: number; normalX: number; normalY: number; zone: number };
  /** The ledger line that is being written. */
  readonly line: Line;
  readonly body: Mobile;
  /** A way that is not looked at. */
  readonly sideTrack: Track;
  /** The way of a mover over many steps. */
  readonly longTrack: Track;
  /** Solids as they are now: boxes of things come and go, and travel. */
  readonly solids: Solids;
  /** The step for which the box of each mover was last worked out; and, while things move, the one up to which they have; else −1. */
  readonly solidsAt: Int32Array;
  movedBefore: number;
  /** Two shapes, one of them turned. */
  readonly turned: ShapeTable;
  /** Marks the placements looked at for the toucher at hand. */
  readonly sensed: Int32Array;
  senseStamp: number;
  /** Left, bottom, right, top of each toucher's way within the step, and the step it is of. */
  readonly bounds: Float64Array;
  readonly boundsStep: Int32Array;
  /** What is known of each player's motion. */
  readonly motions: readonly PlayerMotion[];
  /** The last step in which players do no more than glide and no timer runs, unless a mover's crossing has it otherwise. */
  quietUntil: number;
  /** Whether anything happened in this step after which the next has to be looked at whole. */
  stirred: boolean;
  /** Whether a spawned thing may be spent whose room is not yet given up. */
  roomsToEmpty: boolean;
  /** Travellers that are moved in each step, drawn, solid, or magnets that gave somebody up; and all that are moved in this one; in order. */
  readonly moving: Int32Array;
  movingCount: number;
  readonly toMove: Int32Array;
  toMoveCount: number;
  /** Whether, since this step's crossings began to act, a rule acted or something changed its phase. */
  acted: boolean;
  /** Whether someone died in this step, or something called for an end. */
  mayEnd: boolean;
  /** The ending by which the session ends with this step since more happens at once than it can hold; else running. */
  overfull: number;
  /** What the step has called for: the session won, or lost; and by what. */
  readonly won: Call;
  readonly lost: Call;
  /** Whether an effect of the rule at hand did anything. */
  happened: boolean;
  /** The share of the step at which the contact that is acted on came about; 1 for whatever is none. */
  contactShare: number;
  /** The last line that changed a meter (by its cell), an item (by player), or posted a notice. */
  readonly meterLine: Int32Array;
  readonly itemLine: Int32Array;
  readonly noticeLine: Int32Array;
  /** Seconds the rule at hand wound up. */
  windUpSeconds: number;
}

/** A session under way. `step` moves it on; `snapshot` and `restore` save it and go back to it. */
export interface Session {
  readonly compiled: Compiled;
  readonly seed: number;
  readonly state: State;
  readonly recorder: Recorder | null;
  /** In order of their steps. */
  readonly events: OutsideEvent[];
  /** Looks at everything in every step, without the shortcuts: the same session, slower. */
  readonly exhaustive: boolean;
  readonly scratch: Scratch;
}
