import { whoMatches, type Effect } from '../../level/index.ts';
import { settled } from './conditionHolds.ts';
import type { Mistake } from '../finding.ts';
import { quoted } from '../saying.ts';
import { isTouched, keptIn, subjectOf, takesPlayer } from '../view.ts';

/** Effects that come to nothing without a player. */
const FOR_PLAYERS: readonly Effect['type'][] = ['meter', 'item', 'movement', 'lives', 'shield', 'checkpoint', 'kill', 'move'];

export const takenByOthers: Mistake = {
  code: 'taken-by-others',
  title: 'a filter also lets a patrol or a platform take what is meant for players',
  severity: 'probably not meant',
  find: (view) =>
    view.rules.flatMap((rule) => {
      const { who, becomes, uses, effects } = rule.rule;
      const goes = becomes.type !== 'stays' || uses !== null;
      // One that players cannot set off is told of as that.
      const never = Object.values(rule.rule.provided).some((condition) => settled(view, condition)?.holds === false);
      const forPlayers = Object.values(effects).some(({ type }) => FOR_PLAYERS.includes(type));
      if (never || !isTouched(rule.rule) || !goes || !forPlayers || !takesPlayer(view, rule.rule)) return [];
      const others = view.movers.filter((form) => form.kindId !== rule.form.kindId && whoMatches(who, form.kind.tags));
      const own = view.players[0]?.[0];
      if (others.length === 0) return [];
      const names = [...new Set(others.map(({ kind }) => kind.name))].join(', ');
      return [
        {
          subject: `${subjectOf(rule.form)}/${rule.ruleId}`,
          at: `${rule.at}/who/any`,
          where: { placements: [...rule.form.placements, ...others.flatMap(({ placements }) => placements)] },
          what: `${rule.form.kind.name} is also set off by ${names}.`,
          why: `When ${names} comes by, it is used up for nothing: its effects need a player.`,
          cause: [who, others.map(({ kindId, kind }) => [kindId, kind.tags])],
          mend:
            own === undefined
              ? null
              : {
                  words: `let only ${quoted(own)} set it off`,
                  changes: keptIn(view.level, rule, '/who/any').map((path) => ({ path, value: [own] })),
                },
        },
      ];
    }),
};
