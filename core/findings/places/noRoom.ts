import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { grownBy, hullOf } from '../where.ts';
import { keptIn, subjectOf, type LevelView } from '../view.ts';

/** Places that are looked at, along each side of the level. */
const ALONG = 24;
/** A random clear place is given up after so many tries. */
const TRIES = 64;
/** Said when more of a hundred places than this fail all tries. */
const MOST_FAILED = 0.05;

interface Clearing {
  readonly distance: number;
  readonly margin: number;
}

/** The share of places that are clear, for something that is so far around, with players at their start. */
function clearShare({ level, things }: LevelView, { distance, margin }: Clearing, around: number, besides: string | null): number {
  const { size, start, solids } = level;
  const far = margin + around;
  const boxes = [
    ...Object.values(solids).map(({ x, y, width, height }) => grownBy({ left: x, right: x + width, bottom: y, top: y + height }, far)),
    ...things.flatMap(({ id, box, moves }) => (box === null || moves || id === besides ? [] : [grownBy(box, far)])),
  ];
  let clear = 0;
  for (let row = 0; row < ALONG; row += 1)
    for (let column = 0; column < ALONG; column += 1) {
      const [x, y] = [(size.width * (column + 0.5)) / ALONG, (size.height * (row + 0.5)) / ALONG];
      if (x < far || y < far || x > size.width - far || y > size.height - far) continue;
      const [dx, dy] = [x - start.x, y - start.y];
      if (Math.sqrt(dx * dx + dy * dy) < distance + around) continue;
      if (!boxes.some(({ left, right, bottom, top }) => x > left && x < right && y > bottom && y < top)) clear += 1;
    }
  return clear / (ALONG * ALONG);
}

export const noRoom: Mistake = {
  code: 'no-room',
  title: 'a random clear place that the level has no room for',
  severity: 'probably not meant',
  find: (view) => {
    const told = (
      clearing: Clearing,
      around: number,
      on: Omit<Found, 'what' | 'why' | 'cause' | 'mend'>,
      name: string,
      paths: readonly string[],
    ): Found[] => {
      const share = clearShare(view, clearing, around, null);
      let fails = 1;
      for (let tries = 0; tries < TRIES; tries += 1) fails *= 1 - share;
      if (fails <= MOST_FAILED) return [];
      return [
        {
          ...on,
          what: `The level has hardly room for where ${name}.`,
          why: `It wants ${figure(clearing.distance, 'u')} from players and ${figure(clearing.margin, 'u')} from everything else: of 100 places ${figure(Math.round(100 * share))} are clear, and in ${figure(Math.round(100 * fails))} of 100 cases all ${String(TRIES)} tries fail.`,
          cause: [clearing, Math.round(20 * fails)],
          severity: share === 0 ? 'breaks it' : 'probably not meant',
          mend: {
            words: 'halve both distances',
            changes: paths.flatMap((path) => [
              { path: `${path}/distance`, value: clearing.distance / 2 },
              { path: `${path}/margin`, value: clearing.margin / 2 },
            ]),
          },
        },
      ];
    };
    const { death } = view.level;
    const ofDeath =
      death.returnTo.type === 'clear' && death.returns !== 'never'
        ? told(death.returnTo, hullOf(view.level).x, { subject: 'death', at: '/death/returnTo' }, 'players come back', ['/death/returnTo'])
        : [];
    const ofRules = view.rules.flatMap((rule): Found[] => {
      const { becomes, effects } = rule.rule;
      const where = { placements: rule.form.placements };
      const subject = `${subjectOf(rule.form)}/${rule.ruleId}`;
      const around = 0.5;
      const moving =
        becomes.type === 'moves'
          ? told(
              becomes,
              around,
              { subject, at: `${rule.at}/becomes`, where },
              `${rule.form.kind.name} moves`,
              keptIn(view.level, rule, '/becomes'),
            )
          : [];
      const others = Object.entries(effects).flatMap(([id, effect]): Found[] => {
        const field =
          effect.type === 'move' && effect.to.type === 'clear' ? 'to' : effect.type === 'spawn' && effect.at.type === 'clear' ? 'at' : null;
        const clearing =
          effect.type === 'move' && effect.to.type === 'clear'
            ? effect.to
            : effect.type === 'spawn' && effect.at.type === 'clear'
              ? effect.at
              : null;
        if (field === null || clearing === null) return [];
        const does = effect.type === 'move' ? `${rule.form.kind.name} puts players` : `${rule.form.kind.name} spawns`;
        const within = `/effects/${id}/${field}`;
        return told(
          clearing,
          around,
          { subject: `${subject}/${id}`, at: `${rule.at}${within}`, where },
          does,
          keptIn(view.level, rule, within),
        );
      });
      return [...moving, ...others];
    });
    return [...ofDeath, ...ofRules];
  },
};
