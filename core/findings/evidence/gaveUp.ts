import { figure } from '../saying.ts';
import { share, type Shown } from './played.ts';

/** So many of a hundred. */
const MANY = 15;

export const gaveUp: Shown = {
  code: 'gave-up',
  title: 'many players give up, or are stuck',
  severity: 'probably not meant',
  find: ({ rows }) => {
    const stuck = rows.filter(({ ended }) => ended === 'gave up' || ended === 'stuck').length;
    if (share(stuck, rows.length) < MANY) return [];
    return [
      {
        subject: 'players',
        at: '/ends',
        what: `${figure(share(stuck, rows.length))} of 100 players give up.`,
        why: `They come no nearer to anything, or die too often: of ${figure(rows.length)} sessions ${figure(stuck)} end so.`,
        cause: share(stuck, rows.length) >= 50,
      },
    ];
  },
};
