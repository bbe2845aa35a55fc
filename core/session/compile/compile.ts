import { ALL_FACES, createGrid, turn, type Grid } from '../../geometry/index.ts';
import { byId, inOrder, whoMatches, type Kind, type Level, type Rule } from '../../level/index.ts';
import * as codes from './codes.ts';
import { compileRules, facesOf, numbering, stepsOf, type Names, type PlacedRule } from './compileRules.ts';
import { compileForms, formsOf, idHash, spawnRoom, type Form } from './compileThings.ts';
import { compileMovers } from './kinematics.ts';
import { compileMeetings, compileSchedule, type Still } from './schedule.ts';

export { stepsOf } from './compileRules.ts';

/**
 * A level turned into flat arrays, ready to be stepped. Nothing in it is looked up by name; the id lists lead back to
 * the document. Made by `compile` from a level that `parseLevel` has accepted; never changed afterwards.
 */
export type Compiled = ReturnType<typeof compile>;

/** All notices that rules, meters and goals speak of. */
function noticesOf(level: Level, rules: readonly PlacedRule[]): string[] {
  const words = new Set<string>();
  for (const { rule } of rules) {
    if (typeof rule.setOffBy === 'object' && rule.setOffBy.type === 'notice') words.add(rule.setOffBy.notice);
    for (const one of [...Object.values(rule.provided), ...Object.values(rule.effects)]) if (one.type === 'notice') words.add(one.notice);
  }
  for (const { atLower, atUpper } of Object.values(level.meters)) for (const word of [atLower, atUpper]) if (word !== null) words.add(word);
  for (const goal of Object.values(level.ends.goals)) if (goal.type === 'notice') words.add(goal.notice);
  return [...words].sort();
}

/** The zone of a kind that a rule is tied to. */
function zoneOf(kind: Kind, { touching }: Rule): number {
  if (touching === null) return codes.WHOLE;
  const at = byId(kind.shapes).findIndex(([id]) => id === touching);
  return at < 0 ? codes.NOWHERE : at + 1;
}

/** Rules of each form, then of each item, in order. */
function placedRules(level: Level, forms: readonly Form[]) {
  const lists: PlacedRule[][] = forms.map(({ kindId, kind }) =>
    inOrder(kind.rules).map(([id, rule]) => ({ kind: kindId, item: null, id, rule, zone: zoneOf(kind, rule) })),
  );
  const items = inOrder(level.items).map(([item, { rules }]) =>
    inOrder(rules).map(([id, rule]) => ({ kind: null, item, id, rule, zone: codes.WHOLE })),
  );
  const starts = new Int32Array(forms.length + items.length + 1);
  [...lists, ...items].forEach((list, index) => (starts[index + 1] = (starts[index] as number) + list.length));
  return { rules: [...lists, ...items].flat(), formStart: starts.slice(0, forms.length + 1), itemStart: starts.slice(forms.length) };
}

/** For each rule, whether each class of toucher may set it off: players one by one, then kinds. */
function compileWho(rules: readonly PlacedRule[], kinds: readonly Form[], playerTags: readonly (readonly string[])[]): Uint8Array {
  const classCount = playerTags.length + kinds.length;
  const accepts = new Uint8Array(rules.length * classCount);
  const tags = [...playerTags, ...kinds.map(({ kind }) => kind.tags)];
  rules.forEach(({ rule }, index) => {
    tags.forEach((own, at) => (accepts[index * classCount + at] = !('who' in rule) || whoMatches(rule.who, own) ? 1 : 0));
  });
  return accepts;
}

interface Box {
  readonly x: number;
  readonly y: number;
  readonly width: number;
  readonly height: number;
  readonly faces: number;
  readonly owner: number;
}

/** Walls, a wall beyond each edge of the level, and boxes of solid things: those that stay, then those that move. */
function compileSolids(level: Level, things: readonly (Box & { readonly moves: boolean })[]) {
  const { width, height } = level.size;
  const far = 1000;
  const edge = { faces: ALL_FACES, owner: -1 };
  const edges: Box[] = [
    { x: -far, y: -far, width: far, height: height + 2 * far, ...edge },
    { x: width, y: -far, width: far, height: height + 2 * far, ...edge },
    { x: 0, y: -far, width, height: far, ...edge },
    { x: 0, y: height, width, height: far, ...edge },
  ];
  const walls = inOrder(level.solids).map(([, solid]): Box => ({ ...solid, faces: facesOf(solid.sides), owner: -1 }));
  const inGrid: Box[] = [...walls, ...things.filter(({ moves }) => !moves)];
  const boxes = [...inGrid, ...edges, ...things.filter(({ moves }) => moves)];
  return {
    x: Float64Array.from(boxes, (box) => box.x + box.width / 2),
    y: Float64Array.from(boxes, (box) => box.y + box.height / 2),
    halfWidth: Float64Array.from(boxes, (box) => box.width / 2),
    halfHeight: Float64Array.from(boxes, (box) => box.height / 2),
    faces: Uint8Array.from(boxes, ({ faces }) => faces),
    owner: Int32Array.from(boxes, ({ owner }) => owner),
    inGrid: inGrid.length,
    firstMoving: inGrid.length + edges.length,
    grid: createGrid(Float64Array.from(inGrid.flatMap((box) => [box.x, box.y, box.x + box.width, box.y + box.height]))),
  };
}

function compileGoals(level: Level, names: Names) {
  return inOrder(level.ends.goals).map(([id, goal]) => {
    const point = goal.type === 'reach' ? level.points[goal.point] : undefined;
    const subject =
      goal.type === 'item'
        ? names.items.of(goal.item)
        : goal.type === 'meter'
          ? names.meters.of(goal.meter)
          : goal.type === 'notice'
            ? names.notices.of(goal.notice)
            : -1;
    const value = goal.type === 'reach' ? goal.within : goal.type === 'item' ? goal.count : goal.type === 'meter' ? goal.value : 1;
    return { id, type: codes.GOAL[goal.type], subject, value, x: point?.x ?? 0, y: point?.y ?? 0 };
  });
}

function compileMeters(level: Level, names: Names, rate: number) {
  const list = inOrder(level.meters).map(([, meter]) => meter);
  return {
    health: names.meters.of('health'),
    score: names.meters.of('score'),
    lives: names.meters.of('lives'),
    lower: Float64Array.from(list, (meter) => meter.lower),
    upper: Float64Array.from(list, (meter) => meter.upper ?? Infinity),
    start: Float64Array.from(list, (meter) => meter.start),
    whole: Uint8Array.from(list, (meter) => (meter.whole ? 1 : 0)),
    regeneration: Float64Array.from(list, (meter) => meter.regeneration?.perSecond ?? 0),
    pauseSteps: Int32Array.from(list, (meter) => stepsOf(meter.regeneration?.pauseAfterLoss ?? 0, rate)),
    atLower: Int32Array.from(list, (meter) => names.notices.of(meter.atLower)),
    atUpper: Int32Array.from(list, (meter) => names.notices.of(meter.atUpper)),
    regenerates: list.some((meter) => (meter.regeneration?.perSecond ?? 0) > 0),
  };
}

/** Shapes of a form by number. */
function shapesOf(shapeStart: Int32Array, form: number): number[] {
  const from = shapeStart[form] as number;
  return Array.from({ length: (shapeStart[form + 1] as number) - from }, (_, index) => from + index);
}

/**
 * Compiles a level for stepping. `rate` overrides the level's own steps per second.
 * The level must be one that `parseLevel` accepted: ids are not checked again.
 */
export function compile(level: Level, rate = level.rate) {
  const { forms, kindCount, formOf, placements } = formsOf(level);
  const playerCount = level.players.count;
  const { rules: placed, formStart, itemStart } = placedRules(level, forms);
  const items = inOrder(level.items);
  const names: Names = {
    meters: numbering(inOrder(level.meters).map(([id]) => id)),
    items: numbering(items.map(([id]) => id)),
    kinds: numbering(forms.slice(0, kindCount).map(({ kindId }) => kindId)),
    points: numbering(inOrder(level.points).map(([id]) => id)),
    notices: numbering(noticesOf(level, placed)),
    flourishes: numbering(inOrder(level.flourishes).map(([id]) => id)),
  };
  const points = inOrder(level.points).map(([, point]) => point);
  const side = level.view === 'side';
  const { body } = level;
  const bodyShape = side
    ? ({ type: 'box', width: body.width, height: body.height, rotation: 0, x: 0, y: 0 } as const)
    : ({ type: 'circle', radius: body.radius, x: 0, y: 0 } as const);
  const { shapes, columns, magnets } = compileForms(forms, names.kinds.of, bodyShape, names.flourishes.of, rate);
  const compiledRules = compileRules(placed, level, names, rate);
  const playerTags = Array.from({ length: playerCount }, (_, player) => [...body.tags, ...(level.players.tags[player] ?? [])]);

  // Things of the document first, then room for things that are spawned.
  const room = spawnRoom(level);
  const count = placements.length + room;
  const slots = Array.from({ length: room }, (_, index) => index);
  const at = (index: number) => placements[index]?.[1];
  const travels: { placement: number; how: number; path: number }[] = [];
  const pathPlacements: number[] = [];
  for (let index = 0; index < count; index += 1) {
    const form = formOf[index];
    if (form === undefined) travels.push({ placement: index, how: codes.TRAVEL.drift, path: -1 });
    else if (at(index)?.travel != null) travels.push({ placement: index, how: codes.TRAVEL.path, path: pathPlacements.push(index) - 1 });
    else if ((columns.driftSpeed[form] as number) >= 0) travels.push({ placement: index, how: codes.TRAVEL.drift, path: -1 });
    else if (columns.roves[form] === 1 || columns.turns[form] === 1) {
      travels.push({ placement: index, how: codes.TRAVEL.roving, path: -1 });
    }
  }
  const traveller = new Int32Array(count).fill(-1);
  travels.forEach(({ placement }, index) => (traveller[placement] = index));
  const movers = compileMovers(
    level,
    placements.map(([, placement]) => placement),
    pathPlacements,
  );

  const stills = placements.flatMap(([, { x, y }], placement): Still[] => {
    const form = formOf[placement] as number;
    if ((traveller[placement] as number) >= 0) return [];
    return [{ placement, x, y, shapes: shapesOf(columns.shapeStart, form), grow: columns.grow[form] as number }];
  });
  const gridOf = (list: readonly Still[]): Grid =>
    createGrid(
      Float64Array.from(
        list.flatMap(({ placement, x, y }) => {
          const around = columns.reach[formOf[placement] as number] as number;
          return [x - around, y - around, x + around, y + around];
        }),
      ),
    );
  const stillGrid = gridOf(stills);
  // Movers take no notice of things without rules.
  const sensing = stills.filter(({ placement }) => columns.senses[formOf[placement] as number] === 1);
  const schedule = compileSchedule(
    movers,
    pathPlacements.map((placement) => columns.reach[formOf[placement] as number] as number),
    pathPlacements.map((placement) => shapesOf(columns.shapeStart, formOf[placement] as number)),
    shapes,
    gridOf(sensing),
    sensing,
  );

  const boxOf = (placement: number, form: number, x: number, y: number, moves: boolean) => {
    const [halfWidth, halfHeight] = [columns.solidHalfWidth[form] as number, columns.solidHalfHeight[form] as number];
    const left = x + (columns.solidX[form] as number) - halfWidth;
    const lower = y + (columns.solidY[form] as number) - halfHeight;
    const faces = columns.solidFaces[form] as number;
    return { x: left, y: lower, width: 2 * halfWidth, height: 2 * halfHeight, faces, owner: placement, moves };
  };
  const solidThings = placements.flatMap(([, { x, y }], placement) => {
    const form = formOf[placement] as number;
    return columns.hasSolid[form] === 1 ? [boxOf(placement, form, x, y, (traveller[placement] as number) >= 0)] : [];
  });
  // Room for spawned things takes boxes only where something that can be spawned has one.
  const spawnable = new Set([...compiledRules.pools.kind, ...items.map(([, { dropsAs }]) => names.kinds.of(dropsAs))]);
  const solidSlots = [...spawnable].some((form) => columns.hasSolid[form] === 1) ? slots.map((slot) => placements.length + slot) : [];
  const nowhere = { x: -5000, y: -5000, width: 1, height: 1, faces: ALL_FACES, moves: true };
  const solids = compileSolids(level, [...solidThings, ...solidSlots.map((owner) => ({ ...nowhere, owner }))]);
  const solidOf = new Int32Array(count).fill(-1);
  solids.owner.forEach((owner, item) => {
    if (owner >= 0) solidOf[owner] = item;
  });

  const ruleStart = formStart;
  const mostRules = Math.max(0, ...forms.map((_, form) => (ruleStart[form + 1] as number) - (ruleStart[form] as number)));
  const ruleSlot = new Int32Array(count + 1);
  const drawSlot = new Int32Array(count + 1);
  for (let index = 0; index < count; index += 1) {
    const form = formOf[index];
    const own = form === undefined ? mostRules : (ruleStart[form + 1] as number) - (ruleStart[form] as number);
    ruleSlot[index + 1] = (ruleSlot[index] as number) + own;
    drawSlot[index + 1] = (drawSlot[index] as number) + (form === undefined || columns.draws[form] === 1 ? own : 0);
  }
  const perPlayer = placed.some(({ rule }) => 'scope' in rule && rule.scope === 'player');

  // Inside rules keep their spans in slots of the contact: one for each effect, at least one.
  const { rules } = compiledRules;
  const slot = new Int32Array(placed.length);
  let slotsPerPair = 0;
  const formHas = (set: number): Uint8Array =>
    Uint8Array.from(forms, (_, form) => {
      for (let rule = ruleStart[form] as number; rule < (ruleStart[form + 1] as number); rule += 1)
        if (rules.setOffBy[rule] === set) return 1;
      return 0;
    });
  forms.forEach((_, form) => {
    let next = 0;
    for (let rule = ruleStart[form] as number; rule < (ruleStart[form + 1] as number); rule += 1) {
      slot[rule] = next;
      if (rules.setOffBy[rule] === codes.SET_OFF_BY.inside || rules.keepTrying[rule] === 1) {
        next += Math.max(1, (rules.effectStart[rule + 1] as number) - (rules.effectStart[rule] as number));
      }
    }
    slotsPerPair = Math.max(slotsPerPair, next);
  });

  const takenNames = new Set(placements.map(([id]) => id));
  const spawnIds = slots.map((index) => {
    let id = `spawned-${String(index + 1)}`;
    while (takenNames.has(id)) id += '-x';
    return id;
  });
  const anyRule = (test: (rule: Rule) => boolean): boolean => placed.some(({ rule }) => 'who' in rule && test(rule));
  /** Zones of each form that rules are tied to, as bits. */
  const zones = Int32Array.from(forms, (_, form) => {
    let bits = 0;
    for (let rule = ruleStart[form] as number; rule < (ruleStart[form + 1] as number); rule += 1) {
      const zone = rules.zone[rule] as number;
      if (zone !== codes.WHOLE && zone !== codes.NOWHERE) bits |= 1 << zone;
    }
    return bits;
  });
  const itemRuleCount = placed.length - (ruleStart[forms.length] as number);
  const phaseOf = { ready: codes.PHASE.ready, resting: codes.PHASE.resting, off: codes.PHASE.off };

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
    toucherCount: playerCount + travels.length,
    /** Body of the player: shape 0, and as something that slides. */
    hull: side
      ? { halfWidth: body.width / 2, halfHeight: body.height / 2, radius: 0 }
      : { halfWidth: 0, halfHeight: 0, radius: body.radius },
    bodyReach: shapes.reach[0] as number,
    ids: {
      meters: names.meters.ids,
      items: names.items.ids,
      kinds: names.kinds.ids,
      placements: [...placements.map(([id]) => id), ...spawnIds],
      points: names.points.ids,
      notices: names.notices.ids,
      flourishes: names.flourishes.ids,
      rules: placed.map(({ kind, item, id }) => ({ kind, item, rule: id })),
      ...compiledRules.ids,
    },
    meters: compileMeters(level, names, rate),
    /** Where the meters of each player stand; a shared score is the first player's. */
    meterCell: Int32Array.from({ length: playerCount * names.meters.ids.length }, (_, cell) => {
      const meter = cell % names.meters.ids.length;
      return level.players.sharedScore && meter === names.meters.of('score') ? meter : cell;
    }),
    items: {
      start: Int32Array.from(items, ([, item]) => item.start),
      most: Float64Array.from(items, ([, item]) => item.most ?? Infinity),
      holdable: Uint8Array.from(items, ([, item]) => (item.holdable ? 1 : 0)),
      dropsAs: Int32Array.from(items, ([, item]) => names.kinds.of(item.dropsAs)),
      ruleStart: itemStart,
    },
    placements: {
      form: Int32Array.from({ length: count }, (_, index) => formOf[index] ?? -1),
      x: Float64Array.from({ length: count }, (_, index) => at(index)?.x ?? 0),
      y: Float64Array.from({ length: count }, (_, index) => at(index)?.y ?? 0),
      hash: Int32Array.from([...placements.map(([id]) => id), ...spawnIds], idHash),
      startPhase: Uint8Array.from({ length: count }, (_, index) => phaseOf[at(index)?.starts.type ?? 'ready']),
      startSteps: Int32Array.from({ length: count }, (_, index) => {
        const starts = at(index)?.starts;
        return starts?.type === 'resting' ? stepsOf(starts.seconds, rate) : 0;
      }),
      /** Index among the travellers, or −1. */
      traveller,
      /** Its box among the solids, or −1. */
      solid: solidOf,
      ruleSlot,
      drawSlot,
    },
    travellers: {
      count: travels.length,
      placement: Int32Array.from(travels, ({ placement }) => placement),
      how: Uint8Array.from(travels, ({ how }) => how),
      /** Index among the movers along paths, or −1. */
      path: Int32Array.from(travels, ({ path }) => path),
    },
    forms: {
      ...columns,
      ruleStart,
      zones,
      arriving: formHas(codes.SET_OFF_BY.arriving),
      inside: formHas(codes.SET_OFF_BY.inside),
      leaving: formHas(codes.SET_OFF_BY.leaving),
      /** Whether a failed arrival is tried again. */
      tries: Uint8Array.from(forms, ({ kind }) => (Object.values(kind.rules).some(({ keepTrying }) => keepTrying) ? 1 : 0)),
      /** Whether a player takes notice of it. */
      accepted: Uint8Array.from(forms, ({ kind }) =>
        body.accepts.length === 0 || whoMatches({ any: body.accepts, none: [] }, kind.tags) ? 1 : 0,
      ),
    },
    magnets,
    /** Fastest of all that travels by itself. Units a second. */
    fastest: Math.max(0, ...movers.speed, ...columns.driftSpeed),
    shapes,
    rules: {
      ...rules,
      slot,
      /** Per rule × class of toucher. */
      accepts: compileWho(placed, forms.slice(0, kindCount), playerTags),
      hash: Int32Array.from(placed, ({ kind, item, id }) => idHash(`${kind ?? item ?? ''}/${id}`)),
    },
    classCount: playerCount + kindCount,
    firstItemRule: ruleStart[forms.length] as number,
    itemRuleCount,
    conditions: compiledRules.conditions,
    effects: compiledRules.effects,
    keyCount: compiledRules.keyCount,
    kindRuleCount: compiledRules.kindRuleCount,
    curves: compiledRules.curves,
    destinations: compiledRules.destinations,
    pools: compiledRules.pools,
    points: { x: Float64Array.from(points, ({ x }) => x), y: Float64Array.from(points, ({ y }) => y) },
    starts: Array.from({ length: playerCount }, (_, player) => {
      const point = level.points[level.players.starts[player] ?? ''];
      return point ?? level.start;
    }),
    death: {
      returns: ['never', 'while lives last', 'always'].indexOf(level.death.returns),
      pauseSteps: Math.max(1, stepsOf(level.death.pause, rate)),
      destination: compiledRules.returnTo,
      dropHeight: level.death.dropHeight,
      health: level.death.health ?? level.meters['health']?.start ?? 0,
      graceSteps: stepsOf(level.death.grace, rate),
      lockSteps: stepsOf(level.death.lock, rate),
      items: codes.SHARE_KEPT[level.death.items],
      score: codes.SHARE_KEPT[level.death.score],
      resets: Uint8Array.from(names.kinds.ids, (id) => (level.death.resets.includes(id) ? 1 : 0)),
      squeezed: codes.SQUEEZED[level.death.squeezed],
    },
    goals: compileGoals(level, names),
    /** Whether any step may end the session: a goal or a time limit is watched for. */
    mayEnd: level.ends.timeLimit !== null || Object.keys(level.ends.goals).length > 0,
    timeLimitSteps: level.ends.timeLimit === null ? 0 : stepsOf(level.ends.timeLimit, rate),
    slotsPerPair,
    /** Most zones a thing is touched in besides as a whole. */
    mostZones: Math.max(0, ...zones.map((bits) => 31 - Math.clz32(bits))),
    /** Phases kept for each placement: one, or one more for each player. */
    phaseSlots: perPlayer ? 1 + playerCount : 1,
    /** Whether anything has to be moved in each step: all but what follows a path and is not solid. */
    movesThings: travels.some(({ how, placement }) => how !== codes.TRAVEL.path || (solidOf[placement] as number) >= 0),
    hasSolidThings: solids.owner.some((owner) => owner >= 0),
    braking: body.braking,
    /** Whether players may glide: seen from above, with no solid that moves, or that is there for one and not for another. */
    canGlide: !side && solids.firstMoving === solids.x.length && !(perPlayer && solids.owner.some((owner) => owner >= 0)),
    pushesOrCarries:
      forms.some(({ kind }) => kind.carries) || anyRule(({ effects }) => Object.values(effects).some(({ type }) => type === 'push')),
    has: {
      push: anyRule(({ effects }) => Object.values(effects).some(({ type }) => type === 'push')),
      use: anyRule(({ setOffBy }) => setOffBy.type === 'use'),
      every: anyRule(({ setOffBy }) => setOffBy.type === 'every'),
      magnets: forms.some(({ kind }) => kind.magnet !== null),
      carriers: forms.some(({ kind }) => kind.carries),
      cycles: forms.some(({ kind }) => kind.cycle !== null),
      items: items.length > 0,
    },
    movers,
    solids,
    stillGrid,
    stillPlacement: Int32Array.from(stills, ({ placement }) => placement),
    schedule,
    meetings: compileMeetings(
      movers,
      playerCount,
      travels.map(({ path }) => path),
      travels.map(({ placement }) => {
        const form = formOf[placement];
        // A turning thing may reach further than its shapes.
        return form === undefined || columns.turns[form] === 1 ? 2000 : (columns.reach[form] as number);
      }),
    ),
    /** Cosine and sine of a whole degree, for directions drawn by chance. */
    directions: Float64Array.from({ length: 720 }, (_, index) => (index % 2 === 0 ? turn(index / 2).cos : turn((index - 1) / 2).sin)),
  };
}
