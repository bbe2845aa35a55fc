import { countingSlot, PHASE, stepOf, type Session } from '../../session/index.ts';
import { runSteps, type Leap, type Leg } from './air.ts';
import type { Hands } from './hands.ts';
import type { Terrain } from './leaping.ts';
import { isSolidIn } from './opening.ts';
import { bodyOf } from './thinker.ts';

/** What comes and goes by a clock: how it is now, until which step, and for how many steps it is so and otherwise in turn. */
interface Clock {
  readonly solid: boolean;
  readonly due: number;
  readonly stays: number;
  readonly other: number;
}

/** The clock of a box that comes and goes by one; null: it does not. */
function clockOf(session: Session, item: number): Clock | null {
  const { state, compiled } = session;
  const { forms, solids } = compiled;
  const owner = item < 0 ? -1 : (solids.owner[item] as number);
  if (owner < 0) return null;
  const form = state.form[owner] as number;
  const isReady = form >= 0 && state.phase[countingSlot(session, owner, 0)] === PHASE.ready;
  if (!isReady || (forms.cycleOff[form] as number) === 0) return null;
  const [on, off] = [isSolidIn(compiled, form, PHASE.ready), isSolidIn(compiled, form, PHASE.off)];
  if (on === off) return null;
  const isOff = state.cycledOff[owner] === 1;
  const lengths = [forms.cycleOn[form] as number, forms.cycleOff[form] as number];
  const [stays = 1, other = 1] = isOff ? lengths.reverse() : lengths;
  return { solid: isOff ? off : on, due: state.cycleDue[owner] as number, stays, other };
}

/** For how many steps from one on something is solid: 0 when it is not. */
function solidFor({ solid, due, stays, other }: Clock, step: number): number {
  if (step < due) return solid ? due - step : 0;
  const into = (step - due) % (stays + other);
  const isOther = into < other;
  if (isOther === solid) return 0;
  return isOther ? other - into : stays + other - into;
}

/** What one comes down on has to be there for so much longer; and for so long before, where one dares to leap before it is. Seconds. */
const LANDS = 0.15;
const EARLY = 0.1;
/** How finely it is asked when to leap on, and how far ahead. Seconds. */
const ASKED = 0.05;
const AHEAD = 20;

/** The leaps that lie ahead, from the one that is to be begun on. */
class Row {
  private readonly clocks: readonly (Clock | null)[];
  private readonly failed = new Set<number>();
  private readonly grain: number;

  /** `dares`: whether one leaps for what is not there yet. */
  constructor(
    private readonly terrain: Terrain,
    private readonly leaps: readonly Leap[],
    private readonly rate: number,
    private readonly dares: boolean,
    clocks: (item: number) => Clock | null,
  ) {
    this.clocks = leaps.map(({ to }) => clocks(terrain.surfaces[to]?.item ?? -1));
    this.grain = Math.max(1, Math.round(ASKED * rate));
  }

  /** Whether a leap that is begun at a step comes down on what is there, and all go on from there. */
  holds(at: number, step: number): boolean {
    const { leaps, clocks, rate, grain, terrain } = this;
    const leap = leaps[at];
    const clock = clocks[at];
    if (leap === undefined || clock === null || clock === undefined) return true;
    const next = leaps[at + 1];
    const walks = next === undefined ? 0 : (Math.abs(next.takeX - leap.landX) / terrain.body.speed) * rate;
    const lands = Math.ceil(step + leap.steps);
    const from = this.dares ? lands - Math.round(EARLY * rate) : Math.floor(step);
    const until = from + solidFor(clock, from);
    if (until < lands + walks + LANDS * rate) return false;
    if (next === undefined) return true;
    for (let on = Math.ceil((lands + walks) / grain) * grain; on < until; on += grain) {
      const key = on * leaps.length + at;
      if (this.failed.has(key)) continue;
      if (this.holds(at + 1, on)) return true;
      this.failed.add(key);
    }
    return false;
  }

  /** In how many steps it is next good to begin, of so many; Infinity: never. */
  goodIn(begins: number, most: number): number {
    for (let later = 0; later < most; later += this.grain) if (this.holds(0, begins + later)) return later;
    return Infinity;
  }
}

/**
 * In how many steps it is best to begin a leap where what it leads to, and on over, comes and goes by clocks: when all of it is there as
 * one comes. Null: nothing of that kind; or it never is, or what one stands on goes before: then one dares it.
 */
export function rowIn(hands: Hands, leap: Leap): number | null {
  const { world, session, mind } = hands;
  const { compiled, terrain } = world;
  const clocks = (item: number): Clock | null => clockOf(session, item);
  const leaps = mind.legs.slice(mind.next).flatMap(({ leap: one }: Leg) => (one === null ? [] : [one]));
  if (terrain === null || leaps.length < 2 || clocks(terrain.surfaces[leap.to]?.item ?? -1) === null) return null;
  const { rate } = compiled;
  const now = stepOf(session);
  const runs = runSteps(bodyOf(hands), leap, rate);
  const floor = clocks(session.state.floor[hands.player] as number);
  const most = floor === null ? AHEAD * rate : solidFor(floor, now) - runs;
  for (const dares of [false, true]) {
    const later = new Row(terrain, leaps, rate, dares, clocks).goodIn(now + runs, most);
    if (later < Infinity) return later;
  }
  return null;
}
