import { turn, valueIn } from '../../geometry/index.ts';
import { inOrder, whoMatches, type Level, type Placement } from '../../level/index.ts';
import * as codes from './codes.ts';
import { compileHas, compileWho, isOfPlayer, mayStandApart, numberNames, placedRules } from './compilePlacedRules.ts';
import { compilePlaces } from './compilePlaces.ts';
import { keeping } from './keeping.ts';
import { compileRules } from './compileRules.ts';
import { stepsOf } from './laying.ts';
import { compileDeath, compileGoals, compileItems, compileMeters, meterCells } from './compileSettings.ts';
import { compileFormRules, compilePairSlots, compilePlacementSlots } from './compileSlots.ts';
import { compileSolids } from './compileSolids.ts';
import { compileForms, formsOf, idHash, spawnRoom } from './compileThings.ts';

export { stepsOf } from './laying.ts';

/**
 * A level turned into flat arrays, ready to be stepped. Nothing in it is looked up by name; the id lists lead back to
 * the document. Made by `compile` from a level that `parseLevel` has accepted; never changed afterwards.
 */
export type Compiled = ReturnType<typeof laidOut>;

/** The shape of a player's body, and as something that slides. Units. */
function bodyOf({ body, view }: Level) {
  const side = view === 'side';
  return {
    shape: side
      ? ({ type: 'box', width: body.width, height: body.height, rotation: 0, x: 0, y: 0 } as const)
      : ({ type: 'circle', radius: body.radius, x: 0, y: 0 } as const),
    hull: side
      ? { halfWidth: body.width / 2, halfHeight: body.height / 2, radius: 0 }
      : { halfWidth: 0, halfHeight: 0, radius: body.radius },
  };
}

/** Ids for the room that spawned things have, none of which the document has. */
function spawnIds(placements: readonly (readonly [string, Placement])[], room: number): string[] {
  const taken = new Set(placements.map(([id]) => id));
  return Array.from({ length: room }, (_, index) => {
    let id = `spawned-${String(index + 1)}`;
    while (taken.has(id)) id += '-x';
    return id;
  });
}

const keptHashes = keeping<Int32Array>();

const PHASE_AT_START = { ready: codes.PHASE.ready, resting: codes.PHASE.resting, off: codes.PHASE.off };

/** Columns of the placements: those of the document, then room for spawned things, of no form at first. */
function placementColumns(placements: readonly Placement[], formOf: readonly number[], count: number, rate: number) {
  const at = (index: number): Placement | undefined => placements[index];
  return {
    /** Its form, or −1. */
    form: Int32Array.from({ length: count }, (_, index) => formOf[index] ?? -1),
    /** Where it is placed. Units. */
    x: Float64Array.from({ length: count }, (_, index) => at(index)?.x ?? 0),
    y: Float64Array.from({ length: count }, (_, index) => at(index)?.y ?? 0),
    startPhase: Uint8Array.from({ length: count }, (_, index) => PHASE_AT_START[at(index)?.starts.type ?? 'ready']),
    /** For how many steps it rests at first. */
    startSteps: Int32Array.from({ length: count }, (_, index) => {
      const starts = at(index)?.starts;
      return starts?.type === 'resting' ? stepsOf(starts.seconds, rate) : 0;
    }),
  };
}

let isFirst = true;

/**
 * Compiles a level for stepping. `rate` overrides the level's own steps per second.
 * The level must be one that `parseLevel` accepted: ids are not checked again.
 */
export function compile(level: Level, rate = level.rate): Compiled {
  // V8 makes another layout of what an object literal gives when it meets that for the second time, and drops all it had made quick for
  // the first: each session would have to become quick again. So all literals are met twice at first; a copy, since parts are kept.
  if (isFirst) laidOut(JSON.parse(JSON.stringify(level)) as Level, rate);
  isFirst = false;
  return laidOut(level, rate);
}

function laidOut(level: Level, rate: number) {
  const { forms, kindCount, formOf, placements: entries } = formsOf(level);
  const placements = entries.map(([, placement]) => placement);
  const { body, players, points, ends } = level;
  const side = level.view === 'side';
  const playerCount = players.count;
  const { rules: placed, formStart, itemStart } = placedRules(level, forms);
  const names = numberNames(level, forms.slice(0, kindCount), placed);
  const { shape, hull } = bodyOf(level);
  const { shapes, columns, magnets } = compileForms(forms, names.kinds.of, shape, names.flourishes.of, rate);
  const compiledRules = compileRules(placed, level, names, rate);
  const { rules, conditions, effects, keyCount, kindRuleCount, curves, destinations, pools } = compiledRules;
  const playerTags = Array.from({ length: playerCount }, (_, player) => [...body.tags, ...(players.tags[player] ?? [])]);

  // Things of the document first, then room for things that are spawned.
  const room = spawnRoom(level);
  const count = placements.length + room;
  const ids = [...entries.map(([id]) => id), ...spawnIds(entries, room)];
  const { travellers, traveller, ...places } = compilePlaces(level, { placements, formOf, count, columns });
  const { solids, solidOf } = compileSolids(level, {
    columns,
    places: placements.map(({ x, y }, index) => ({ form: valueIn(formOf, index), x, y, moves: valueIn(traveller, index) >= 0 })),
    room,
    spawnable: [...pools.kind, ...inOrder(level.items).map(([, { dropsAs }]) => names.kinds.of(dropsAs))],
  });
  const ruled = { ruleStart: formStart, ...rules };
  const { slot, slotsPerPair } = compilePairSlots(ruled);
  const formRules = compileFormRules(ruled);
  const has = compileHas(placed, forms, names.items.ids.length);
  const hasSolidThings = solids.owner.some((owner) => owner >= 0);
  const perPlayer = placed.some(isOfPlayer);

  return {
    level,
    side,
    /** Steps in a second, and seconds in a step. */
    rate,
    stepSeconds: 1 / rate,
    playerCount,
    kindCount,
    /** Placements of the document; those after them are room for spawned things. */
    placedCount: placements.length,
    /** Players first, then travellers: everything that can touch a placement. */
    toucherCount: playerCount + travellers.count,
    /** Body of the player as something that slides. Its shape is the first of `shapes`. */
    hull,
    bodyReach: valueIn(shapes.reach, 0),
    ids: {
      meters: names.meters.ids,
      items: names.items.ids,
      kinds: names.kinds.ids,
      placements: ids,
      points: names.points.ids,
      notices: names.notices.ids,
      flourishes: names.flourishes.ids,
      rules: placed.map(({ kind, item, id }) => ({ kind, item, rule: id })),
      ...compiledRules.ids,
    },
    meters: compileMeters(level, names, rate),
    /** Player × meter: where it is kept. */
    meterCell: meterCells(level, names),
    items: compileItems(level, names, itemStart),
    placements: Object.assign(
      placementColumns(placements, formOf, count, rate),
      {
        /** What its draws by chance go by. */
        hash: keptHashes([ids], () => Int32Array.from(ids, idHash)),
        /** Index among the travellers, or −1. */
        traveller,
        /** Its box among the solids, or −1. */
        solid: solidOf,
      },
      compilePlacementSlots(formOf, count, formStart, columns),
    ),
    travellers,
    forms: Object.assign(columns, formRules, {
      /** Whether a failed arrival is tried again. */
      tries: Uint8Array.from(forms, ({ kind }) => (Object.values(kind.rules).some(({ keepTrying }) => keepTrying) ? 1 : 0)),
      /** Whether a player takes notice of it. */
      accepted: Uint8Array.from(forms, ({ kind }) =>
        body.accepts.length === 0 || whoMatches({ any: body.accepts, none: [] }, kind.tags) ? 1 : 0,
      ),
    }),
    magnets,
    /** Furthest that a magnet draws things from. Units. */
    furthestMagnet: Math.max(0, ...magnets.reach),
    /** Fastest of all that travels by itself. Units a second. */
    fastest: Math.max(0, ...places.movers.speed, ...columns.driftSpeed),
    shapes,
    rules: Object.assign(rules, {
      slot,
      /** Rule × class of toucher. */
      accepts: compileWho(placed, forms.slice(0, kindCount), playerTags),
      hash: Int32Array.from(placed, ({ kind, item, id }) => idHash(`${kind ?? item ?? ''}/${id}`)),
    }),
    /** Classes of touchers: each player, then each kind. */
    classCount: playerCount + kindCount,
    /** Rules of items come after those of forms. */
    firstItemRule: valueIn(formStart, forms.length),
    itemRuleCount: placed.length - valueIn(formStart, forms.length),
    conditions,
    effects,
    keyCount,
    kindRuleCount,
    curves,
    destinations,
    pools,
    points: {
      x: Float64Array.from(names.points.ids, (id) => points[id]?.x ?? 0),
      y: Float64Array.from(names.points.ids, (id) => points[id]?.y ?? 0),
    },
    /** Where each player starts. Units. */
    starts: Array.from({ length: playerCount }, (_, player) => points[players.starts[player] ?? ''] ?? level.start),
    death: compileDeath(level, names, compiledRules.returnTo, rate),
    goals: compileGoals(level, names),
    /** Whether any step may end the session: a goal or a time limit is watched for. */
    mayEnd: ends.timeLimit !== null || Object.keys(ends.goals).length > 0,
    timeLimitSteps: ends.timeLimit === null ? 0 : stepsOf(ends.timeLimit, rate),
    slotsPerPair,
    /** Most zones a thing is touched in besides as a whole. */
    mostZones: Math.max(0, ...formRules.zones.map((bits) => 31 - Math.clz32(bits))),
    /** Phases kept for each placement: one, or one more for each player. */
    phaseSlots: perPlayer ? 1 + playerCount : 1,
    /** Whether anything has to be moved in each step: all but what follows a path and is not solid. */
    movesThings: travellers.how.some(
      (how, index) => how !== codes.TRAVEL.path || valueIn(solidOf, valueIn(travellers.placement, index)) >= 0,
    ),
    hasSolidThings,
    braking: body.braking,
    /** Whether a solid thing may be there for one player and not for another: then nobody glides. */
    solidsApart: mayStandApart(placed, formStart, columns.hasSolid),
    pushesOrCarries: has.carriers || has.push,
    has,
    ...places,
    solids,
    /** Cosine and sine of a whole degree, for directions drawn by chance. */
    directions: Float64Array.from({ length: 720 }, (_, index) => (index % 2 === 0 ? turn(index / 2).cos : turn((index - 1) / 2).sin)),
  };
}
