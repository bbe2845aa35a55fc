import { figure } from '../saying.ts';
import { atOneSpot, share, type Shown } from './played.ts';

/** Of a hundred deaths so many at one spot, where of a hundred sessions so many have one. */
const [MOST, DEADLY] = [50, 10];

export const deathsAtOneSpot: Shown = {
  code: 'deaths-at-one-spot',
  title: 'most deaths happen at one spot',
  severity: 'probably not meant',
  find: ({ level, rows, things }) => {
    const deaths = rows.flatMap((row) => row.deaths);
    const dying = rows.filter(({ deathCount }) => deathCount > 0).length;
    if (share(dying, rows.length) < DEADLY) return [];
    const best = atOneSpot(deaths);
    const [first] = best;
    if (first === undefined || share(best.length, deaths.length) < MOST) return [];
    const thing = things.find((one) => one.thing === first.thing);
    const [x, y] = [Math.round(first.x), Math.round(first.y)];
    return [
      {
        subject: `${String(x)},${String(y)}`,
        at: thing === undefined ? '/start' : `/placements/${thing.placement}`,
        where: { placements: thing === undefined ? [] : [thing.placement] },
        what: `${figure(share(best.length, deaths.length))} of 100 deaths happen at one spot, near ${figure(x)}, ${figure(y)}.`,
        why: `${figure(share(dying, rows.length))} of 100 sessions in ${level.name} have a death; one place decides most of them.`,
        cause: [x, y, thing?.placement ?? null],
      },
    ];
  },
};
