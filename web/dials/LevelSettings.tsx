import { differenceWords, plainNumber } from '@dial/core/formats';
import {
  addLives,
  blank,
  type Field,
  fieldAt,
  freeId,
  inOrder,
  jumpOf,
  lastOrder,
  type Level,
  levelFields,
  movedBefore,
  newOrders,
  nextTone,
  pointer,
  type Rescaled,
  rescaleMeter,
  setAt,
} from '@dial/core/level';
import { produce } from 'immer';
import { useState, type ReactNode } from 'react';
import { makeEdit, setValue, tryEdit } from '../state/document/edits.ts';
import { simulatedActions, toBeWalked } from '../state/slices/simulated.ts';
import { useAppDispatch, useAppStore } from '../state/store.ts';
import { Button, Refused } from '../controls/controls.tsx';
import { BackgroundPicture } from './BackgroundPicture.tsx';
import { ItemRules, TagRules } from './OtherRules.tsx';
import { PlayersFields } from './PlayersFields.tsx';
import { FoundHere } from './FoundHere.tsx';
import { FieldEditor } from '../fields/FieldEditor.tsx';
import { Folded, SECTION_HEADING } from '../controls/Folded.tsx';
import { later } from '../controls/later.tsx';
import { spaced } from '../fields/fieldInputs.tsx';
import { Sortable, SortedEntry, sortHint } from '../controls/Sortable.tsx';

const Targets = later(() => import('./Targets.tsx').then((module) => module.Targets), { soon: true });

function Section({ name, children }: { readonly name: string; readonly children: ReactNode }) {
  return (
    <Folded name={name} heading={name} className="mt-3" headingClass={SECTION_HEADING}>
      {children}
    </Folded>
  );
}

/** Some fields of a part of the level. */
function Fields({ level, at, names }: { readonly level: Level; readonly at: string; readonly names?: readonly string[] }) {
  const store = useAppStore();
  const whole = fieldAt(levelFields(), level, at);
  const field = whole?.type === 'maybe' ? whole.of : whole;
  const value = (at === '' ? level : level[at.slice(1) as keyof Level]) as Readonly<Record<string, unknown>>;
  if (field?.type !== 'group') return null;
  return (names ?? Object.keys(field.fields)).map((name) => (
    <FieldEditor
      key={name}
      field={field.fields[name] ?? field}
      value={value[name]}
      label={spaced(name)}
      level={level}
      onSet={(next) => setValue(store, [`${at}/${name}`], spaced(name), next)}
    />
  ));
}

type NamedMap = 'meters' | 'items' | 'flourishes' | 'tries' | 'personas';

/** What a new entry of a map begins as, besides what the schema says. */
const BEGINNINGS: Readonly<Record<NamedMap, readonly [one: string, values: object]>> = {
  meters: ['meter', { lower: 0, upper: 100, start: 100 }],
  items: ['item', { most: 9 }],
  flourishes: ['flourish', {}],
  tries: ['starting state', {}],
  personas: ['persona', {}],
};

/** The entries of a map, each to be opened, and a way to add one. */
function Entries({ level, map, extra }: { readonly level: Level; readonly map: NamedMap; readonly extra?: (id: string) => ReactNode }) {
  const store = useAppStore();
  const [refusal, setRefusal] = useState<string | null>(null);
  const field = fieldAt(levelFields(), level, `/${map}/any`) as Field & { type: 'group' };
  const [one, values] = BEGINNINGS[map];
  const entries = inOrder<{ readonly name: string; readonly order: number }>(level[map]);
  const ids = entries.map(([id]) => id);
  const move = (id: string, before: string | null): void => {
    tryEdit(store, `put ${level[map][id]?.name ?? id} elsewhere`, (draft) => {
      for (const [other, order] of newOrders(movedBefore(ids, id, before), id, (of) => level[map][of]?.order ?? 0)) {
        const found = draft[map][other];
        if (found !== undefined) found.order = order;
      }
    });
  };
  const set = (id: string, of: string, name: string, next: unknown): string | null => {
    const label = `${of}: ${spaced(name)}`;
    // Lives are counted in the meter with this id: one that is given the name is meant to be it.
    if (map === 'meters' && name === 'name' && next === 'lives' && level.meters['lives'] === undefined) {
      const refusal = makeEdit(store, label, (draft) => {
        const meter = draft.meters[id];
        if (meter === undefined) return;
        draft.meters['lives'] = { ...meter, name: 'lives' };
        setAt(draft, pointer(['meters', id]), undefined);
      });
      // What speaks of the meter already keeps it from being them; it is then only called so.
      if (refusal === null) return null;
    }
    return setValue(store, [pointer([map, id, name])], label, next);
  };
  const add = (): void => {
    const id = freeId(level[map], one);
    const tone = map === 'flourishes' ? { tone: nextTone(level) } : {};
    const made = { ...(blank(field, level) as object), name: id.replaceAll('-', ' '), order: lastOrder(level[map]), ...values, ...tone };
    setRefusal(setValue(store, [pointer([map, id])], `new ${one}`, made));
  };
  return (
    <>
      <Sortable ids={ids} runs="down" nameOf={(id) => level[map][id]?.name ?? id} onMove={move}>
        {entries.map(([id, value]) => (
          <SortedEntry key={id} id={id}>
            {({ entry: sorted, handle }) => (
              <div {...sorted}>
                <Folded
                  name={`${map} ${id}`}
                  heading={value.name}
                  className="mt-1 border-l-2 border-line pl-2"
                  headingClass="text-xs font-semibold"
                  headingHint={sortHint('down')}
                  headingProps={handle}
                >
                  {Object.entries(field.fields)
                    .filter(([name]) => name !== 'order' && name !== 'rules')
                    .map(([name, part]) => (
                      <FieldEditor
                        key={name}
                        field={part}
                        value={(value as unknown as Readonly<Record<string, unknown>>)[name]}
                        label={spaced(name)}
                        level={level}
                        onSet={(next) => set(id, value.name, name, next)}
                      />
                    ))}
                  {extra?.(id)}
                  <Button
                    kind="quiet"
                    className="mt-1.5 text-xs"
                    onClick={() => setRefusal(setValue(store, [pointer([map, id])], `delete ${value.name}`, undefined))}
                  >
                    Delete {value.name}
                  </Button>
                </Folded>
              </div>
            )}
          </SortedEntry>
        ))}
      </Sortable>
      <Refused why={refusal === null ? null : `Not done: ${refusal}. The level is as it was.`} />
      <Button kind="quiet" className="mt-1.5 text-xs" onClick={add}>
        New {one}
      </Button>
      {map === 'meters' && level.meters['lives'] === undefined && (
        <Button kind="quiet" className="mt-1.5 ml-1.5 text-xs" onClick={() => tryEdit(store, 'lives', addLives)}>
          Add lives
        </Button>
      )}
    </>
  );
}

/** A meter brought to another upper limit, and every amount that touches it with it: first shown, then done. */
function Rescale({ level, meter }: { readonly level: Level; readonly meter: string }) {
  const store = useAppStore();
  const [typed, setTyped] = useState('');
  const now = level.meters[meter]?.upper;
  const upper = Number(typed.replace(',', '.'));
  if (now == null || now === 0) return null;
  const asked = typed.trim() !== '' && Number.isFinite(upper) && upper > 0 && upper !== now;
  const numbers: readonly Rescaled[] = asked ? rescaleMeter(level, meter, upper) : [];
  const rescale = (draft: Level): void => {
    for (const { path, now: next } of numbers) setAt(draft, path, next);
  };
  return (
    <div className="mt-2 text-xs">
      <label className="flex items-center gap-2">
        <span className="w-[92px]">rescale to</span>
        <input
          inputMode="decimal"
          className="w-[84px] rounded-sm border border-line bg-card px-1.5 py-0.5 text-right font-mono"
          placeholder={String(now)}
          value={typed}
          onChange={({ target }) => setTyped(target.value)}
        />
      </label>
      <Refused why={typed.trim() !== '' && !asked && upper !== now ? 'The new upper limit is a number above 0.' : null} />
      {asked && (
        <>
          <ul
            aria-label="What would change"
            className="mt-1 max-h-40 overflow-y-auto rounded-sm border border-line bg-card px-2 py-1 font-mono text-[11px]"
          >
            {differenceWords(level, produce(level, rescale)).map(({ path, words }) => (
              <li key={path}>{words}</li>
            ))}
          </ul>
          <Button
            className="mt-1 text-xs"
            onClick={() => {
              makeEdit(store, `rescale ${meter} to ${String(upper)}`, rescale);
              setTyped('');
            }}
          >
            Rescale {numbers.length} numbers
          </Button>
        </>
      )}
    </div>
  );
}

/** Lets a persona play the run on the Strip. */
function PutOnStrip({ level, id }: { readonly level: Level; readonly id: string }) {
  const dispatch = useAppDispatch();
  return (
    <Button
      kind="quiet"
      className="mt-1.5 mr-1.5 text-xs"
      onClick={() => dispatch(simulatedActions.runChosen(toBeWalked(level, { personas: [id] })))}
    >
      Put on the Strip
    </Button>
  );
}

/** What is set for a level as a whole, shown while nothing is chosen. */
export function LevelSettings({ level }: { readonly level: Level }) {
  const store = useAppStore();
  const jump = level.view === 'side' ? jumpOf(level.body) : null;
  return (
    <section aria-label="Level settings">
      {jump !== null && (
        <p className="mt-2 text-xs">
          A full jump rises <b>{plainNumber(jump.height, 2)} u</b>, takes <b>{plainNumber(jump.seconds, 2)} s</b> and carries{' '}
          <b>{plainNumber(jump.reach, 2)} u</b> at walk speed.
        </p>
      )}
      <FoundHere isHere={({ at }) => !/^\/(kinds|variants|placements)\//.test(at)} />
      <Section name="body and feel">
        <Fields level={level} at="/body" />
      </Section>
      <Section name="meters">
        <Entries level={level} map="meters" extra={(id) => <Rescale key={id} level={level} meter={id} />} />
      </Section>
      <Section name="items">
        <Entries level={level} map="items" extra={(id) => <ItemRules level={level} id={id} />} />
      </Section>
      <Section name="rules for tags">
        <TagRules level={level} />
      </Section>
      <Section name="death and return">
        <Fields level={level} at="/death" />
      </Section>
      <Section name="ends">
        <Fields level={level} at="/ends" />
      </Section>
      <Section name="players">
        <Fields level={level} at="/players" names={['count', 'sharedScore']} />
        <PlayersFields level={level} />
      </Section>
      <Section name="readouts">
        {Object.keys(level.readouts).length === 0 && (
          <p className="mt-1 text-xs text-soft">None stated: Play shows the meters, the items, what is held and the time.</p>
        )}
        <Fields level={level} at="" names={['readouts']} />
      </Section>
      <Section name="starting states">
        <p className="mt-1 text-xs text-soft">
          To try a cure without getting hurt first: start a play, or the run on the Strip, from one of these.
        </p>
        <Entries level={level} map="tries" />
      </Section>
      <Section name="personas">
        <p className="mt-1 text-xs text-soft">Simulated players: put one on the Strip, and these are dials.</p>
        <Entries level={level} map="personas" extra={(id) => <PutOnStrip level={level} id={id} />} />
      </Section>
      <Section name="targets">
        <Targets level={level} />
      </Section>
      <Section name="the crowd it states">
        <p className="mt-1 text-xs text-soft">Who plays when nothing else is said: on the page Crowd, and by “dial crowd”.</p>
        <Fields level={level} at="" names={['crowd']} />
      </Section>
      <Section name="flourishes">
        <Entries level={level} map="flourishes" />
      </Section>
      <Section name="level and scale">
        <Fields level={level} at="" names={['name', 'size', 'scale', 'rate']} />
      </Section>
      <Section name="background picture">
        <BackgroundPicture level={level} />
        {level.background !== null && (
          <>
            <Fields level={level} at="/background" names={['x', 'y', 'pixelsPerUnit', 'strength']} />
            <Button kind="quiet" className="mt-1.5 text-xs" onClick={() => setValue(store, ['/background'], 'no background picture', null)}>
              Take it away
            </Button>
          </>
        )}
      </Section>
    </section>
  );
}
