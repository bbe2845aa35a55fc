import type { Mistake } from '../finding.ts';
import { hullOf } from '../where.ts';
import { figure } from '../saying.ts';
import { boxAround, isTouched, sizeOf, subjectOf } from '../view.ts';

export const crossesInAStep: Mistake = {
  code: 'crosses-in-a-step',
  title: 'a player so quick that a thing is crossed within a step',
  severity: 'worth a look',
  find: ({ level, forms, effects }) => {
    const walk = level.body.speed;
    const speeds = effects.flatMap(({ effect }) => {
      if (effect.type !== 'movement' || effect.of !== 'speed') return [];
      return effect.change === 'multiply' ? [walk * effect.value] : effect.change === 'add' ? [walk + effect.value] : [effect.value];
    });
    const fastest = Math.max(walk, ...speeds);
    const a = fastest / level.rate;
    return forms.flatMap((form) => {
      const around = boxAround(form.kind);
      if (around === null || !Object.values(form.kind.rules).some(isTouched)) return [];
      const [hull, [width, height]] = [hullOf(level), sizeOf(around)];
      const across = Math.min(width + 2 * hull.x, height + 2 * hull.y);
      if (a <= across) return [];
      return [
        {
          subject: subjectOf(form),
          at: `/kinds/${form.kindId}/shapes`,
          where: { placements: form.placements },
          what: `${form.kind.name} may be crossed within one step.`,
          why: `At ${figure(fastest, 'u/s')} a step is ${figure(Number(a.toFixed(2)), 'u')}, and it is ${figure(Number(across.toFixed(2)), 'u')} across with the player. Nothing is missed here; a game that looks once a step may miss it.`,
          cause: [fastest, level.rate, across],
        },
      ];
    });
  },
};
