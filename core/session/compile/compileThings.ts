import { createShapeTable, type CurveTable, createCurveTable, type ShapeSource, type ShapeTable, valueIn } from '../../geometry/index.ts';
import { allKinds, byId, createDigest, inOrder, kindOfPlacement, type Kind, type Level, type Placement } from '../../level/index.ts';
import * as codes from './codes.ts';
import { facesOf, flatten, stepsOf } from './laying.ts';

/** A kind as some placements have it: the kind itself, or with own values. */
export interface Form {
  readonly kindId: string;
  readonly kind: Kind;
}

/** Contact of a solid thing counts from this near, since bodies keep a hair off its faces. Units. */
const NEAR_FACE = 1e-6;

/** Furthest that a kind's shapes come from its place while it turns about its pivots: as much again, and twice as far as they lie off. Units. */
function turnedReach({ rules }: Kind, reach: number): number {
  const pivots = Object.values(rules).flatMap(({ windUp }) => (windUp?.turn == null ? [] : [windUp.turn]));
  if (pivots.length === 0) return reach;
  return 2 * reach + 2 * Math.max(...pivots.map(({ x, y }) => Math.sqrt(x * x + y * y)));
}

/** Furthest that a kind's solid box comes from its place. Units. */
const solidReach = ({ solid }: Kind): number =>
  solid === null ? 0 : Math.max(Math.abs(solid.x) + solid.width / 2, Math.abs(solid.y) + solid.height / 2);

/** All kinds, then one form for each set of own values; and which form each placement has. */
export function formsOf(level: Level): { forms: Form[]; kindCount: number; formOf: number[]; placements: [string, Placement][] } {
  const kinds = allKinds(level);
  const forms: Form[] = kinds.map(([kindId, kind]) => ({ kindId, kind }));
  const at = new Map<Kind, number>(forms.map(({ kind }, index) => [kind, index]));
  const placements = inOrder(level.placements);
  const formOf = placements.map(([id, placement]) => {
    const kind = kindOfPlacement(level, id);
    if (kind === undefined) throw new RangeError(`placement "${id}" is of no known kind`);
    const found = at.get(kind) ?? forms.push({ kindId: placement.kind, kind }) - 1;
    at.set(kind, found);
    return found;
  });
  return { forms, kindCount: kinds.length, formOf, placements };
}

/** The number an id is known by in random draws: it does not shift when others are added. */
export function idHash(id: string): number {
  const digest = createDigest();
  digest.addText(id);
  return digest.number();
}

/** Looks, bodies and life cycles of forms, a column each. Lengths in units, durations in steps; `driftDegrees` is NaN where chance decides. */
export type FormColumns = ReturnType<typeof compileForms>['columns'];

/** Looks, bodies and life cycles of forms, in flat columns. Shape 0 of the table is the player's body. */
export function compileForms(
  forms: readonly Form[],
  kindNumber: (id: string) => number,
  body: ShapeSource,
  flourishNumber: (id: string | null) => number,
  rate: number,
) {
  const list = forms.map(({ kind }) => kind);
  const shapes = flatten(list.map((kind) => byId(kind.shapes)));
  const table: ShapeTable = createShapeTable([body, ...shapes.values.map(([, shape]) => shape)]);
  const reach = Float64Array.from(list, (kind, form) => {
    let most = 0;
    for (let at = valueIn(shapes.starts, form) + 1; at <= valueIn(shapes.starts, form + 1); at += 1) {
      const [x, y] = [valueIn(table.x, at), valueIn(table.y, at)];
      most = Math.max(most, Math.sqrt(x * x + y * y) + valueIn(table.reach, at));
    }
    return kind.solid === null ? most : most + NEAR_FACE;
  });
  const magnets = list.map(({ magnet }) => magnet);
  const pullCurves: CurveTable = createCurveTable(magnets.map((magnet) => magnet?.speed ?? [[0, 0]]));
  const perPhase = (read: (phase: Kind['phases']['ready']) => number): Uint8Array =>
    Uint8Array.from(list.flatMap((kind) => codes.PHASE_KEYS.map((phase) => read(kind.phases[phase]))));
  const some = (kind: Kind, test: (rule: Kind['rules'][string]) => boolean): number => (Object.values(kind.rules).some(test) ? 1 : 0);
  return {
    shapes: table,
    columns: {
      kind: Int32Array.from(forms, ({ kindId }) => kindNumber(kindId)),
      shapeStart: shapes.starts.map((start) => start + 1),
      reach,
      /** The same with what it reaches while it turns, and from how near a magnet's things are taken, and its solid box. */
      touchReach: Float64Array.from(list, (kind, form) =>
        Math.max(turnedReach(kind, valueIn(reach, form)), kind.magnet?.takenAt ?? 0, solidReach(kind)),
      ),
      /** How much nearer than its shapes contact already counts. */
      grow: Float64Array.from(list, (kind) => (kind.solid === null ? 0 : NEAR_FACE)),
      senses: Uint8Array.from(list, (kind) => some(kind, ({ setOffBy }) => ['arriving', 'inside', 'leaving'].includes(setOffBy.type))),
      turns: Uint8Array.from(list, (kind) => some(kind, ({ windUp }) => windUp !== null && windUp.turn !== null)),
      roves: Uint8Array.from(list, (kind) => (kind.magnet !== null ? 1 : some(kind, ({ becomes }) => becomes.type === 'moves'))),
      draws: Uint8Array.from(list, (kind) =>
        some(
          kind,
          (rule) =>
            rule.becomes.type === 'moves' ||
            Object.values(rule.provided).some(({ type }) => type === 'chance') ||
            Object.values(rule.effects).some(({ type }) => type === 'move' || type === 'spawn'),
        ),
      ),
      sensing: perPhase(({ sensing }) => (sensing ? 1 : 0)),
      solidIn: perPhase(({ solid }) => (solid ? 1 : 0)),
      flourish: Int32Array.from(list.flatMap((kind) => codes.PHASE_KEYS.map((phase) => flourishNumber(kind.phases[phase].flourish)))),
      hasSolid: Uint8Array.from(list, ({ solid }) => (solid === null ? 0 : 1)),
      solidX: Float64Array.from(list, ({ solid }) => solid?.x ?? 0),
      solidY: Float64Array.from(list, ({ solid }) => solid?.y ?? 0),
      solidHalfWidth: Float64Array.from(list, ({ solid }) => (solid?.width ?? 0) / 2),
      solidHalfHeight: Float64Array.from(list, ({ solid }) => (solid?.height ?? 0) / 2),
      solidFaces: Uint8Array.from(list, ({ solid }) => facesOf(solid?.sides ?? [])),
      carries: Uint8Array.from(list, ({ carries }) => (carries ? 1 : 0)),
      /** Whether it carries or pushes whoever is inside. */
      drives: Uint8Array.from(list, (kind) =>
        kind.carries ? 1 : some(kind, ({ effects }) => Object.values(effects).some(({ type }) => type === 'push')),
      ),
      driftSpeed: Float64Array.from(list, ({ drift }) => drift?.speed ?? -1),
      driftDegrees: Float64Array.from(list, ({ drift }) => drift?.degrees ?? NaN),
      cycleOn: Int32Array.from(list, ({ cycle }) => (cycle === null ? 0 : stepsOf(cycle.on, rate))),
      cycleOff: Int32Array.from(list, ({ cycle }) => (cycle === null ? 0 : stepsOf(cycle.off, rate))),
      cycleOffset: Int32Array.from(list, ({ cycle }) => (cycle === null ? 0 : stepsOf(cycle.offset, rate))),
    },
    magnets: {
      has: Uint8Array.from(magnets, (magnet) => (magnet === null ? 0 : 1)),
      reach: Float64Array.from(magnets, (magnet) => magnet?.reach ?? 0),
      latched: Uint8Array.from(magnets, (magnet) => (magnet?.latched === true ? 1 : 0)),
      giveUp: Float64Array.from(magnets, (magnet) => magnet?.giveUp ?? 0),
      goesHome: Uint8Array.from(magnets, (magnet) => (magnet?.then === 'goes home' ? 1 : 0)),
      passesSolids: Uint8Array.from(magnets, (magnet) => (magnet?.passesSolids === true ? 1 : 0)),
      /** −1: when its shapes touch. */
      takenAt: Float64Array.from(magnets, (magnet) => magnet?.takenAt ?? -1),
      speed: pullCurves,
      /** The highest its speed comes to. Units a second. */
      fastest: Float64Array.from(magnets, (magnet) => Math.max(0, ...(magnet?.speed ?? []).map(([, speed]) => speed))),
    },
  };
}

/** How many spawned things the level may have alive: what its spawn effects allow together, at most 500. */
export function spawnRoom(level: Level): number {
  const effects = [
    ...allKinds(level).flatMap(([, kind]) => Object.values(kind.rules)),
    ...Object.values(level.items).flatMap((item) => Object.values(item.rules)),
  ].flatMap((rule) => Object.values(rule.effects));
  const spawns = effects.reduce((sum, effect) => sum + (effect.type === 'spawn' ? effect.most : 0), 0);
  const drops = Object.values(level.items).some(({ dropsAs }) => dropsAs !== null) ? 20 : 0;
  return Math.min(500, spawns + drops);
}
