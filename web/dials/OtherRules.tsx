import { itemSentence, ruleSentence } from '@dial/core/formats';
import { allKinds, freeId, inOrder, ItemRule, lastOrder, type Level, named, pointer, Rule } from '@dial/core/level';
import { sayRefused, setValue } from '../state/document/edits.ts';
import { useAppStore } from '../state/store.ts';
import { Button } from '../controls/controls.tsx';
import { Typed } from '../fields/fieldInputs.tsx';
import { RuleSentence } from './RuleSentence.tsx';

const itself = (path: string): readonly string[] => [path];

/** What an item does, as sentences. */
export function ItemRules({ level, id }: { readonly level: Level; readonly id: string }) {
  const store = useAppStore();
  const item = level.items[id];
  if (item === undefined) return null;
  const add = (): void => {
    const rule = ItemRule.parse({ order: lastOrder(item.rules), setOffBy: 'carried' });
    sayRefused(store, setValue(store, [pointer(['items', id, 'rules', freeId(item.rules, 'rule')])], `${item.name}: another rule`, rule));
  };
  return (
    <div className="mt-2 text-[12.5px] leading-[1.45]">
      <h4 className="text-[11px] font-bold text-soft">what it does</h4>
      {Object.keys(item.rules).length === 0 && <p className="text-xs text-soft">Carrying, holding or using it does nothing yet.</p>}
      {inOrder(item.rules).map(([ruleId, rule]) => {
        const at = pointer(['items', id, 'rules', ruleId]);
        return (
          <RuleSentence
            key={ruleId}
            level={level}
            name={item.name}
            rule={rule}
            parts={itemSentence(level, item.name, rule, at)}
            at={at}
            like="/items/any/rules/any"
            placesOf={itself}
            sorted={null}
          />
        );
      })}
      <Button kind="quiet" className="mt-1 text-xs" onClick={add}>
        Add a rule
      </Button>
    </div>
  );
}

/** The rules that sit on tags, as sentences under each tag. */
export function TagRules({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const set = (way: readonly string[], label: string, value: unknown): string | null =>
    setValue(store, [pointer(['tagRules', ...way])], label, value);
  const rule = (order: number) => Rule.parse({ order, setOffBy: { type: 'arriving' } });
  const tags = named(level, 'tags').map(([tag]) => tag);
  const addTag = (): void => {
    // Of the tags there are one that some kind bears: on that of a player no rule sits.
    const tag = allKinds(level).flatMap(([, kind]) => kind.tags)[0] ?? 'pickup';
    const made = { tag, order: lastOrder(level.tagRules), rules: { rule: rule(1) } };
    sayRefused(store, set([freeId(level.tagRules, 'tag-rules')], 'rules for a tag', made));
  };
  return (
    <>
      {Object.keys(level.tagRules).length === 0 && (
        <p className="mt-1 text-xs text-soft">None yet. A rule for a tag acts on every kind that bears it, present and to come.</p>
      )}
      {inOrder(level.tagRules).map(([id, { tag, rules }]) => (
        <div key={id} className="mt-2 border-l-2 border-line pl-2 text-[12.5px] leading-[1.45]">
          <Typed
            label="for the tag"
            hint="Every kind that bears it, or one nested in it, has these rules."
            text={tag}
            suggestions={tags}
            read={(typed) => set([id, 'tag'], 'tag', typed.trim())}
          />
          {inOrder(rules).map(([ruleId, one]) => {
            const at = pointer(['tagRules', id, 'rules', ruleId]);
            return (
              <RuleSentence
                key={ruleId}
                level={level}
                name={`tag ${tag}`}
                rule={one}
                parts={ruleSentence(level, 'thing', one, at)}
                at={at}
                like="/kinds/any/rules/any"
                placesOf={itself}
                sorted={null}
              />
            );
          })}
          <span className="mt-1 flex gap-1.5">
            <Button
              kind="quiet"
              className="text-xs"
              onClick={() =>
                sayRefused(store, set([id, 'rules', freeId(rules, 'rule')], `tag ${tag}: another rule`, rule(lastOrder(rules))))
              }
            >
              Add a rule
            </Button>
            <Button kind="quiet" className="text-xs" onClick={() => sayRefused(store, set([id], `delete rules of ${tag}`, undefined))}>
              Delete all for {tag}
            </Button>
          </span>
        </div>
      ))}
      <Button kind="quiet" className="mt-1.5 text-xs" onClick={addTag}>
        Rules for a tag
      </Button>
    </>
  );
}
