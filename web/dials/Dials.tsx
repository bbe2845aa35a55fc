import { placementName, plainNumber } from '@dial/core/formats';
import { inOrder, kindOf, type Kind, type Level } from '@dial/core/level';
import type { PlacementOutcome } from '@dial/core/session';
import { useState } from 'react';
import { benchActions, onlyPlacement, type Selection } from '../state/bench.ts';
import { duplicateSelection, lineUp, removeKind, removeSelection } from '../state/authoring.ts';
import { valueAt } from '../state/changes.ts';
import { setDial, turnDial } from '../state/edits.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { Mark } from '../ui/Mark.tsx';
import { Button, Pill } from '../ui/controls.tsx';
import { roleColour } from '../ui/roles.ts';
import { TapeDial } from '../ui/TapeDial.tsx';
import { kindDials, placeDials, playerDials, type DialSpec } from '../ui/dialList.ts';
import { ruleSentence } from './sentence.ts';
import { useOutcomeCurve } from './useOutcomeCurve.ts';

/** Goes to the dial of a number in the sentence. */
function focusDial(path: string): void {
  const dial = document.querySelector<HTMLElement>(`[data-path="${CSS.escape(path)}"] [role=slider]`);
  dial?.scrollIntoView({ block: 'nearest' });
  dial?.focus();
}

function Sentences({ level, kindId, kind }: { readonly level: Level; readonly kindId: string; readonly kind: Kind }) {
  const rules = inOrder(kind.rules);
  return (
    <div
      className="my-2 rounded-sm border-l-[3px] bg-card px-2.5 py-1.5 text-[12.5px] leading-[1.45]"
      style={{ borderColor: roleColour(kind.role) }}
    >
      {rules.length === 0 && <p>Touching it does nothing.</p>}
      {rules.map(([id, rule]) => (
        <p key={id}>
          {ruleSentence(level, kind.name, rule, `/kinds/${kindId}/rules/${id}`).map(({ text, path }, index) =>
            path === undefined ? (
              <span key={index}>{text}</span>
            ) : (
              <button
                key={index}
                type="button"
                className="cursor-pointer font-semibold underline decoration-dotted underline-offset-[3px] hover:decoration-solid"
                onClick={() => focusDial(path)}
              >
                {text}
              </button>
            ),
          )}
        </p>
      ))}
    </div>
  );
}

function DialGroup({ specs, level }: { readonly specs: readonly DialSpec[]; readonly level: Level }) {
  const store = useAppStore();
  const dispatch = useAppDispatch();
  const compared = useAppSelector((state) => state.bench.open?.compared?.level ?? null);
  const [looking, setLooking] = useState<string | null>(null);
  const curve = useOutcomeCurve(specs.find(({ path }) => path === looking) ?? null);
  const groups = [...new Set(specs.map(({ group }) => group))];
  return groups.map((group) => (
    <section key={group} aria-label={group}>
      <h3 className="mt-3 border-b border-line pb-0.5 text-[11px] font-bold text-soft">{group}</h3>
      {specs
        .filter((spec) => spec.group === group)
        .map((spec) => {
          const was = compared === null ? undefined : valueAt(compared, spec.path);
          return (
            <div key={spec.path} data-path={spec.path}>
              <TapeDial
                label={spec.label}
                value={spec.value}
                was={typeof was === 'number' ? was : null}
                range={spec.range}
                sign={spec.sign}
                scale={level.scale}
                curve={looking === spec.path ? curve : null}
                onTurn={(value) => {
                  if (value === null) dispatch(benchActions.turned(null));
                  else turnDial(store, spec.path, value);
                }}
                onSet={(value) => setDial(store, spec.path, spec.label, value)}
                onFocus={() => setLooking(spec.path)}
              />
            </div>
          );
        })}
    </section>
  ));
}

const PHASE_NAMES = [
  ['ready', 'ready'],
  ['windingUp', 'winding up'],
  ['active', 'active'],
  ['resting', 'resting'],
  ['spent', 'spent'],
  ['off', 'off'],
] as const;

function Phases({ kind }: { readonly kind: Kind }) {
  const rules = Object.values(kind.rules);
  const becomes = (type: string): boolean => rules.some((rule) => rule.becomes.type === type);
  const happens = {
    ready: true,
    windingUp: rules.some(({ windUp }) => windUp !== null),
    active: rules.some(({ active }) => active.type !== 'instant'),
    resting: becomes('rests'),
    spent: becomes('spent') || rules.some(({ uses }) => uses !== null),
    off: becomes('off') || kind.cycle !== null,
  };
  const phases = PHASE_NAMES.filter(([phase]) => happens[phase]);
  return (
    <table className="mt-3 w-full text-left text-xs">
      <thead>
        <tr className="text-[11px] text-soft">
          <th className="py-0.5 font-bold">phase</th>
          <th className="font-semibold">shown</th>
          {kind.solid !== null && <th className="font-semibold">solid</th>}
          <th className="font-semibold">sensing</th>
        </tr>
      </thead>
      <tbody>
        {phases.map(([phase, name]) => (
          <tr key={phase} className="border-t border-line">
            <td className="py-0.5">{name}</td>
            <td>{kind.phases[phase].shown}</td>
            {kind.solid !== null && <td>{kind.phases[phase].solid ? 'yes' : 'no'}</td>}
            <td>{kind.phases[phase].sensing ? 'yes' : 'no'}</td>
          </tr>
        ))}
      </tbody>
    </table>
  );
}

function usedWords(outcome: PlacementOutcome): string {
  const times = (count: number): string =>
    count === 0 ? 'never' : count === 1 ? 'once' : count === 2 ? 'twice' : `${String(count)} times`;
  const parts = [`used ${times(outcome.uses)}, refused ${times(outcome.refusals)}.`];
  if (outcome.healed > 0 || outcome.wasted > 0)
    parts.push(`Healed ${plainNumber(outcome.healed, 1)}, wasted ${plainNumber(outcome.wasted, 1)}.`);
  if (outcome.hurt > 0) parts.push(`Took ${plainNumber(outcome.hurt, 1)} health.`);
  if (outcome.scored > 0) parts.push(`Scored ${plainNumber(outcome.scored)}.`);
  if (outcome.waitingSeconds > 0) parts.push(`Stood in for ${plainNumber(outcome.waitingSeconds, 1)} s while it rested.`);
  return parts.join(' ');
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
            aria-label={placementName(level, id)}
            className={`min-w-7 cursor-pointer rounded-sm border px-1.5 text-center font-mono text-xs ${
              selection.placements.includes(id) ? 'border-needle bg-card outline outline-needle' : 'border-line bg-card hover:border-ink'
            }`}
            onClick={(event) =>
              dispatch(
                benchActions.selected({ kind: selection.kind, placements: chosenWith(selection, id, event.shiftKey || event.ctrlKey) }),
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

/** The name of a kind, to be typed over. */
function KindName({ kindId, name, variant }: { readonly kindId: string; readonly name: string; readonly variant: boolean }) {
  const store = useAppStore();
  const [refusal, setRefusal] = useState<string | null>(null);
  const finish = (typed: string): void => {
    if (typed.trim() === name) return;
    setRefusal(setDial(store, `/${variant ? 'variants' : 'kinds'}/${kindId}/name`, `rename ${name}`, typed.trim()));
  };
  return (
    <input
      aria-label="Name of the kind"
      title={refusal ?? 'Type another name'}
      aria-invalid={refusal !== null}
      className="min-w-0 flex-1 rounded-sm border border-transparent bg-transparent px-1 hover:border-line focus:border-ink aria-invalid:border-harm"
      defaultValue={name}
      maxLength={120}
      onBlur={(event) => finish(event.target.value)}
      onKeyDown={(event) => {
        if (event.key === 'Enter') event.currentTarget.blur();
      }}
    />
  );
}

function SelectionActions({ selection }: { readonly selection: Selection }) {
  const store = useAppStore();
  const count = selection.placements.length;
  return (
    <div className="mt-4 flex flex-wrap items-center gap-2">
      <Button kind="quiet" title="Ctrl+D" onClick={() => duplicateSelection(store)}>
        Duplicate
      </Button>
      <Button kind="quiet" title="Delete" onClick={() => removeSelection(store)}>
        Delete
      </Button>
      {count > 1 && <span className="text-xs text-soft">{count} things</span>}
      {count > 1 && (
        <div className="flex w-full gap-2">
          <Button kind="quiet" title="All as far up as the leftmost" onClick={() => lineUp(store, 'row', false)}>
            In a row
          </Button>
          <Button kind="quiet" title="All as far right as the lowest" onClick={() => lineUp(store, 'column', false)}>
            In a column
          </Button>
          <Button kind="quiet" title="Evenly from left to right" onClick={() => lineUp(store, 'row', true)}>
            Spread
          </Button>
        </div>
      )}
    </div>
  );
}

/** The column of several things: what they are, and what can be done with all of them. */
function SeveralColumn({ level, selection }: { readonly level: Level; readonly selection: Selection }) {
  const counts = new Map<string, number>();
  for (const id of selection.placements) {
    const kind = level.placements[id]?.kind;
    if (kind !== undefined) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  }
  return (
    <>
      <h2 className="text-base font-bold">{selection.placements.length} things</h2>
      <ul className="my-2 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
        {[...counts].map(([kind, count]) => (
          <li key={kind}>
            {count} × {kindOf(level, kind)?.name}
          </li>
        ))}
      </ul>
      <p className="text-xs text-soft">Drag them together, or nudge them with the arrow keys (Shift: a whole unit).</p>
      <SelectionActions selection={selection} />
    </>
  );
}

/** The column of a solid: where it is, and how large. */
function SolidColumn({ level, selection, solidId }: { readonly level: Level; readonly selection: Selection; readonly solidId: string }) {
  const solid = level.solids[solidId];
  if (solid === undefined) return null;
  return (
    <>
      <h2 className="text-base font-bold">{solid.sides.length === 4 ? 'Solid' : 'One-way platform'}</h2>
      <p className="my-2 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
        {solid.sides.length === 4 ? 'Nobody walks through it.' : `It stops players at its ${solid.sides.join(' and ')} only.`}
      </p>
      <DialGroup specs={placeDials('solids', solidId, solid)} level={level} />
      <SelectionActions selection={selection} />
    </>
  );
}

function KindColumn({
  level,
  kindId,
  kind,
  selection,
}: {
  readonly level: Level;
  readonly kindId: string;
  readonly kind: Kind;
  readonly selection: Selection;
}) {
  const store = useAppStore();
  const outcome = useAppSelector((state) => state.bench.simulated.now?.outcome ?? null);
  const placed = Object.values(level.placements).filter((placement) => placement.kind === kindId).length;
  const only = onlyPlacement(selection);
  const placement = only === null ? undefined : level.placements[only];
  const inRun = only === null ? outcome?.perKind[kindId] : outcome?.perPlacement[only];
  return (
    <>
      <h2 className="flex items-center gap-2 text-base font-bold">
        <Mark kind={kind} />
        <KindName key={kind.name} kindId={kindId} name={kind.name} variant={kindId in level.variants} />
        <span className="font-normal">
          <Pill>{placed} placed</Pill>
        </span>
      </h2>
      <Sentences level={level} kindId={kindId} kind={kind} />
      {inRun !== undefined && (
        <p className="rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]" aria-live="polite">
          <b>In this run</b> {only === null ? '' : `${placementName(level, only)} was `}
          {usedWords(inRun)}
        </p>
      )}
      <DialGroup specs={kindDials(level, kindId)} level={level} />
      <Phases kind={kind} />
      <PlacementList level={level} selection={selection} />
      {only !== null && placement?.travel === null && <DialGroup specs={placeDials('placements', only, placement)} level={level} />}
      {selection.placements.length > 0 && <SelectionActions selection={selection} />}
      {selection.placements.length === 0 && (
        <Button kind="quiet" className="mt-4" onClick={() => removeKind(store, kindId)}>
          Delete {kind.name}
        </Button>
      )}
    </>
  );
}

/** The column of what is selected: what it does in words, then its dials. Nothing selected: the player's. */
export function Dials({ level }: { readonly level: Level }) {
  const selection = useAppSelector((state) => state.bench.selection);
  const kind = selection.kind === null ? undefined : kindOf(level, selection.kind);
  return (
    <aside aria-label="Dials" className="h-full overflow-y-auto border-l-[1.5px] border-ink bg-paper px-[18px] pt-3 pb-6">
      {selection.solid !== null && selection.solid in level.solids ? (
        <SolidColumn level={level} selection={selection} solidId={selection.solid} />
      ) : kind === undefined && selection.placements.length > 1 ? (
        <SeveralColumn level={level} selection={selection} />
      ) : kind !== undefined && selection.kind !== null ? (
        <KindColumn key={selection.kind} level={level} kindId={selection.kind} kind={kind} selection={selection} />
      ) : (
        <>
          <h2 className="text-base font-bold">The player</h2>
          <p className="my-2 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
            Choose a kind in the Tray, a thing in the Plan or a row of the Strip to see its dials. These are the player’s own.
          </p>
          <DialGroup specs={playerDials(level)} level={level} />
        </>
      )}
    </aside>
  );
}
