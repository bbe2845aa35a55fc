import {
  allKinds,
  entry,
  inOrder,
  kindOfPlacement,
  pathsOf,
  phasesOfKind,
  pointer,
  rulePath,
  tagRuleOf,
  whoMatches,
  type Effect,
  type ItemRule,
  type Kind,
  type Level,
  type PhaseOfKind,
  type Rule,
} from '../level/index.ts';
import { boxOver, outlineOf, type Box } from '../geometry/index.ts';

/** A kind as some of its things have it: as it is, or with own values. */
export interface Form {
  readonly kindId: string;
  readonly kind: Kind;
  /** Its things; none where it only comes by being spawned. */
  readonly placements: readonly string[];
  /** Whether these have own values. */
  readonly own: boolean;
}

/** A rule of a form. */
export interface RuleAt {
  readonly form: Form;
  readonly ruleId: string;
  readonly rule: Rule;
  readonly at: string;
}

/** A thing that is placed. */
export interface Thing {
  readonly id: string;
  readonly form: Form;
  readonly x: number;
  readonly y: number;
  /** Whether it travels, drifts, is drawn, or is put elsewhere. */
  readonly moves: boolean;
  /** Around its sensing shapes, where it is placed; null: it has none. */
  readonly box: Box | null;
}

/** An effect and what has it. */
export interface EffectAt {
  readonly effect: Effect;
  /** Pointer to it, and all pointers under which it is kept. */
  readonly at: string;
  readonly kept: (within: string) => readonly string[];
  /** So much in each second. */
  readonly rate: boolean;
  readonly rule: RuleAt | null;
  readonly item: { readonly id: string; readonly rule: ItemRule } | null;
}

/** What a meter may come to. */
interface MeterSpan {
  readonly low: number;
  readonly high: number;
  /** Whether anything lowers it, and raises it. */
  readonly lowered: boolean;
  readonly raised: boolean;
}

/** What findings are looked for in: the level, and what follows from it at once. Only kinds that are placed or can come about are in it. */
export interface LevelView {
  readonly level: Level;
  readonly forms: readonly Form[];
  readonly rules: readonly RuleAt[];
  readonly things: readonly Thing[];
  readonly effects: readonly EffectAt[];
  /** Ids of the kinds that are placed or can come about. */
  readonly kinds: ReadonlySet<string>;
  /** Tags of each player. */
  readonly players: readonly (readonly string[])[];
  /** Forms whose things travel by themselves, and so may set off rules. */
  readonly movers: readonly Form[];
  readonly meters: ReadonlyMap<string, MeterSpan>;
  /** Notices that something posts, and that something is set off by or asks for. */
  readonly posted: ReadonlySet<string>;
  readonly heard: ReadonlySet<string>;
}

const TOUCHED: readonly Rule['setOffBy']['type'][] = ['arriving', 'inside', 'leaving'];

/** Whether a rule is set off by touching the thing. */
export const isTouched = ({ setOffBy }: Rule): boolean => TOUCHED.includes(setOffBy.type);

/** Whether a rule's effects come as rates. */
export const isRate = ({ setOffBy }: Rule): boolean => setOffBy.type === 'inside' && setOffBy.pulse === null;

/** Whether any player passes the filter of a rule. */
export const takesPlayer = ({ players }: LevelView, { who }: Rule): boolean => players.some((tags) => whoMatches(who, tags));

/** The box around the sensing shapes of a kind, from its place on; null: it has none. */
export const boxAround = ({ shapes }: Kind): Box | null => boxOver(Object.values(shapes).map((shape) => outlineOf(shape, 0, 0)));

/** How wide and how high a box is. */
export const sizeOf = ({ left, right, bottom, top }: Box): readonly [width: number, height: number] => [right - left, top - bottom];

/** Whether a rule or an item ends the session so. */
export const ends = ({ effects }: LevelView, how: 'won' | 'lost'): boolean =>
  effects.some(({ effect }) => effect.type === 'end' && effect.how === how);

/** Pointers to a value of a rule, wherever it is kept. */
export function keptIn(level: Level, { form, ruleId }: RuleAt, within: string): readonly string[] {
  if (tagRuleOf(ruleId) !== null) return [pointer(rulePath(form.kindId, ruleId)) + within];
  return keptOf(level, form, `/rules/${ruleId}${within}`);
}

/** Pointers to a value of a form, wherever it is kept. */
export const keptOf = (level: Level, { kindId, placements, own }: Form, within: string): readonly string[] =>
  pathsOf(level, { kind: kindId, placements: own ? placements : [] }, within);

/** What has an effect: a kind, or an item. */
export const bearerOf = ({ level }: LevelView, { rule, item }: EffectAt): string =>
  rule?.form.kind.name ?? entry(level.items, item?.id ?? '')?.name ?? '';

/** What a finding on a form is known by. */
export const subjectOf = ({ kindId, placements, own }: Form): string => (own ? `${kindId}/${placements[0] ?? ''}` : kindId);

/** The phases that things of a form ever come to, those in which they start among them. */
export function phasesOf({ level }: LevelView, { kind, placements }: Form): PhaseOfKind[] {
  const starts = placements.map((id) => entry(level.placements, id)?.starts.type ?? 'ready');
  return [...new Set([...phasesOfKind(kind), ...starts])];
}

/** Whether a thing leaves where it is placed by itself: drawn, drifting, or put elsewhere. */
const leavesItsPlace = ({ magnet, drift, rules }: Kind): boolean =>
  magnet !== null || drift !== null || Object.values(rules).some(({ becomes }) => becomes.type === 'moves');

/** Kinds that are placed, and those that come of them: spawned, or dropped items. */
function kindsInPlay(level: Level): Set<string> {
  const all = new Map(allKinds(level));
  const found = new Set(Object.values(level.placements).map(({ kind }) => kind));
  for (const { dropsAs } of Object.values(level.items)) if (dropsAs !== null) found.add(dropsAs);
  // Grows while it is gone over: what is spawned may spawn.
  for (const id of found) {
    for (const rule of Object.values(all.get(id)?.rules ?? {}))
      for (const effect of Object.values(rule.effects))
        if (effect.type === 'spawn') for (const one of Object.keys(effect.pool)) found.add(one);
  }
  return found;
}

function formsIn(level: Level, kinds: ReadonlySet<string>): Form[] {
  const placed = new Map<Kind, { kindId: string; placements: string[]; own: boolean }>();
  const base = new Map(allKinds(level));
  for (const [id, kind] of base) if (kinds.has(id)) placed.set(kind, { kindId: id, placements: [], own: false });
  for (const [id, placement] of inOrder(level.placements)) {
    const kind = kindOfPlacement(level, id);
    if (kind === undefined) continue;
    const form = placed.get(kind) ?? { kindId: placement.kind, placements: [], own: true };
    form.placements.push(id);
    placed.set(kind, form);
  }
  const spawned = new Set<string>();
  for (const { dropsAs } of Object.values(level.items)) if (dropsAs !== null) spawned.add(dropsAs);
  for (const [kind] of placed) {
    for (const { effects } of Object.values(kind.rules))
      for (const effect of Object.values(effects)) if (effect.type === 'spawn') Object.keys(effect.pool).forEach((one) => spawned.add(one));
  }
  // A kind all of whose things have own values is in play only as those.
  return [...placed]
    .map(([kind, form]) => ({ ...form, kind }))
    .filter(({ placements, kindId }) => placements.length > 0 || spawned.has(kindId));
}

function thingsIn(level: Level, forms: readonly Form[]): Thing[] {
  return forms.flatMap((form) => {
    const around = boxAround(form.kind);
    return form.placements.flatMap((id): Thing[] => {
      const placement = entry(level.placements, id);
      if (placement === undefined) return [];
      const { x, y, travel } = placement;
      const box =
        around === null ? null : { left: x + around.left, right: x + around.right, bottom: y + around.bottom, top: y + around.top };
      return [{ id, form, x, y, moves: travel !== null || leavesItsPlace(form.kind), box }];
    });
  });
}

function effectsIn(level: Level, rules: readonly RuleAt[]): EffectAt[] {
  const ofRules = rules.flatMap((rule) =>
    Object.entries(rule.rule.effects).map(([id, effect]): EffectAt => {
      const within = pointer(['effects', id]);
      return {
        effect,
        at: rule.at + within,
        kept: (more) => keptIn(level, rule, within + more),
        rate: isRate(rule.rule),
        rule,
        item: null,
      };
    }),
  );
  const ofItems = Object.entries(level.items).flatMap(([item, { rules: own }]) =>
    Object.entries(own).flatMap(([ruleId, rule]) =>
      Object.entries(rule.effects).map(([id, effect]): EffectAt => {
        const at = pointer(['items', item, 'rules', ruleId, 'effects', id]);
        return { effect, at, kept: (more) => [at + more], rate: rule.setOffBy !== 'use', rule: null, item: { id: item, rule } };
      }),
    ),
  );
  return [...ofRules, ...ofItems];
}

/** Which way an effect may take a meter; null: it does nothing to it. */
function wayOf(effect: Effect, id: string, start: number): { readonly lowers: boolean; readonly raises: boolean } | null {
  if (effect.type === 'lives' && id === 'lives') return { lowers: effect.count < 0, raises: effect.count > 0 };
  if (effect.type === 'kill' && id === 'health') return { lowers: true, raises: false };
  if (effect.type !== 'meter' || effect.meter !== id) return null;
  if (effect.change !== 'set') return { lowers: effect.change === 'take', raises: effect.change !== 'take' };
  if (typeof effect.amount !== 'number') return { lowers: true, raises: true };
  return { lowers: effect.amount < start, raises: effect.amount > start };
}

/** What each meter may come to by what is in the level. */
function spansOf(level: Level, effects: readonly EffectAt[]): Map<string, MeterSpan> {
  const { death } = level;
  const back = death.returns !== 'never';
  return new Map(
    Object.entries(level.meters).map(([id, { lower, upper, start, regeneration }]) => {
      const ways = effects.flatMap(({ effect }) => wayOf(effect, id, start) ?? []);
      const lostByDeath = (id === 'lives' && death.returns === 'while lives last') || (id === 'score' && back && death.score !== 'kept');
      const lowered = lostByDeath || ways.some(({ lowers }) => lowers);
      // Whoever comes back has health again.
      const healed = id === 'health' && back && (death.health ?? start) > start;
      const raised = healed || (regeneration?.perSecond ?? 0) > 0 || ways.some(({ raises }) => raises);
      return [id, { low: lowered ? lower : start, high: raised ? (upper ?? Infinity) : start, lowered, raised }];
    }),
  );
}

function noticesIn(level: Level, rules: readonly RuleAt[], effects: readonly EffectAt[]): { posted: Set<string>; heard: Set<string> } {
  const [posted, heard] = [new Set<string>(), new Set<string>()];
  for (const { effect } of effects) if (effect.type === 'notice') posted.add(effect.notice);
  for (const { atLower, atUpper } of Object.values(level.meters)) for (const one of [atLower, atUpper]) if (one !== null) posted.add(one);
  const asked = (conditions: Rule['provided']): void => {
    for (const one of Object.values(conditions)) if (one.type === 'notice') heard.add(one.notice);
  };
  for (const { rule } of rules) {
    if (rule.setOffBy.type === 'notice') heard.add(rule.setOffBy.notice);
    asked(rule.provided);
  }
  for (const { rules: own } of Object.values(level.items)) for (const rule of Object.values(own)) asked(rule.provided);
  for (const goal of Object.values(level.ends.goals)) if (goal.type === 'notice') heard.add(goal.notice);
  return { posted, heard };
}

const known = new WeakMap<Level, LevelView>();

/** What findings are looked for in, worked out once for a level. */
export function viewOf(level: Level): LevelView {
  const before = known.get(level);
  if (before !== undefined) return before;
  const kinds = kindsInPlay(level);
  const forms = formsIn(level, kinds);
  const rules = forms.flatMap((form) =>
    inOrder(form.kind.rules).map(([ruleId, rule]): RuleAt => ({ form, ruleId, rule, at: pointer(rulePath(form.kindId, ruleId)) })),
  );
  const things = thingsIn(level, forms);
  const effects = effectsIn(level, rules);
  const { count, tags } = level.players;
  const travels = new Set(things.filter(({ id }) => entry(level.placements, id)?.travel != null).map(({ form }) => form));
  const view: LevelView = {
    level,
    forms,
    rules,
    things,
    effects,
    kinds,
    players: Array.from({ length: count }, (_, at) => [...level.body.tags, ...(tags[at] ?? [])]),
    movers: forms.filter((form) => travels.has(form) || form.kind.drift !== null),
    meters: spansOf(level, effects),
    ...noticesIn(level, rules, effects),
  };
  known.set(level, view);
  return view;
}
