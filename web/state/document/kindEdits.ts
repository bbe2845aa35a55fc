import { freeId, keptAt, kindOf, kindOfPlacement, lastOrder, type Kind, type Owner, pointer, tagRuleOf } from '@dial/core/level';
import { writeTo } from './changes.ts';
import { makeEdit, tryEdit } from './edits.ts';
import type { AppStore } from '../store.ts';

/** Lets a rule that sits on a tag no longer sit on one kind; with `besides`, something else is written in the same step. */
function leaveOut(store: AppStore, owner: Owner, ruleId: string, label: string, own: boolean): void {
  const level = store.getState().document.open?.level;
  const [first] = owner.placements;
  const kind: Kind | undefined =
    level === undefined ? undefined : first === undefined ? kindOf(level, owner.kind) : kindOfPlacement(level, first);
  const rule = kind?.rules[ruleId];
  if (level === undefined || kind === undefined || rule === undefined) return;
  const write = (within: string, value: unknown) =>
    keptAt(level, owner, `${pointer(['kinds', owner.kind])}/${within}`).map((path) => ({ path, value }));
  const id = freeId(kind.rules, 'rule');
  const writes = [
    ...write('exempt', [...kind.exempt, ruleId]),
    ...(own ? write(`rules/${id}`, { ...rule, order: lastOrder(kind.rules) }) : []),
  ];
  tryEdit(store, `${kind.name}: ${label}`, (draft) => {
    for (const { path, value } of writes) writeTo(draft, path, value);
  });
}

/** Gives a kind a rule of its own in the place of one that sits on a tag. */
export const makeOwnRule = (store: AppStore, owner: Owner, ruleId: string): void =>
  leaveOut(store, owner, ruleId, 'a rule of its own', true);

/** Takes a rule that sits on a tag from one kind. */
export const exempt = (store: AppStore, owner: Owner, ruleId: string): void =>
  leaveOut(store, owner, ruleId, 'without a rule of its tag', false);

/**
 * Puts a kind's own rule on one of its tags instead, where it acts on all that bear the tag. One that is tied to a shape is of
 * its kind alone, and is not asked for. Answers why not, when it is refused.
 */
export function putOnTag(store: AppStore, owner: Owner, kind: Kind, ruleId: string, tag: string): string | null {
  const level = store.getState().document.open?.level;
  const rule = kind.rules[ruleId];
  if (level === undefined || rule === undefined) return null;
  const paths = keptAt(level, owner, pointer(['kinds', owner.kind, 'rules', ruleId]));
  const on = Object.keys(level.tagRules).find((id) => level.tagRules[id]?.tag === tag) ?? freeId(level.tagRules, 'tag-rules');
  const rules = level.tagRules[on]?.rules ?? {};
  return makeEdit(store, `${kind.name}: a rule for every ${tag}`, (draft) => {
    for (const path of paths) writeTo(draft, path, undefined);
    const there = (draft.tagRules[on] ??= { tag, order: lastOrder(level.tagRules), rules: {} });
    there.rules[freeId(rules, 'rule')] = { ...rule, order: lastOrder(rules) };
  });
}

/** Lets a rule of its tags sit on a kind again. */
export function takeAgain(store: AppStore, owner: Owner, kind: Kind, ruleId: string): void {
  const level = store.getState().document.open?.level;
  if (level === undefined) return;
  tryEdit(store, `${kind.name}: a rule of its tag again`, (draft) => {
    const left = kind.exempt.filter((id) => id !== ruleId);
    for (const path of keptAt(level, owner, pointer(['kinds', owner.kind, 'exempt']))) writeTo(draft, path, left);
  });
}

/** Deletes a rule that sits on a tag; where it was the only one there, what held it too. */
export function deleteForAll(store: AppStore, ruleId: string): void {
  const found = tagRuleOf(ruleId);
  if (found === null) return;
  tryEdit(store, 'delete a rule of a tag', (draft) => {
    const on = draft.tagRules[found.tagRules];
    if (on === undefined) return;
    // Of what is gone nobody is exempt any more: another of the name may come.
    for (const kind of Object.values(draft.kinds)) kind.exempt = kind.exempt.filter((id) => id !== ruleId);
    const left = Object.keys(on.rules).some((id) => id !== found.rule);
    writeTo(draft, pointer(left ? ['tagRules', found.tagRules, 'rules', found.rule] : ['tagRules', found.tagRules]), undefined);
  });
}

/** Calls a shape of a kind otherwise, and ties the rules that are tied to it to the new name. Answers why not, when it is refused. */
export function renameShape(store: AppStore, owner: Owner, kind: Kind, id: string, to: string): string | null {
  const level = store.getState().document.open?.level;
  if (level === undefined || id === to) return null;
  if (Object.hasOwn(kind.shapes, to)) return `there is a shape "${to}" already`;
  const shapes = Object.fromEntries(Object.entries(kind.shapes).map(([one, shape]) => [one === id ? to : one, shape]));
  const tied = Object.entries(kind.rules).filter(([ruleId, { touching }]) => touching === id && tagRuleOf(ruleId) === null);
  return makeEdit(store, `${kind.name}: ${id} is called ${to}`, (draft) => {
    const write = (within: string, value: unknown): void => {
      for (const path of keptAt(level, owner, `${pointer(['kinds', owner.kind])}/${within}`)) writeTo(draft, path, value);
    };
    write('shapes', shapes);
    for (const [ruleId] of tied) write(`rules/${ruleId}/touching`, to);
  });
}
