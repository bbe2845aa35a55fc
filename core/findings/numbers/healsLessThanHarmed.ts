import type { Effect } from '../../level/index.ts';
import type { Mistake } from '../finding.ts';
import { meets } from '../where.ts';
import { figure } from '../saying.ts';
import { isRate, type LevelView, type Thing } from '../view.ts';

interface Flow {
  readonly thing: Thing;
  readonly amount: number;
  readonly box: NonNullable<Thing['box']>;
}

/** Things that change health each second, and by how much. */
function flows({ things }: LevelView, change: Extract<Effect, { type: 'meter' }>['change']): Flow[] {
  return things.flatMap((thing) => {
    if (thing.moves || thing.box === null) return [];
    const { box } = thing;
    let amount = 0;
    for (const rule of Object.values(thing.form.kind.rules)) {
      if (!isRate(rule)) continue;
      for (const effect of Object.values(rule.effects))
        if (effect.type === 'meter' && effect.meter === 'health' && effect.change === change && typeof effect.amount === 'number')
          amount += effect.amount;
    }
    return amount > 0 ? [{ thing, amount, box }] : [];
  });
}

export const healsLessThanHarmed: Mistake = {
  code: 'heals-less-than-harmed',
  title: 'a healing pad inside a hazard that takes more',
  severity: 'probably not meant',
  find: (view) => {
    const harms = flows(view, 'take');
    return flows(view, 'add').flatMap(({ thing, amount, box }) => {
      const over = harms.filter((harm) => meets(harm.box, box));
      const taken = over.reduce((sum, harm) => sum + harm.amount, 0);
      if (taken < amount) return [];
      const names = [...new Set(over.map((harm) => harm.thing.form.kind.name))].join(', ');
      return [
        {
          subject: thing.id,
          at: `/placements/${thing.id}`,
          where: { placements: [thing.id, ...over.map((harm) => harm.thing.id)] },
          what: `${thing.form.kind.name} heals less than ${names} over it takes.`,
          why: `It gives ${figure(amount)} health a second where ${figure(taken)} are taken: whoever stays there to heal is worse off.`,
          cause: [amount, taken],
        },
      ];
    });
  },
};
