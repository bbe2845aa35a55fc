import type { Found, Mistake } from '../finding.ts';
import { hullOf, landingName, landings, pointAt } from '../where.ts';

export const returnOverDeath: Mistake = {
  code: 'return-over-death',
  title: 'a place where players are put hangs over a kill zone, seen from the side',
  severity: 'breaks it',
  find: (view) => {
    const { level, things } = view;
    if (level.view !== 'side') return [];
    const half = hullOf(level).x;
    const kills = things.filter(
      ({ moves, form: { kind } }) =>
        !moves && Object.values(kind.rules).some(({ effects }) => Object.values(effects).some(({ type }) => type === 'kill')),
    );
    return landings(view).flatMap((landing): Found[] => {
      const under = (left: number, right: number, top: number): boolean =>
        left < landing.x + half && right > landing.x - half && top <= landing.y;
      const floors = Object.values(level.solids).filter(({ x, y, width, height }) => under(x, x + width, y + height));
      const floor = Math.max(0, ...floors.map(({ y, height }) => y + height));
      // What may carry somebody is as good as a floor: nobody falls past it for sure.
      const held = things.some(
        ({ box, form }) => box !== null && (form.kind.solid !== null || form.kind.carries) && under(box.left, box.right, box.top),
      );
      const zone = kills.find(({ box }) => box !== null && under(box.left, box.right, box.top) && box.top > floor);
      if (held || zone === undefined) return [];
      return [
        {
          subject: landing.at,
          at: landing.at,
          where: { points: pointAt(landing), placements: [zone.id] },
          what: `${landingName(landing)} hangs over ${zone.form.kind.name}.`,
          why: 'There is no floor between: whoever is put there falls into it and dies.',
          cause: [landing.x, landing.y, zone.box, zone.id],
        },
      ];
    });
  },
};
