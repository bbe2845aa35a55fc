import { addLives } from './begin.ts';
import { FIRST_IDS } from './fields.ts';
import { lacking } from './references.ts';
import { Flourish, Item, type Level } from './schema.ts';

/** What may come with an edit that needs it: where it goes, what it is called, and what there are none of yet. */
interface Brought {
  readonly id: string;
  readonly none: string;
  /** How it came, said of it. */
  readonly came: string;
  readonly add: (draft: Level) => void;
}

const middle = ({ size }: Level) => ({ x: size.width / 2, y: size.height / 2 });
const BROUGHT: Readonly<Record<string, Brought & { readonly map: keyof Level }>> = {
  meter: { map: 'meters', id: 'lives', none: 'no lives', came: 'a meter for them came with it, start 3', add: addLives },
  item: {
    map: 'items',
    id: FIRST_IDS.items,
    none: 'no items',
    came: 'one called “item” came with it',
    add: (draft) => (draft.items[FIRST_IDS.items] = Item.parse({ name: 'item', order: 1, most: 9, holdable: true })),
  },
  point: {
    map: 'points',
    id: FIRST_IDS.points,
    none: 'no points',
    came: 'one called “point” came with it, in the middle of the level',
    add: (draft) => (draft.points[FIRST_IDS.points] = { name: 'point', order: 1, ...middle(draft) }),
  },
  path: {
    map: 'paths',
    id: FIRST_IDS.paths,
    none: 'no paths',
    came: 'one called “path” came with it, through the middle of the level',
    add: (draft) => {
      const { x, y } = middle(draft);
      const wayPoints = [x - 2, x + 2].map((at) => ({ x: at, y, pause: 0 }));
      draft.paths[FIRST_IDS.paths] = { name: 'path', order: 1, speed: 2, round: 'back and forth', wayPoints };
    },
  },
  flourish: {
    map: 'flourishes',
    id: FIRST_IDS.flourishes,
    none: 'no flourishes',
    came: 'one called “flourish” came with it',
    add: (draft) => (draft.flourishes[FIRST_IDS.flourishes] = Flourish.parse({ name: 'flourish', order: 1 })),
  },
};

/** What an edit of a level lacked by the problem it was refused with, where the level has none of that and one can come with the edit. */
export function broughtBy(level: Level, problem: string): Brought | null {
  const [what, brought] = Object.entries(BROUGHT).find(([sort, { id }]) => lacking(sort, id) === problem) ?? [];
  if (brought === undefined) return null;
  const there = Object.keys(level[brought.map] as object);
  return (what === 'meter' ? there.includes(brought.id) : there.length > 0) ? null : brought;
}
