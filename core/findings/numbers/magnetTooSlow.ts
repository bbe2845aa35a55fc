import type { Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { keptOf, subjectOf } from '../view.ts';

export const magnetTooSlow: Mistake = {
  code: 'magnet-too-slow',
  title: 'a magnet slower than whom it chases',
  severity: 'probably not meant',
  find: ({ level, forms }) =>
    forms.flatMap((form) => {
      const { magnet, name, role } = form.kind;
      if (magnet === null) return [];
      const fastest = Math.max(...magnet.speed.map(([, speed]) => speed));
      const walk = level.body.speed;
      if (fastest > walk) return [];
      const last = magnet.speed.at(-1)?.[0] ?? 0;
      const quicker = Number((1.25 * walk).toFixed(2));
      return [
        {
          subject: subjectOf(form),
          at: `/kinds/${form.kindId}/magnet/speed`,
          where: { placements: form.placements },
          what: `${name} never catches a player who walks on.`,
          why: `It is drawn at ${figure(fastest, 'u/s')} at most; players walk at ${figure(walk, 'u/s')}.`,
          cause: [magnet.speed, walk],
          // What harms may well be such as can be outrun.
          severity: role === 'harm' || role === 'lethal' ? 'worth a look' : 'probably not meant',
          mend: {
            words: `let it come to ${figure(quicker, 'u/s')} in the end`,
            changes: keptOf(level, form, '/magnet/speed').map((path) => ({ path, value: [...magnet.speed, [last + 1, quicker]] })),
          },
        },
      ];
    }),
};
