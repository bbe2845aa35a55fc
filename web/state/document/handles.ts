import {
  extentOf,
  kindOfPlacement,
  keptAt,
  pointer,
  rulePath,
  type Kind,
  type Level,
  type Owner,
  type Shape,
  rounded,
  onGrain,
} from '@dial/core/level';
import { writeTo } from './changes.ts';
import type { Recipe } from './edits.ts';
import type { Selection } from '../slices/view.ts';
import type { PlanSpot } from './spots.ts';

/** What a handle says of itself on the Plan: a ring about a place, a line to it, or nothing. */
type Guide =
  { readonly type: 'ring'; readonly centre: PlanSpot; readonly radius: number } | { readonly type: 'line'; readonly from: PlanSpot };

interface Value {
  readonly paths: readonly string[];
  readonly value: unknown;
}

/** Something spatial that can be dragged on the Plan. */
export interface Handle {
  readonly id: string;
  /** What it changes, in words. */
  readonly name: string;
  readonly at: PlanSpot;
  readonly guide: Guide | null;
  /** The values it asks for when it is dragged to a place; `finely` without rounding to the grain. */
  readonly dragged: (to: PlanSpot, finely: boolean) => readonly Value[];
}

const LENGTH_GRAIN = 0.05;
const ANGLE_GRAIN = 5;
const LEAST = 0.05;

const length = (value: number, finely: boolean): number => Math.max(LEAST, onGrain(value, finely ? 0.01 : LENGTH_GRAIN));
const degrees = (radians: number, finely: boolean): number => onGrain((radians * 180) / Math.PI, finely ? 1 : ANGLE_GRAIN);
const plus = (a: PlanSpot, b: PlanSpot): PlanSpot => ({ x: a.x + b.x, y: a.y + b.y });
const distance = (a: PlanSpot, b: PlanSpot): number => Math.hypot(a.x - b.x, a.y - b.y);

/** A way turned by degrees, anticlockwise. */
function turned({ x, y }: PlanSpot, by: number): PlanSpot {
  const [sin, cos] = [Math.sin((by * Math.PI) / 180), Math.cos((by * Math.PI) / 180)];
  return { x: x * cos - y * sin, y: x * sin + y * cos };
}

/** Writes what a dragged handle asks for. */
export function handleRecipe(handle: Handle, to: PlanSpot, finely: boolean): Recipe {
  const values = handle.dragged(to, finely);
  return (draft) => {
    for (const { paths, value } of values) for (const path of paths) writeTo(draft, path, value);
  };
}

/** Dragging one face or corner of a solid leaves the opposite one where it is. */
function solidHandles(level: Level, id: string): Handle[] {
  const solid = level.solids[id];
  if (solid === undefined) return [];
  const { x, y, width, height } = solid;
  const at = (field: string): string => pointer(['solids', id, field]);
  return [-1, 0, 1].flatMap((h) =>
    [-1, 0, 1].flatMap((v): Handle[] => {
      if (h === 0 && v === 0) return [];
      const place = { x: x + ((h + 1) / 2) * width, y: y + ((v + 1) / 2) * height };
      const along = (side: number, from: number, size: number, to: number, finely: boolean): readonly [number, number] => {
        const grain = finely ? 0.01 : 0.25;
        const edge = onGrain(to, grain);
        if (side > 0) return [from, Math.max(LEAST, rounded(edge - from))];
        const far = from + size;
        const near = Math.min(edge, far - LEAST);
        return [rounded(near), rounded(far - near)];
      };
      return [
        {
          id: `solid ${String(h)} ${String(v)}`,
          name: 'size of the solid',
          at: place,
          guide: null,
          dragged: (to, finely) => {
            const [left, wide] = h === 0 ? [x, width] : along(h, x, width, to.x, finely);
            const [low, high] = v === 0 ? [y, height] : along(v, y, height, to.y, finely);
            return [
              { paths: [at('x')], value: left },
              { paths: [at('y')], value: low },
              { paths: [at('width')], value: wide },
              { paths: [at('height')], value: high },
            ];
          },
        },
      ];
    }),
  );
}

type PlacesOf = (within: string) => readonly string[];

/** The sides of a box about a centre, turned with it: half a side is dragged, the whole changes. */
function boxHandles(
  id: string,
  centre: PlanSpot,
  box: { width: number; height: number; rotation?: number },
  placesOf: PlacesOf,
  at: string,
): Handle[] {
  const { width, height, rotation = 0 } = box;
  const half = (to: PlanSpot): PlanSpot => turned({ x: to.x - centre.x, y: to.y - centre.y }, -rotation);
  return [
    {
      id: `${id} width`,
      name: 'width',
      at: plus(centre, turned({ x: width / 2, y: 0 }, rotation)),
      guide: null,
      dragged: (to, finely) => [{ paths: placesOf(`${at}/width`), value: length(2 * Math.abs(half(to).x), finely) }],
    },
    {
      id: `${id} height`,
      name: 'height',
      at: plus(centre, turned({ x: 0, y: height / 2 }, rotation)),
      guide: null,
      dragged: (to, finely) => [{ paths: placesOf(`${at}/height`), value: length(2 * Math.abs(half(to).y), finely) }],
    },
  ];
}

/** How far beyond a shape the handle that turns it stands. Units. */
const TURN_REACH = 0.6;

function turnHandle(id: string, centre: PlanSpot, reach: number, rotation: number, placesOf: PlacesOf, at: string): Handle {
  // It stands at an angle to the handles of the sides, so that all can be got hold of.
  const lead = 45;
  return {
    id: `${id} rotation`,
    name: 'rotation',
    at: plus(centre, turned({ x: reach + TURN_REACH, y: 0 }, rotation + lead)),
    guide: { type: 'line', from: centre },
    dragged: (to, finely) => {
      const angle = degrees(Math.atan2(to.y - centre.y, to.x - centre.x), finely) - lead;
      return [{ paths: placesOf(`${at}/rotation`), value: angle <= -180 ? angle + 360 : angle }];
    },
  };
}

function shapeHandles(id: string, shape: Shape, place: PlanSpot, several: boolean, placesOf: PlacesOf): Handle[] {
  const at = `/shapes/${id}`;
  const centre = plus(place, shape);
  const shift: Handle = {
    id: `${id} offset`,
    name: `place of the shape`,
    at: centre,
    guide: { type: 'line', from: place },
    dragged: (to, finely) => [
      { paths: placesOf(`${at}/x`), value: onGrain(to.x - place.x, finely ? 0.01 : LENGTH_GRAIN) },
      { paths: placesOf(`${at}/y`), value: onGrain(to.y - place.y, finely ? 0.01 : LENGTH_GRAIN) },
    ],
  };
  const apart = several || shape.x !== 0 || shape.y !== 0 ? [shift] : [];
  switch (shape.type) {
    case 'circle':
      return [
        ...apart,
        {
          id: `${id} radius`,
          name: 'radius',
          at: plus(centre, { x: shape.radius, y: 0 }),
          guide: null,
          dragged: (to, finely) => [{ paths: placesOf(`${at}/radius`), value: length(distance(to, centre), finely) }],
        },
      ];
    case 'box': {
      const reach = Math.hypot(shape.width, shape.height) / 2;
      return [...apart, ...boxHandles(id, centre, shape, placesOf, at), turnHandle(id, centre, reach, shape.rotation, placesOf, at)];
    }
    case 'polygon': {
      const corners = shape.points.map(([x, y], index): Handle => ({
        id: `${id} corner ${String(index)}`,
        name: 'corner',
        at: plus(centre, turned({ x, y }, shape.rotation)),
        guide: null,
        dragged: (to, finely) => {
          const way = turned({ x: to.x - centre.x, y: to.y - centre.y }, -shape.rotation);
          const grain = finely ? 0.01 : LENGTH_GRAIN;
          const moved = [onGrain(way.x, grain), onGrain(way.y, grain)];
          return [{ paths: placesOf(`${at}/points`), value: shape.points.map((point, other) => (other === index ? moved : [...point])) }];
        },
      }));
      return [...apart, ...corners, turnHandle(id, centre, extentOf(shape).most, shape.rotation, placesOf, at)];
    }
  }
}

/** A distance about a thing: dragged at a ring around it. */
function ringHandle(name: string, centre: PlanSpot, radius: number, angle: number, paths: readonly string[]): Handle {
  return {
    id: name,
    name,
    at: plus(centre, turned({ x: radius, y: 0 }, angle)),
    guide: { type: 'ring', centre, radius },
    dragged: (to, finely) => [{ paths, value: length(distance(to, centre), finely) }],
  };
}

/** How far beyond a thing's shapes the handle of a direction stands. Units. */
const ARROW = 1;

/** How far from its place the shapes of a kind go, at most. */
function reachOf(kind: Kind): number {
  const reaches = Object.values(kind.shapes).map((shape) => extentOf(shape).most + Math.hypot(shape.x, shape.y));
  return Math.max(0, ...reaches);
}

function directionHandle(id: string, name: string, centre: PlanSpot, angle: number, reach: number, paths: readonly string[]): Handle {
  return {
    id,
    name,
    at: plus(centre, turned({ x: reach + ARROW, y: 0 }, angle)),
    guide: { type: 'line', from: centre },
    dragged: (to, finely) => [{ paths, value: degrees(Math.atan2(to.y - centre.y, to.x - centre.x), finely) }],
  };
}

/** What of the rules is spatial: how far a use reaches, where a launch or a push goes, the pivot of a wind-up. */
function ruleHandles(kindId: string, kind: Kind, place: PlanSpot, placesOf: (path: string) => readonly string[]): Handle[] {
  return Object.entries(kind.rules).flatMap(([id, rule]) => {
    const at = pointer(rulePath(kindId, id));
    const turn = rule.windUp?.turn ?? null;
    return [
      ...(rule.setOffBy.type === 'use'
        ? [ringHandle('use within', place, rule.setOffBy.reach, 225, placesOf(`${at}/setOffBy/reach`))]
        : []),
      ...Object.entries(rule.effects).flatMap(([effectId, effect]): Handle[] => {
        const of = `${at}/effects/${effectId}`;
        if (effect.type === 'push')
          return [directionHandle(of, 'direction of the push', place, effect.degrees, reachOf(kind), placesOf(`${of}/degrees`))];
        if (effect.type !== 'launch' || effect.direction.type !== 'fixed') return [];
        return [
          directionHandle(
            of,
            'direction of the launch',
            place,
            effect.direction.degrees,
            reachOf(kind),
            placesOf(`${of}/direction/degrees`),
          ),
        ];
      }),
      ...(turn === null
        ? []
        : [
            {
              id: `${id} pivot`,
              name: 'pivot',
              at: plus(place, turn),
              guide: { type: 'line' as const, from: place },
              dragged: (to: PlanSpot, finely: boolean): Value[] => [
                { paths: placesOf(`${at}/windUp/turn/x`), value: onGrain(to.x - place.x, finely ? 0.01 : LENGTH_GRAIN) },
                { paths: placesOf(`${at}/windUp/turn/y`), value: onGrain(to.y - place.y, finely ? 0.01 : LENGTH_GRAIN) },
              ],
            },
          ]),
    ];
  });
}

/**
 * The handles of what is chosen, when it is one solid or one thing. `place` is where the thing is drawn; with `only` they
 * change its own values, else its kind's.
 */
export function handlesOf(level: Level, { placements, solid }: Selection, place: PlanSpot | null, only: boolean): Handle[] {
  if (solid !== null) return solidHandles(level, solid);
  const [id] = placements;
  const placement = id === undefined ? undefined : level.placements[id];
  const kind = id === undefined ? undefined : kindOfPlacement(level, id);
  if (placements.length !== 1 || id === undefined || placement === undefined || kind === undefined || place === null) return [];
  const owner: Owner = { kind: placement.kind, placements: only ? [id] : [] };
  const base = pointer(['kinds', placement.kind]);
  const placesOf: PlacesOf = (within) => keptAt(level, owner, base + within);
  const shapes = Object.entries(kind.shapes);
  const { magnet, drift, solid: box } = kind;
  return [
    ...shapes.flatMap(([shapeId, shape]) => shapeHandles(shapeId, shape, place, shapes.length > 1, placesOf)),
    ...(box === null ? [] : boxHandles('solid box', plus(place, box), box, placesOf, '/solid')),
    ...(magnet === null
      ? []
      : [
          ringHandle('drawn from', place, magnet.reach, 135, placesOf('/magnet/reach')),
          ringHandle('gives up at', place, magnet.giveUp, 120, placesOf('/magnet/giveUp')),
        ]),
    ...(drift?.degrees == null
      ? []
      : [directionHandle('drift', 'direction of the drift', place, drift.degrees, reachOf(kind), placesOf('/drift/degrees'))]),
    ...ruleHandles(placement.kind, kind, place, (path) => keptAt(level, owner, path)),
  ];
}
