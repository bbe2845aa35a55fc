import type { Box } from '../../geometry/index.ts';
import type { Rule } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { reachFromStart } from '../reach/reach.ts';
import { keptIn, takesPlayer, type Thing } from '../view.ts';
import { grownBy, hullOf } from '../where.ts';

type Side = Rule['side'][number];

/** A contact at 45° to the axis is the last that counts for a side of a circle. */
const SLANT = 0.7;

/** Where the middle of a body is that touches a side of a thing; null: that cannot be told of its shapes. */
function boxAt({ form: { kind }, box }: Thing, side: Side, hull: { readonly x: number; readonly y: number }): Box | null {
  const [shape, another] = Object.values(kind.shapes);
  if (box === null || shape === undefined || another !== undefined || kind.solid !== null) return null;
  if (shape.type === 'polygon' || (shape.type === 'box' && shape.rotation !== 0)) return null;
  const around = grownBy(box, hull.x, hull.y);
  const [middleX, middleY] = [(box.left + box.right) / 2, (box.bottom + box.top) / 2];
  const share = shape.type === 'circle' ? SLANT : 1;
  const [halfX, halfY] = [(share * (box.right - box.left)) / 2, (share * (box.top - box.bottom)) / 2];
  switch (side) {
    case 'top':
      return { ...around, bottom: middleY + halfY };
    case 'bottom':
      return { ...around, top: middleY - halfY };
    case 'left':
      return { ...around, right: middleX - halfX };
    case 'right':
      return { ...around, left: middleX + halfX };
  }
}

export const sideShutOff: Mistake = {
  code: 'side-shut-off',
  title: 'a rule for a side that nobody comes to',
  severity: 'breaks it',
  find: (view) => {
    const reach = reachFromStart(view);
    if (reach === null) return [];
    const hull = hullOf(view.level);
    return view.rules.flatMap((rule): Found[] => {
      const { side, setOffBy } = rule.rule;
      if (side.length === 0 || side.length === 4 || setOffBy.type !== 'arriving' || !takesPlayer(view, rule.rule)) return [];
      const shut = view.things.filter((thing) => {
        if (thing.form !== rule.form || thing.moves) return false;
        // One that nobody comes to at all is told of as that.
        if (!reach.setsOff(thing)) return false;
        return side.every((one) => {
          const box = boxAt(thing, one, hull);
          return box !== null && !reach.comesInto(box);
        });
      });
      if (shut.length === 0) return [];
      return [
        {
          subject: `${rule.form.kindId}/${shut[0]?.id ?? ''}/${rule.ruleId}`,
          at: `${rule.at}/side`,
          where: { placements: shut.map(({ id }) => id) },
          what: `Nobody comes to ${rule.form.kind.name} from the ${side.join(' or ')}.`,
          why: `Its rule counts only who comes from there, where solids or the edge of the level lie: ${shut.length === 1 ? 'it is' : 'they are'} touched, and nothing happens.`,
          cause: [side, shut.map(({ box }) => box)],
          mend: {
            words: 'let it be touched from any side',
            changes: keptIn(view.level, rule, '/side').map((path) => ({ path, value: [] })),
          },
        },
      ];
    });
  },
};
