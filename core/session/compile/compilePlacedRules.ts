import { valueIn } from '../../geometry/index.ts';
import { byId, inOrder, whoMatches, type Kind, type Level, type Rule } from '../../level/index.ts';
import * as codes from './codes.ts';
import type { PlacedRule } from './compileRules.ts';
import { numbering, type Names } from './laying.ts';
import type { Form } from './compileThings.ts';

/** All notices that rules, meters and goals speak of. */
function noticesOf(level: Level, rules: readonly PlacedRule[]): string[] {
  const words = new Set<string>();
  for (const { rule } of rules) {
    if (typeof rule.setOffBy === 'object' && rule.setOffBy.type === 'notice') words.add(rule.setOffBy.notice);
    for (const one of [...Object.values(rule.provided), ...Object.values(rule.effects)]) if (one.type === 'notice') words.add(one.notice);
  }
  for (const { atLower, atUpper } of Object.values(level.meters)) for (const word of [atLower, atUpper]) if (word !== null) words.add(word);
  for (const goal of Object.values(level.ends.goals)) if (goal.type === 'notice') words.add(goal.notice);
  return [...words].sort();
}

/** The zone of a kind that a rule is tied to. */
function zoneOf(kind: Kind, { touching }: Rule): number {
  if (touching === null) return codes.WHOLE;
  const at = byId(kind.shapes).findIndex(([id]) => id === touching);
  return at < 0 ? codes.NOWHERE : at + 1;
}

/** Rules of each form, then of each item, in order; and where those of each begin. */
export function placedRules(level: Level, forms: readonly Form[]) {
  const lists: PlacedRule[][] = forms.map(({ kindId, kind }) =>
    inOrder(kind.rules).map(([id, rule]) => ({ kind: kindId, item: null, id, rule, zone: zoneOf(kind, rule) })),
  );
  const items = inOrder(level.items).map(([item, { rules }]) =>
    inOrder(rules).map(([id, rule]) => ({ kind: null, item, id, rule, zone: codes.WHOLE })),
  );
  const starts = new Int32Array(forms.length + items.length + 1);
  [...lists, ...items].forEach((list, index) => (starts[index + 1] = valueIn(starts, index) + list.length));
  return { rules: [...lists, ...items].flat(), formStart: starts.slice(0, forms.length + 1), itemStart: starts.slice(forms.length) };
}

/** Numbers for all that rules refer to by id. */
export function numberNames(level: Level, kinds: readonly Form[], placed: readonly PlacedRule[]): Names {
  return {
    meters: numbering(inOrder(level.meters).map(([id]) => id)),
    items: numbering(inOrder(level.items).map(([id]) => id)),
    kinds: numbering(kinds.map(({ kindId }) => kindId)),
    points: numbering(inOrder(level.points).map(([id]) => id)),
    notices: numbering(noticesOf(level, placed)),
    flourishes: numbering(inOrder(level.flourishes).map(([id]) => id)),
  };
}

/** For each rule, whether each class of toucher may set it off: players one by one, then kinds. */
export function compileWho(rules: readonly PlacedRule[], kinds: readonly Form[], playerTags: readonly (readonly string[])[]): Uint8Array {
  const classCount = playerTags.length + kinds.length;
  const accepts = new Uint8Array(rules.length * classCount);
  const tags = [...playerTags, ...kinds.map(({ kind }) => kind.tags)];
  rules.forEach(({ rule }, index) => {
    tags.forEach((own, at) => (accepts[index * classCount + at] = !('who' in rule) || whoMatches(rule.who, own) ? 1 : 0));
  });
  return accepts;
}

/** Whether what becomes of a thing by a rule is each player's own. */
export const isOfPlayer = ({ rule }: PlacedRule): boolean => 'scope' in rule && rule.scope === 'player';

/** Whether a solid thing may be there for one player and not for another. */
export function mayStandApart(placed: readonly PlacedRule[], formStart: ArrayLike<number>, hasSolid: Uint8Array): boolean {
  return hasSolid.some((solid, form) => solid === 1 && placed.slice(formStart[form], formStart[form + 1]).some(isOfPlayer));
}

/** What is asked of the rules again and again while stepping: whether any does this or that at all. */
export function compileHas(placed: readonly PlacedRule[], forms: readonly Form[], itemCount: number) {
  const anyRule = (test: (rule: Rule) => boolean): boolean => placed.some(({ rule }) => 'who' in rule && test(rule));
  return {
    push: anyRule(({ effects }) => Object.values(effects).some(({ type }) => type === 'push')),
    use: anyRule(({ setOffBy }) => setOffBy.type === 'use'),
    every: anyRule(({ setOffBy }) => setOffBy.type === 'every'),
    magnets: forms.some(({ kind }) => kind.magnet !== null),
    carriers: forms.some(({ kind }) => kind.carries),
    cycles: forms.some(({ kind }) => kind.cycle !== null),
    items: itemCount > 0,
  };
}
