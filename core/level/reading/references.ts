import { pointer, entry } from '../document/pointers.ts';
import { MOST_PROBLEMS, type Problem } from '../document/problems.ts';
import { allKinds, kindOf, kindOfPlacement, variantProblems } from '../values/resolve.ts';
import { startingProblems } from './starting.ts';
import type { Destination } from '../document/basics.ts';
import type { Condition, Effect, Rule } from '../document/rules.ts';
import type { Level, Path } from '../document/schema.ts';
import { RULES_PER_KIND, type Kind } from '../document/things.ts';

type Maps = 'meters' | 'items' | 'points' | 'flourishes' | 'paths' | 'personas' | 'tries';
const NAMES: Record<Maps, string> = {
  meters: 'meter',
  items: 'item',
  points: 'point',
  flourishes: 'flourish',
  paths: 'path',
  personas: 'persona',
  tries: 'starting state',
};

/** Says that an id names nothing. */
export const lacking = (what: string, id: string): string => `there is no ${what} "${id}"`;

/** The rules of a kind that do not sit on a tag. */
const ownRules = ({ rules }: Kind): Kind['rules'] => Object.fromEntries(Object.entries(rules).filter(([id]) => !id.includes(':')));

type Wrong = (path: readonly PropertyKey[], message: string) => void;

/** Checks of single ids. */
function idChecks(level: Level, wrong: Wrong) {
  const needs = (map: Maps, id: string | null, path: readonly PropertyKey[]): void => {
    if (id !== null && entry<unknown>(level[map], id) === undefined) wrong(path, lacking(NAMES[map], id));
  };
  const needsKind = (id: string | null, path: readonly PropertyKey[]): void => {
    if (id !== null && entry(level.kinds, id) === undefined && entry(level.variants, id) === undefined) wrong(path, lacking('kind', id));
  };
  const destination = (to: Destination | null, path: readonly PropertyKey[]): void => {
    if (to === null) return;
    if (to.type === 'point') needs('points', to.point, [...path, 'point']);
    if (to.type === 'nearest') to.points.forEach((id, index) => needs('points', id, [...path, 'points', index]));
    if (to.type !== 'weighted') return;
    for (const id of Object.keys(to.points)) needs('points', id, [...path, 'points', id]);
    if (!Object.values(to.points).some((weight) => weight > 0)) wrong([...path, 'points'], 'one of the weights must be above 0');
  };
  const condition = (one: Condition, path: readonly PropertyKey[]): void => {
    if ('meter' in one) needs('meters', one.meter, [...path, 'meter']);
    if ('item' in one) needs('items', one.item, [...path, 'item']);
  };
  return { needs, needsKind, destination, condition };
}
type IdChecks = ReturnType<typeof idChecks>;

function checkEffect(
  level: Level,
  wrong: Wrong,
  { needs, needsKind, destination }: IdChecks,
  one: Effect,
  path: readonly PropertyKey[],
): void {
  switch (one.type) {
    case 'meter':
      needs('meters', one.meter, [...path, 'meter']);
      if (one.change === 'fill' && entry(level.meters, one.meter)?.upper === null) {
        wrong([...path, 'meter'], 'a meter without an upper limit cannot be filled');
      }
      if (typeof one.amount === 'object' && 'share' in one.amount && entry(level.meters, one.meter)?.upper === null) {
        wrong([...path, 'amount'], 'a meter without an upper limit has no share of it');
      }
      break;
    case 'item':
      needs('items', one.item, [...path, 'item']);
      break;
    case 'move':
      destination(one.to, [...path, 'to']);
      break;
    case 'kill':
      destination(one.returnTo, [...path, 'returnTo']);
      break;
    case 'checkpoint':
      needs('points', one.point, [...path, 'point']);
      break;
    case 'lives':
      if (entry(level.meters, 'lives') === undefined) wrong(path, lacking('meter', 'lives'));
      break;
    case 'flourish':
      needs('flourishes', one.flourish, [...path, 'flourish']);
      break;
    case 'spawn':
      for (const id of Object.keys(one.pool)) needsKind(id, [...path, 'pool', id]);
      if (!Object.values(one.pool).some((weight) => weight > 0)) wrong([...path, 'pool'], 'one of the weights must be above 0');
      if (one.at.type === 'point') needs('points', one.at.point, [...path, 'at', 'point']);
      break;
    default:
  }
}

/** Checks of rules, their conditions and effects. */
function ruleChecks(level: Level, wrong: Wrong, ids: IdChecks) {
  const judged = (rule: Pick<Rule, 'provided' | 'effects'>, path: readonly PropertyKey[]): void => {
    for (const [id, one] of Object.entries(rule.provided)) ids.condition(one, [...path, 'provided', id]);
    for (const [id, one] of Object.entries(rule.effects)) checkEffect(level, wrong, ids, one, [...path, 'effects', id]);
  };
  const noChance = (provided: Rule['provided'], path: readonly PropertyKey[]): void => {
    for (const [id, one] of Object.entries(provided)) {
      if (one.type === 'chance')
        wrong([...path, 'provided', id], 'chance is drawn once each time: not in a rate, nor where a rule keeps trying');
    }
  };
  /** `shapes` of the kind; a rule that sits on a tag may be tied to what only some of its kinds have. */
  const rules = (map: Readonly<Record<string, Rule>>, path: readonly PropertyKey[], shapes: Kind['shapes'] | null = null): void => {
    for (const [id, rule] of Object.entries(map)) {
      judged(rule, [...path, id]);
      if (rule.touching !== null && !['arriving', 'inside', 'leaving'].includes(rule.setOffBy.type)) {
        wrong([...path, id, 'touching'], 'only a rule set off by arriving, being inside or leaving can be tied to a shape');
      } else if (rule.touching !== null && shapes !== null && entry(shapes, rule.touching) === undefined) {
        wrong([...path, id, 'touching'], `there is no shape "${rule.touching}"; there are ${Object.keys(shapes).sort().join(', ')}`);
      }
      const contact = rule.setOffBy.type === 'arriving' || rule.setOffBy.type === 'inside';
      const rate = rule.setOffBy.type === 'inside' && rule.setOffBy.pulse === null;
      if (rate || rule.keepTrying) noChance(rule.provided, [...path, id]);
      for (const [effectId, one] of Object.entries(rule.effects)) {
        if (one.type === 'movement' && one.lasts.type === 'while' && !contact) {
          wrong([...path, id, 'effects', effectId, 'lasts'], '"while" needs a rule set off by arriving or being inside');
        }
        if (one.type === 'push' && !rate) {
          wrong([...path, id, 'effects', effectId], 'a push needs a rate: a rule set off by being inside, without pulses');
        }
      }
    }
  };
  return { judged, noChance, rules };
}
type RuleChecks = ReturnType<typeof ruleChecks>;

function checkKinds(level: Level, wrong: Wrong, { needs }: IdChecks, { rules }: RuleChecks): void {
  for (const [id, kind] of Object.entries(level.kinds)) {
    rules(kind.rules, ['kinds', id, 'rules'], kind.shapes);
    for (const [phase, { flourish }] of Object.entries(kind.phases))
      needs('flourishes', flourish, ['kinds', id, 'phases', phase, 'flourish']);
  }
  for (const id of Object.keys(level.variants)) {
    const kind = kindOf(level, id);
    if (kind !== undefined) rules(ownRules(kind), ['variants', id, 'changes', 'rules'], kind.shapes);
  }
  for (const [id, { rules: all }] of allKinds(level)) {
    const count = Object.keys(all).length;
    const path = [entry(level.kinds, id) === undefined ? 'variants' : 'kinds', id];
    if (count > RULES_PER_KIND) wrong(path, `has ${String(count)} rules with those of its tags; at most ${String(RULES_PER_KIND)}`);
  }
  for (const [id, { rules: own }] of Object.entries(level.tagRules)) rules(own, ['tagRules', id, 'rules']);
}

function checkItems(level: Level, wrong: Wrong, { needsKind }: IdChecks, { judged, noChance }: RuleChecks): void {
  for (const [id, item] of Object.entries(level.items)) {
    needsKind(item.dropsAs, ['items', id, 'dropsAs']);
    for (const [ruleId, rule] of Object.entries(item.rules)) {
      judged(rule, ['items', id, 'rules', ruleId]);
      if (rule.setOffBy !== 'use') noChance(rule.provided, ['items', id, 'rules', ruleId]);
      for (const [effectId, one] of Object.entries(rule.effects)) {
        if (one.type === 'movement' && one.lasts.type === 'while' && rule.setOffBy === 'use') {
          wrong(['items', id, 'rules', ruleId, 'effects', effectId, 'lasts'], '"while" needs a rule for while it is carried or held');
        }
      }
    }
  }
}

function checkPlacements(level: Level, { needs, needsKind }: IdChecks, { rules }: RuleChecks): void {
  const seen = new Set<unknown>();
  for (const [id, placement] of Object.entries(level.placements)) {
    needsKind(placement.kind, ['placements', id, 'kind']);
    const own = Object.keys(placement.own).length === 0 ? undefined : kindOfPlacement(level, id);
    if (own !== undefined && !seen.has(own)) rules(ownRules(own), ['placements', id, 'own', 'rules'], own.shapes);
    if (own !== undefined) seen.add(own);
    needs('paths', placement.travel?.path ?? null, ['placements', id, 'travel', 'path']);
  }
}

/** What is neither a thing nor a rule: paths, death, ends, routes, readouts. */
function checkSession(level: Level, wrong: Wrong, { needs, needsKind, destination }: IdChecks): void {
  for (const [id, path] of Object.entries(level.paths)) {
    if (roundSeconds(path) * level.rate < 1) wrong(['paths', id], 'a round of this path takes less than one step');
  }
  level.players.starts.forEach((id, index) => needs('points', id, ['players', 'starts', index]));
  destination(level.death.returnTo, ['death', 'returnTo']);
  level.death.resets.forEach((id, index) => needsKind(id, ['death', 'resets', index]));
  if (level.death.returns === 'while lives last') needs('meters', 'lives', ['death', 'returns']);
  for (const [id, goal] of Object.entries(level.ends.goals)) {
    if (goal.type === 'reach') needs('points', goal.point, ['ends', 'goals', id, 'point']);
    if (goal.type === 'item') needs('items', goal.item, ['ends', 'goals', id, 'item']);
    if (goal.type === 'meter') needs('meters', goal.meter, ['ends', 'goals', id, 'meter']);
  }
  for (const [id, { wayPoints }] of Object.entries(level.routes)) {
    wayPoints.forEach(({ until }, index) => {
      const path = ['routes', id, 'wayPoints', index, 'until'];
      if (until?.type === 'ready') needsKind(until.kind, [...path, 'kind']);
      if (until?.type === 'meter') needs('meters', until.meter, [...path, 'meter']);
    });
  }
  for (const [id, readout] of Object.entries(level.readouts)) {
    if (readout.type === 'meter') needs('meters', readout.meter, ['readouts', id, 'meter']);
    if (readout.type === 'item') needs('items', readout.item, ['readouts', id, 'item']);
  }
}

/** What targets and the stated crowd name. A placement that a target asks about may be gone: then it is said to be. */
function checkJudging(level: Level, { needs, needsKind }: IdChecks): void {
  for (const [id, { outcome, personas, start }] of Object.entries(level.targets)) {
    const at = ['targets', id];
    if ('meter' in outcome) needs('meters', outcome.meter, [...at, 'outcome', 'meter']);
    if ('item' in outcome) needs('items', outcome.item, [...at, 'outcome', 'item']);
    if ('of' in outcome && outcome.of.type === 'kind') needsKind(outcome.of.kind, [...at, 'outcome', 'of', 'kind']);
    personas.forEach((persona, index) => needs('personas', persona, [...at, 'personas', index]));
    needs('tries', start, [...at, 'start']);
  }
  if (level.crowd === null) return;
  for (const persona of Object.keys(level.crowd.personas)) needs('personas', persona, ['crowd', 'personas', persona]);
  needs('tries', level.crowd.start, ['crowd', 'start']);
}

/** Ids that point nowhere, and the meters every level has. */
export function checkReferences(level: Level): Problem[] {
  const problems: Problem[] = [...variantProblems(level)];
  const wrong: Wrong = (path, message) => void problems.push({ path: pointer(path), message });
  const ids = idChecks(level, wrong);
  const rules = ruleChecks(level, wrong, ids);
  for (const always of ['health', 'score']) ids.needs('meters', always, ['meters']);
  checkKinds(level, wrong, ids, rules);
  checkItems(level, wrong, ids, rules);
  checkPlacements(level, ids, rules);
  checkSession(level, wrong, ids);
  checkJudging(level, ids);
  for (const [id, state] of Object.entries(level.tries)) {
    for (const { path, message } of startingProblems(level, state)) problems.push({ path: pointer(['tries', id]) + path, message });
  }
  return problems.slice(0, MOST_PROBLEMS);
}

/** Seconds one round of a path takes, pauses included. */
export function roundSeconds(path: Path): number {
  let length = 0;
  let pauses = 0;
  const points = path.wayPoints;
  points.forEach((point, index) => {
    const next = points[index + 1] ?? (path.round === 'loop' ? points[0] : undefined);
    if (next !== undefined) length += Math.sqrt((next.x - point.x) * (next.x - point.x) + (next.y - point.y) * (next.y - point.y));
    const between = index > 0 && index < points.length - 1;
    pauses += path.round === 'back and forth' && between ? 2 * point.pause : point.pause;
  });
  return ((path.round === 'loop' ? 1 : 2) * length) / path.speed + pauses;
}
