import { placementName, plainNumber } from '@dial/core/formats';
import { inOrder, kindOf, type Kind, type Level } from '@dial/core/level';
import type { PlacementOutcome } from '@dial/core/session';
import { useState } from 'react';
import { benchActions, type Selection } from '../state/bench.ts';
import { valueAt } from '../state/changes.ts';
import { setDial, turnDial } from '../state/edits.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { Mark } from '../ui/Mark.tsx';
import { Pill } from '../ui/controls.tsx';
import { roleColour } from '../ui/roles.ts';
import { TapeDial } from '../ui/TapeDial.tsx';
import { kindDials, playerDials, type DialSpec } from './dialList.ts';
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
            aria-pressed={selection.placement === id}
            aria-label={placementName(level, id)}
            className={`min-w-7 cursor-pointer rounded-sm border px-1.5 text-center font-mono text-xs ${
              selection.placement === id ? 'border-needle bg-card outline outline-needle' : 'border-line bg-card hover:border-ink'
            }`}
            onClick={() => dispatch(benchActions.selected({ kind: selection.kind, placement: selection.placement === id ? null : id }))}
          >
            {index + 1}
          </button>
        ))}
      </div>
    </section>
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
  const outcome = useAppSelector((state) => state.bench.simulated.now?.outcome ?? null);
  const placed = Object.values(level.placements).filter((placement) => placement.kind === kindId).length;
  const placement = selection.placement === null ? undefined : level.placements[selection.placement];
  const inRun = selection.placement === null ? outcome?.perKind[kindId] : outcome?.perPlacement[selection.placement];
  return (
    <>
      <h2 className="flex items-center gap-2 text-base font-bold">
        <Mark kind={kind} />
        {kind.name}
        <span className="font-normal">
          <Pill>{placed} placed</Pill>
        </span>
      </h2>
      <Sentences level={level} kindId={kindId} kind={kind} />
      {inRun !== undefined && (
        <p className="rounded-sm border border-line bg-card px-2.5 py-1.5 text-[12.5px]" aria-live="polite">
          <b>In this run</b> {selection.placement === null ? '' : `${placementName(level, selection.placement)} was `}
          {usedWords(inRun)}
        </p>
      )}
      <DialGroup specs={kindDials(level, kindId)} level={level} />
      <Phases kind={kind} />
      <PlacementList level={level} selection={selection} />
      {placement !== undefined && (
        <p className="mt-2 text-xs">
          {placement.travel === null ? 'at ' : 'travels from '}
          <span className="font-mono">
            {plainNumber(placement.x)}, {plainNumber(placement.y)}
          </span>
        </p>
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
      {kind !== undefined && selection.kind !== null ? (
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
