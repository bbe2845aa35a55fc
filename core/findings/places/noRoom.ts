import { roomIn, type Seeker } from '../../session/index.ts';
import { allKinds } from '../../level/index.ts';
import type { Found, Mistake } from '../finding.ts';
import { figure } from '../saying.ts';
import { boxAround, keptIn, subjectOf, type LevelView, type RuleAt } from '../view.ts';

/** Told of when more random places than this are not found, of 1. */
const MOST_FAILED = 0.05;
/** Parts of both distances that are tried as its mend. */
const NEARER = [0.5, 0.25];

/** A random clear place that something in the level asks for. */
interface Clearing extends Pick<Found, 'subject' | 'at'> {
  readonly placements: readonly string[];
  /** What happens there, after `where`. */
  readonly does: string;
  readonly seeker: Seeker;
  readonly clear: { readonly distance: number; readonly margin: number };
  /** Pointers to where its distances are kept. */
  readonly kept: readonly string[];
}

/** How far the largest kind of a pool reaches from its place. */
function reachIn({ level }: LevelView, pool: Readonly<Record<string, number>>): number {
  const reaches = allKinds(level).flatMap(([id, kind]) => {
    const around = Object.hasOwn(pool, id) ? boxAround(kind) : null;
    return around === null ? [] : [Math.max(-around.left, around.right, -around.bottom, around.top)];
  });
  return Math.max(0, ...reaches);
}

function clearingsOf(view: LevelView, rule: RuleAt): Clearing[] {
  const { form } = rule;
  const [placement] = form.placements;
  const name = form.kind.name;
  const at = (within: string, subject: string, does: string, seeker: Seeker, clear: Clearing['clear']): Clearing => ({
    subject: `${subjectOf(form)}/${rule.ruleId}${subject}`,
    at: rule.at + within,
    placements: form.placements,
    does,
    seeker,
    clear,
    kept: keptIn(view.level, rule, within),
  });
  const { becomes, effects } = rule.rule;
  const moves = becomes.type === 'moves' && placement !== undefined ? [at('/becomes', '', `${name} moves`, { placement }, becomes)] : [];
  const others = Object.entries(effects).flatMap(([id, effect]): Clearing[] => {
    const within = `/effects/${id}`;
    if (effect.type === 'move' && effect.to.type === 'clear')
      return [at(`${within}/to`, `/${id}`, `${name} puts players`, 'player', effect.to)];
    if (effect.type === 'spawn' && effect.at.type === 'clear')
      return [at(`${within}/at`, `/${id}`, `${name} spawns`, { reach: reachIn(view, effect.pool) }, effect.at)];
    return [];
  });
  return [...moves, ...others];
}

export const noRoom: Mistake = {
  code: 'no-room',
  title: 'a random clear place that the level has no room for',
  severity: 'probably not meant',
  find: (view) => {
    const { death } = view.level;
    const path = '/death/returnTo';
    const ofDeath: Clearing[] =
      death.returnTo.type === 'clear' && death.returns !== 'never'
        ? [{ subject: 'death', at: path, placements: [], does: 'players come back', seeker: 'player', clear: death.returnTo, kept: [path] }]
        : [];
    const all = [...ofDeath, ...view.rules.flatMap((rule) => clearingsOf(view, rule))];
    if (all.length === 0) return [];
    const crowdedShare = roomIn(view.level);
    return all.flatMap(({ subject, at, placements, does, seeker, clear, kept }): Found[] => {
      const share = crowdedShare(seeker, clear);
      if (share <= MOST_FAILED) return [];
      const nearer = NEARER.map((part) => ({ distance: part * clear.distance, margin: part * clear.margin }));
      const found = nearer.find((one) => crowdedShare(seeker, one) <= MOST_FAILED);
      return [
        {
          subject,
          at,
          where: { placements },
          what: `The level has hardly room for where ${does}.`,
          why: `It wants ${figure(clear.distance, 'u')} from players and ${figure(clear.margin, 'u')} from everything else: in ${figure(Math.round(100 * share))} of 100 cases no such place is found, and the clearest of 64 is taken.`,
          cause: [clear.distance, clear.margin, Math.round(10 * share)],
          severity: share === 1 ? 'breaks it' : 'probably not meant',
          mend:
            found === undefined
              ? null
              : {
                  words: `ask for ${figure(found.distance, 'u')} from players and ${figure(found.margin, 'u')} from everything else`,
                  changes: kept.flatMap((one) => [
                    { path: `${one}/distance`, value: found.distance },
                    { path: `${one}/margin`, value: found.margin },
                  ]),
                },
        },
      ];
    });
  },
};
