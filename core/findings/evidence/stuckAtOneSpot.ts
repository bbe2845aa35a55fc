import { figure } from '../saying.ts';
import { atOneSpot, share, type Shown } from './played.ts';

/** So many of a hundred sessions that come to nothing, most of them at one spot. */
const [MANY, MOST] = [5, 50];

export const stuckAtOneSpot: Shown = {
  code: 'stuck-at-one-spot',
  title: 'players stuck at one spot',
  severity: 'probably not meant',
  find: ({ rows }) => {
    const stuck = rows.filter(({ ended }) => ended === 'gave up' || ended === 'stuck');
    if (share(stuck.length, rows.length) < MANY) return [];
    const places = stuck.flatMap(({ last: [x, y] }) => (x === undefined || y === undefined ? [] : [{ x, y }]));
    const spot = atOneSpot(places);
    const [first] = spot;
    if (first === undefined || share(spot.length, stuck.length) < MOST) return [];
    const [x, y] = [Math.round(first.x), Math.round(first.y)];
    return [
      {
        subject: `${String(x)},${String(y)}`,
        at: '/ends',
        what: `${figure(share(spot.length, stuck.length))} of 100 players who give up are stuck at one spot, near ${figure(x)}, ${figure(y)}.`,
        why: `Of ${figure(rows.length)} sessions ${figure(spot.length)} end there with nothing gained: something keeps them, or nothing shows the way on.`,
        cause: [x, y],
      },
    ];
  },
};
