import { addLives, freeId, lastOrder } from './begin.ts';
import { FIRST_IDS } from '../values/fields.ts';
import { lacking } from '../reading/references.ts';
import { Flourish, Item, type Level } from '../document/schema.ts';

/** What may come with an edit that needs it. */
interface Brought {
  readonly id: string;
  /** What there is none of yet; null where there are others, and one more was asked for. */
  readonly none: string | null;
  /** How it came, said of it. */
  readonly came: string;
  readonly add: (draft: Level) => void;
}

/** Maps of which one more can come with what points to it. */
export type Bringable = keyof typeof FIRST_IDS;

const middle = ({ size }: Level) => ({ x: size.width / 2, y: size.height / 2 });
/** The pitches new flourishes have, in turn: five that go with each other. */
const PITCHES = [440, 495, 550, 660, 740];

const BROUGHT: Readonly<
  Record<
    Bringable,
    {
      readonly what: string;
      readonly where: string;
      readonly add: (draft: Level, id: string, about: { name: string; order: number }) => void;
    }
  >
> = {
  items: {
    what: 'item',
    where: '',
    add: (draft, id, about) => (draft.items[id] = Item.parse({ ...about, most: 9, holdable: true })),
  },
  points: {
    what: 'point',
    where: ', in the middle of the level',
    add: (draft, id, about) => (draft.points[id] = { ...about, ...middle(draft) }),
  },
  paths: {
    what: 'path',
    where: ', through the middle of the level',
    add: (draft, id, about) => {
      const { x, y } = middle(draft);
      const wayPoints = [x - 2, x + 2].map((at) => ({ x: at, y, pause: 0 }));
      draft.paths[id] = { ...about, speed: 2, round: 'back and forth', wayPoints };
    },
  },
  flourishes: {
    what: 'flourish',
    where: '',
    add: (draft, id, about) => (draft.flourishes[id] = Flourish.parse({ ...about, tone: nextTone(draft) })),
  },
};

/** A pitch that no flourish has yet; where all are taken, the first. */
export function nextTone({ flourishes }: Level): number {
  const taken = new Set(Object.values(flourishes).map(({ tone }) => tone));
  return PITCHES.find((pitch) => !taken.has(pitch)) ?? 440;
}

export const isBringable = (map: string): map is Bringable => Object.hasOwn(BROUGHT, map);

/** The id under which one more comes with an edit that points to it. */
export const nextId = (level: Level, map: Bringable): string => freeId(level[map], FIRST_IDS[map]);

/** What an edit of a level lacked by the problem it was refused with, where that can come with the edit. */
export function broughtBy(level: Level, problem: string): Brought | null {
  if (problem === lacking('meter', 'lives') && !Object.hasOwn(level.meters, 'lives')) {
    return { id: 'lives', none: 'no lives', came: 'a meter for them came with it, start 3', add: addLives };
  }
  for (const map of Object.keys(BROUGHT) as Bringable[]) {
    const { what, where, add } = BROUGHT[map];
    const id = nextId(level, map);
    if (problem !== lacking(what, id)) continue;
    const name = id.replaceAll('-', ' ');
    const order = lastOrder(level[map]);
    return {
      id,
      none: order > 1 ? null : `no ${map}`,
      came: `one called “${name}” came with it${where}`,
      add: (draft) => add(draft, id, { name, order }),
    };
  }
  return null;
}
