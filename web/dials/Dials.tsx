import { kindOf, type Level, placeDials, playerDials } from '@dial/core/level';
import { sharedDials } from '../state/document/dialList.ts';
import type { Selection } from '../state/slices/view.ts';
import { useAppSelector } from '../state/store.ts';
import { DialGroup } from './DialGroup.tsx';
import { Meant } from './Meant.tsx';
import { LevelSettings } from './LevelSettings.tsx';
import { KindColumn } from './KindColumn.tsx';
import { PersonaColumns } from './PersonaColumn.tsx';
import { SelectionActions } from './SelectionActions.tsx';
import { SpotColumn, SpotList } from './SpotColumn.tsx';

/** The column of several things: what they are, and what can be done with all of them. */
function SeveralColumn({ level, selection }: { readonly level: Level; readonly selection: Selection }) {
  const counts = new Map<string, number>();
  for (const id of selection.placements) {
    const kind = level.placements[id]?.kind;
    if (kind !== undefined) counts.set(kind, (counts.get(kind) ?? 0) + 1);
  }
  const only = useAppSelector((state) => state.view.onlyThese);
  const shared = sharedDials(level, selection.placements, only);
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
      <p className="mb-1.5 text-xs text-soft">Drag them together, or nudge them with the arrow keys (Shift: a whole unit).</p>
      {shared.length > 0 && <Meant every="all of these kinds" count={selection.placements.length} />}
      <DialGroup specs={shared} level={level} />
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

/** The column of what is selected: what it does in words, then its dials. Nothing selected: the player's. */
export function Dials({ level }: { readonly level: Level }) {
  const selection = useAppSelector((state) => state.view.selection);
  const kind = selection.kind === null ? undefined : kindOf(level, selection.kind);
  return (
    <aside
      aria-label="Dials"
      className="@container h-full border-t-[1.5px] desk:overflow-y-auto desk:border-t-0 border-ink bg-paper px-[18px] desk:pl-[11px] pt-3 pb-6"
    >
      {selection.spot !== null ? (
        <SpotColumn key={selection.spot} level={level} spot={selection.spot} />
      ) : selection.solid !== null && selection.solid in level.solids ? (
        <SolidColumn level={level} selection={selection} solidId={selection.solid} />
      ) : kind === undefined && selection.placements.length > 1 ? (
        <SeveralColumn level={level} selection={selection} />
      ) : kind !== undefined && selection.kind !== null ? (
        <KindColumn key={selection.kind} level={level} kindId={selection.kind} selection={selection} />
      ) : (
        <>
          <PersonaColumns level={level} />
          <h2 className="text-base font-bold">The player</h2>
          <p className="my-2 rounded-sm border-l-[3px] border-ink bg-card px-2.5 py-1.5 text-[12.5px]">
            Choose a kind in the Tray, a thing in the Plan or a row of the Strip to see its dials. These are the player’s own, and below
            them the settings of the level.
          </p>
          <DialGroup specs={playerDials(level)} level={level} />
          <SpotList level={level} />
          <LevelSettings level={level} />
        </>
      )}
    </aside>
  );
}
