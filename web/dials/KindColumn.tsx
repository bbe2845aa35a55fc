import { placementName, plainNumber } from '@dial/core/formats';
import {
  boxAround,
  type Derived,
  derivedOf,
  entry,
  fieldAt,
  inOrder,
  keptAt,
  type Kind,
  kindOf,
  kindOfPlacement,
  type Level,
  levelFields,
  type Owner,
  pointer,
  segmentsOf,
  kindDials,
  placeDials,
} from '@dial/core/level';
import { Fragment } from 'react';
import { removeKind } from '../state/document/authoring.ts';
import { renameShape } from '../state/document/kindEdits.ts';
import { viewActions, onlyPlacement, type Selection } from '../state/slices/view.ts';
import { setValue } from '../state/document/edits.ts';
import { wayPointPath } from '../state/document/spots.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { Button, Pill } from '../controls/controls.tsx';
import { FieldEditor } from '../fields/FieldEditor.tsx';
import { NameField, Typed } from '../fields/fieldInputs.tsx';
import { Folded, SECTION_HEADING } from '../controls/Folded.tsx';
import { Mark } from '../drawing/Mark.tsx';
import { InTheCrowd, InThisRun } from './CameOfIt.tsx';
import { FoundHere } from './FoundHere.tsx';
import { ChaseChart } from './ChaseChart.tsx';
import { DialGroup } from './DialGroup.tsx';
import { Meant } from './Meant.tsx';
import { PhasesTable } from './PhasesTable.tsx';
import { RuleSentences } from './RuleSentences.tsx';
import { SelectionActions } from './SelectionActions.tsx';

/** What a number comes to, in words. */
function derivedWords(level: Level, derived: Derived): string {
  const endless = 'nothing holds it back';
  switch (derived.type) {
    case 'hits to death':
      return derived.hits === Infinity
        ? 'never kills: health comes back as fast'
        : `${String(derived.hits)} hits from full health to death`;
    case 'seconds to death':
      return derived.seconds === Infinity
        ? 'never kills: health comes back as fast'
        : `${plainNumber(derived.seconds, 1)} s from full health to death`;
    case 'per minute': {
      const name = level.meters[derived.meter]?.name ?? derived.meter;
      return derived.amount === Infinity
        ? `${name} as often as one comes: ${endless}`
        : `at best ${plainNumber(derived.amount, 1)} ${name} a minute`;
    }
    case 'distance gained':
      return `${plainNumber(Math.abs(derived.units), 1)} u ${derived.units < 0 ? 'lost' : 'gained'} at walk speed`;
    case 'share of time':
      return derived.share === 1 ? 'can be on all the time' : `can be on ${plainNumber(derived.share * 100)} % of the time`;
  }
}

/** The placements of the selected kind, as a list that selects like the Plan does. */
function PlacementList({ level, selection }: { readonly level: Level; readonly selection: Selection }) {
  const dispatch = useAppDispatch();
  const placements = inOrder(level.placements).filter(([, { kind }]) => kind === selection.kind);
  if (placements.length === 0) return <p className="mt-2 text-xs text-soft">None placed yet.</p>;
  return (
    <section aria-label="placements">
      <h3 className="mt-3 border-b border-line pb-0.5 text-[11px] font-bold text-soft">placements</h3>
      <div className="mt-1.5 flex flex-wrap gap-1">
        {placements.map(([id], index) => (
          <button
            key={id}
            type="button"
            aria-pressed={selection.placements.includes(id)}
            aria-label={placements.length === 1 ? `${placementName(level, id)} 1` : placementName(level, id)}
            className={`min-w-7 cursor-pointer rounded-sm border px-1.5 text-center font-mono text-xs ${
              selection.placements.includes(id) ? 'border-needle bg-card outline outline-needle' : 'border-line bg-card hover:border-ink'
            }`}
            onClick={(event) =>
              dispatch(
                viewActions.selected({ kind: selection.kind, placements: chosenWith(selection, id, event.shiftKey || event.ctrlKey) }),
              )
            }
          >
            {index + 1}
          </button>
        ))}
      </div>
    </section>
  );
}

/** What is chosen when one more is pressed, alone or, with a key held, besides the rest. */
function chosenWith(selection: Selection, id: string, besides: boolean): readonly string[] {
  const others = selection.placements.filter((other) => other !== id);
  const was = others.length < selection.placements.length;
  if (besides) return was ? others : [...others, id];
  return was && others.length === 0 ? [] : [id];
}

/** The names of a kind's shapes, by which rules are tied to one of them. */
function ShapeNames({ owner, kind }: { readonly owner: Owner; readonly kind: Kind }) {
  const store = useAppStore();
  const ids = Object.keys(kind.shapes);
  if (ids.length < 2) return null;
  return ids.map((id) => (
    <Typed
      key={id}
      label={`${id} is called`}
      hint="A rule may be tied to one shape by its name: small letters, digits and dashes."
      text={id}
      read={(typed) => renameShape(store, owner, kind, id, typed.trim())}
    />
  ));
}

/** What a kind is besides its rules and phases: each part in a field of its own. */
function FormFields({ level, owner, kind }: { readonly level: Level; readonly owner: Owner; readonly kind: Kind }) {
  const store = useAppStore();
  const field = fieldAt(levelFields(), level, '/kinds/any');
  if (field?.type !== 'group') return null;
  const set = (name: string, next: unknown): string | null => {
    // A solid box begins as large as the thing.
    const begun = name === 'solid' && kind.solid === null && next !== null ? { ...(next as object), ...boxAround(kind) } : next;
    return setValue(store, keptAt(level, owner, `/kinds/${owner.kind}/${name}`), `${kind.name}: ${name}`, begun);
  };
  const parts = ['role', 'mark', 'tags', 'label', 'shapes', 'solid', 'carries', 'magnet', 'drift', 'cycle'] as const;
  return (
    <Folded name="look, shapes and life" heading="look, shapes and life" className="mt-3" headingClass={SECTION_HEADING}>
      {parts.map((name) => (
        <Fragment key={name}>
          <FieldEditor
            field={field.fields[name] ?? field}
            value={kind[name]}
            label={name}
            level={level}
            onSet={(next) => set(name, next)}
          />
          {name === 'magnet' && <ChaseChart level={level} kind={kind} />}
          {name === 'shapes' && <ShapeNames owner={owner} kind={kind} />}
        </Fragment>
      ))}
    </Folded>
  );
}

/** What a thing has of its own besides values: the path it follows, and the phase it starts in. */
function PlacementFields({ level, id }: { readonly level: Level; readonly id: string }) {
  const store = useAppStore();
  const placement = entry(level.placements, id);
  const field = fieldAt(levelFields(), level, '/placements/any');
  if (field?.type !== 'group' || placement === undefined) return null;
  const { travel } = placement;
  return (
    <>
      {(['travel', 'starts'] as const).map((name) => (
        <FieldEditor
          key={name}
          field={field.fields[name] ?? field}
          value={placement[name]}
          label={name === 'travel' ? 'follows' : name}
          level={level}
          onSet={(next) => setValue(store, [pointer(['placements', id, name])], `${placementName(level, id)}: ${name}`, next)}
        />
      ))}
      {travel !== null && (
        <Button
          kind="quiet"
          className="mt-1 text-xs"
          onClick={() => store.dispatch(viewActions.selected({ spot: wayPointPath('paths', travel.path, 0) }))}
        >
          To its path
        </Button>
      )}
    </>
  );
}

/** The column of a kind, or of things of one kind. */
export function KindColumn({
  level,
  kindId,
  selection,
}: {
  readonly level: Level;
  readonly kindId: string;
  readonly selection: Selection;
}) {
  const store = useAppStore();
  const apart = useAppSelector((state) => state.view.onlyThese);
  const placed = Object.values(level.placements).filter((placement) => placement.kind === kindId).length;
  const only = onlyPlacement(selection);
  const placement = only === null ? undefined : level.placements[only];
  const owner: Owner = { kind: kindId, placements: apart ? selection.placements : [] };
  const [first] = owner.placements;
  const kind = first === undefined ? kindOf(level, kindId) : kindOfPlacement(level, first);
  if (kind === undefined) return null;
  const derived = derivedOf(level, kind);
  return (
    <>
      <h2 className="flex items-center gap-2 text-base font-bold">
        <Mark kind={kind} />
        <NameField
          key={kindId}
          label="Name of the kind"
          name={kind.name}
          most={120}
          onName={(name) =>
            setValue(store, [pointer([kindId in level.variants ? 'variants' : 'kinds', kindId, 'name'])], `rename ${kind.name}`, name)
          }
        />
        <span className="font-normal">
          <Pill>{placed} placed</Pill>
        </span>
      </h2>
      {kindId in level.variants && (
        <p className="text-xs text-soft">based on {kindOf(level, level.variants[kindId]?.basedOn ?? '')?.name}: the rest follows</p>
      )}
      {selection.placements.length > 0 && <Meant every={`every ${kind.name}`} count={selection.placements.length} />}
      <RuleSentences level={level} owner={owner} kind={kind} />
      <FoundHere
        isHere={({ at, where }) => {
          const [map, id] = segmentsOf(at);
          if (map === 'placements') return id !== undefined && selection.placements.includes(id);
          const isOfKind = (map === 'kinds' || map === 'variants') && id === kindId;
          return isOfKind && (only === null || where.placements.length === 0 || where.placements.includes(only));
        }}
      />
      <InThisRun level={level} kindId={kindId} only={only} />
      <InTheCrowd level={level} kindId={kindId} only={only} />
      {derived.length > 0 && (
        <p className="mt-1.5 px-2.5 text-[12.5px]">
          <b>In figures</b> {derived.map((one) => derivedWords(level, one)).join(' · ')}
        </p>
      )}
      <DialGroup specs={kindDials(level, owner)} level={level} />
      <PhasesTable level={level} owner={owner} kind={kind} />
      <FormFields level={level} owner={owner} kind={kind} />
      <PlacementList level={level} selection={selection} />
      {only !== null && placement?.travel === null && <DialGroup specs={placeDials('placements', only, placement)} level={level} />}
      {only !== null && <PlacementFields key={only} level={level} id={only} />}
      {selection.placements.length > 0 && <SelectionActions selection={selection} />}
      {selection.placements.length === 0 && (
        <Button kind="quiet" className="mt-4" onClick={() => removeKind(store, kindId)}>
          Delete {kind.name}
        </Button>
      )}
    </>
  );
}
