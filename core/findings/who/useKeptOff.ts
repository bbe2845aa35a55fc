import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { keptIn, phasesOf, subjectOf, takesPlayer, type Form, type LevelView } from '../view.ts';
import { hullOf } from '../where.ts';

/** How near the middle of a body comes to the place of a thing, past its solid box; 0: the box keeps nobody off it. */
function nearest(view: LevelView, form: Form): number {
  const { solid, phases } = form.kind;
  if (solid === null || solid.sides.length < 4 || !phasesOf(view, form).every((phase) => phases[phase].solid)) return 0;
  const hull = hullOf(view.level);
  const faces = [
    solid.width / 2 + solid.x + hull.x,
    solid.width / 2 - solid.x + hull.x,
    solid.height / 2 + solid.y + hull.y,
    solid.height / 2 - solid.y + hull.y,
  ];
  return Math.max(0, Math.min(...faces));
}

/** So much farther than needed a mend reaches. Units. */
const MARGIN = 0.2;

export const useKeptOff: Mistake = {
  code: 'use-kept-off',
  title: 'a use whose reach ends within the solid box of its own thing',
  severity: 'breaks it',
  find: (view) =>
    view.rules.flatMap((rule): Found[] => {
      const { setOffBy } = rule.rule;
      if (setOffBy.type !== 'use' || !takesPlayer(view, rule.rule)) return [];
      const near = nearest(view, rule.form);
      if (near <= setOffBy.reach) return [];
      const reach = Number((near + MARGIN).toFixed(2));
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/setOffBy/reach`,
          where: { placements: rule.form.placements },
          what: `${rule.form.kind.name} keeps everybody out of the reach of its own use.`,
          why: `It is used from ${figure(setOffBy.reach, 'u')} off its place at most, and its solid box lets the middle of a body no nearer than ${figure(Number(near.toFixed(2)), 'u')}.`,
          cause: [setOffBy.reach, rule.form.kind.solid],
          mend: {
            words: `let it be used from ${figure(reach, 'u')}`,
            changes: keptIn(view.level, rule, '/setOffBy/reach').map((path) => ({ path, value: reach })),
          },
        },
      ];
    }),
};
