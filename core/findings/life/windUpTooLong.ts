import type { Mistake } from '../finding.ts';
import { hullOf } from '../where.ts';
import { figure } from '../saying.ts';
import { boxAround, keptIn, sizeOf, subjectOf } from '../view.ts';

export const windUpTooLong: Mistake = {
  code: 'wind-up-too-long',
  title: 'a wind-up that is dropped before anybody has walked through',
  severity: 'probably not meant',
  find: ({ level, rules }) =>
    rules.flatMap((rule) => {
      const { windUp, effects, setOffBy } = rule.rule;
      const harms = Object.values(effects).some((one) => one.type === 'kill' || (one.type === 'meter' && one.change === 'take'));
      const around = boxAround(rule.form.kind);
      if (windUp?.ifLeft !== 'dropped' || !harms || setOffBy.type !== 'arriving' || around === null) return [];
      const hull = hullOf(level);
      const crossing = (Math.max(...sizeOf(around)) + 2 * hull.x) / level.body.speed;
      if (windUp.seconds <= crossing) return [];
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/windUp/seconds`,
          where: { placements: rule.form.placements },
          what: `${rule.form.kind.name} winds up for longer than anybody stays.`,
          why: `It winds up ${figure(windUp.seconds, 's')} and is dropped if left; at ${figure(level.body.speed, 'u/s')} one is through after ${figure(Number(crossing.toFixed(2)), 's')}.`,
          cause: [windUp, crossing],
          mend: {
            words: 'keep it wound up when left',
            changes: keptIn(level, rule, '/windUp/ifLeft').map((path) => ({ path, value: 'kept' })),
          },
        },
      ];
    }),
};
