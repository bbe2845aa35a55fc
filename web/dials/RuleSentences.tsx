import { ruleSentence } from '@dial/core/formats';
import {
  allKinds,
  entry,
  freeId,
  inOrder,
  keptAt,
  type Kind,
  lastOrder,
  type Level,
  movedBefore,
  newOrders,
  type Owner,
  pointer,
  Rule,
  rulePath,
  tagRuleOf,
  withOuter,
} from '@dial/core/level';
import { useState, type ReactNode } from 'react';
import { deleteForAll, exempt, makeOwnRule, putOnTag, takeAgain } from '../state/document/kindEdits.ts';
import { writeTo } from '../state/document/changes.ts';
import { sayRefused, setValue, tryEdit } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { Sortable, SortedEntry, type Sorted } from '../controls/Sortable.tsx';
import { roleColour } from '../drawing/roles.ts';
import { RuleSentence } from './RuleSentence.tsx';

interface KindRules {
  readonly level: Level;
  readonly owner: Owner;
  readonly kind: Kind;
}

interface ForWhomProps {
  readonly question: string;
  /** All it is for, and what it is to do for one kind alone. */
  readonly every: string;
  readonly one: string;
  readonly onEvery: () => void;
  readonly onOne: () => void;
  readonly onLeave: () => void;
}

/** Asks whether something is meant for all that bear a tag, or for one kind. */
function ForWhom({ question, every, one, onEvery, onOne, onLeave }: ForWhomProps) {
  return (
    <p role="group" aria-label={question} className="my-1 flex flex-wrap gap-1.5 rounded-sm border border-ink bg-paper px-2 py-1.5">
      <span className="w-full">{question}</span>
      <Button className="text-xs" onClick={onEvery}>
        For {every}
      </Button>
      <Button className="text-xs" onClick={onOne}>
        {one}
      </Button>
      <Button kind="quiet" className="text-xs" onClick={onLeave}>
        Leave it
      </Button>
    </p>
  );
}

/** A rule that sits on a tag of the kind: whom else it is for, and, before it is changed, for whom the change is meant. */
function TagRuleSentence({ level, owner, kind, ruleId, rule }: KindRules & { readonly ruleId: string; readonly rule: Rule }) {
  const store = useAppStore();
  const [forAll, setForAll] = useState(false);
  const [deleting, setDeleting] = useState(false);
  const tag = entry(level.tagRules, tagRuleOf(ruleId)?.tagRules ?? '')?.tag ?? '';
  const others = allKinds(level).filter(([id, other]) => id !== owner.kind && entry(other.rules, ruleId) !== undefined);
  const also = others.length === 0 ? 'on no other kind' : `also on ${others.map(([, { name }]) => name).join(', ')}`;
  const every = others.length === 0 ? 'the tag' : `all ${String(others.length + 1)} kinds`;
  const at = pointer(rulePath(owner.kind, ruleId));
  return (
    <div className="mt-2 border-t border-line pt-1.5 first:mt-0 first:border-0 first:pt-0">
      <p className="text-[11px] text-soft">
        From the tag <b>{tag}</b>, {also}
        {forAll && ': what is changed here is changed for all of them'}.
      </p>
      <RuleSentence
        level={level}
        name={`tag ${tag}`}
        rule={rule}
        parts={ruleSentence(level, kind.name, rule, at)}
        at={at}
        like="/kinds/any/rules/any"
        placesOf={(path) => [path]}
        shapes={Object.keys(kind.shapes)}
        sorted={null}
        onDelete={() => setDeleting(true)}
        ask={
          forAll
            ? null
            : (go, leave) => (
                <ForWhom
                  question="Change it for whom?"
                  every={every}
                  one={`As a rule of ${kind.name} alone`}
                  onEvery={() => {
                    setForAll(true);
                    go();
                  }}
                  onOne={() => makeOwnRule(store, owner, ruleId)}
                  onLeave={leave}
                />
              )
        }
      />
      {deleting && (
        <ForWhom
          question="Delete it for whom?"
          every={every}
          one={`For ${kind.name} alone`}
          onEvery={() => deleteForAll(store, ruleId)}
          onOne={() => exempt(store, owner, ruleId)}
          onLeave={() => setDeleting(false)}
        />
      )}
    </div>
  );
}

/** What touching a kind does, as sentences that are edited phrase by phrase: its own rules, then those of its tags. */
export function RuleSentences({ level, owner, kind }: KindRules) {
  const store = useAppStore();
  const rules = inOrder(kind.rules);
  const own = rules.filter(([id]) => tagRuleOf(id) === null);
  const add = (): void => {
    const id = freeId(kind.rules, 'rule');
    const rule = Rule.parse({ order: lastOrder(Object.fromEntries(own)), setOffBy: { type: 'arriving' } });
    const paths = keptAt(level, owner, pointer(['kinds', owner.kind, 'rules', id]));
    sayRefused(store, setValue(store, paths, `${kind.name}: another rule`, rule));
  };
  const ids = own.map(([id]) => id);
  const move = (id: string, before: string | null): void => {
    const orders = newOrders(movedBefore(ids, id, before), id, (one) => kind.rules[one]?.order ?? 0);
    tryEdit(store, `${kind.name}: another order of rules`, (draft) => {
      for (const [one, order] of orders) {
        for (const path of keptAt(level, owner, pointer([...rulePath(owner.kind, one), 'order']))) writeTo(draft, path, order);
      }
    });
  };
  const sentence = (id: string, rule: Rule, sorted: Sorted | null): ReactNode => {
    const at = pointer(rulePath(owner.kind, id));
    return (
      <RuleSentence
        key={id}
        level={level}
        name={kind.name}
        rule={rule}
        parts={ruleSentence(level, kind.name, rule, at)}
        at={at}
        like="/kinds/any/rules/any"
        placesOf={(path) => keptAt(level, owner, path)}
        shapes={Object.keys(kind.shapes)}
        sorted={sorted}
        more={(rule.touching === null ? withOuter(kind.tags) : []).map((tag) => (
          <Button key={tag} kind="quiet" className="text-xs" onClick={() => sayRefused(store, putOnTag(store, owner, kind, id, tag))}>
            Put it on every {tag}
          </Button>
        ))}
      />
    );
  };
  return (
    <div
      className="my-2 rounded-sm border-l-[3px] bg-card px-2.5 py-1.5 text-[12.5px] leading-[1.45]"
      style={{ borderColor: roleColour(kind.role) }}
    >
      {rules.length === 0 && <p>Touching it does nothing.</p>}
      <Sortable ids={ids} runs="down" nameOf={(id) => `rule ${String(ids.indexOf(id) + 1)}`} onMove={move}>
        {rules.map(([id, rule]) => {
          if (tagRuleOf(id) !== null) return <TagRuleSentence key={id} level={level} owner={owner} kind={kind} ruleId={id} rule={rule} />;
          if (ids.length < 2) return sentence(id, rule, null);
          return (
            <SortedEntry key={id} id={id}>
              {(sorted) => sentence(id, rule, sorted)}
            </SortedEntry>
          );
        })}
      </Sortable>
      {kind.exempt.flatMap((id) => {
        const tag = entry(level.tagRules, tagRuleOf(id)?.tagRules ?? '')?.tag;
        if (tag === undefined) return [];
        return [
          <p key={id} className="mt-2 flex items-baseline gap-2 border-t border-line pt-1.5 text-[11px] text-soft">
            <span className="flex-1">
              Without a rule of the tag <b>{tag}</b>.
            </span>
            <Button kind="quiet" className="px-1.5! py-0! text-[11px]" onClick={() => takeAgain(store, owner, kind, id)}>
              Take it again
            </Button>
          </p>,
        ];
      })}
      <button
        type="button"
        className="mt-1.5 cursor-pointer rounded-sm border border-line bg-card px-1 py-px text-[11px] hover:border-ink"
        onClick={add}
      >
        + rule
      </button>
    </div>
  );
}
