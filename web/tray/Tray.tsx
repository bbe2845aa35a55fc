import { plainNumber } from '@dial/core/formats';
import { allKinds, inOrder, kindOf, type Effect, type Kind, type Level } from '@dial/core/level';
import { viewActions } from '../state/slices/view.ts';
import { reorderKind } from '../state/document/authoring.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { Mark } from '../drawing/Mark.tsx';
import { Pick, PickBar } from '../controls/Toolbar.tsx';
import { SortOrder, useSorted } from '../controls/Sortable.tsx';
import { memo, useRef, useState } from 'react';
import { SearchField } from '../controls/SearchField.tsx';
import { useBeyond } from '../controls/hooks/useBeyond.ts';
import { NewKind } from './NewKind.tsx';
import { Hint } from '../controls/Hint.tsx';

/** The main number of an effect, as short as it can be said. */
function effectValue(effect: Effect): string {
  switch (effect.type) {
    case 'meter': {
      const sign = effect.change === 'add' ? '+' : effect.change === 'take' ? '−' : '=';
      if (effect.change === 'fill') return 'fills';
      if (typeof effect.amount === 'number') return sign + plainNumber(effect.amount);
      return 'share' in effect.amount ? `${sign}${plainNumber(effect.amount.share * 100)} %` : `${sign} curve`;
    }
    case 'item':
    case 'lives':
      return (effect.count > 0 ? '+' : '−') + plainNumber(Math.abs(effect.count));
    case 'movement':
      return { multiply: '×', add: '+', set: '=' }[effect.change] + plainNumber(effect.value);
    case 'launch':
      return typeof effect.strength === 'number' ? `${plainNumber(effect.strength)} u/s` : 'curve';
    case 'push':
      return `${plainNumber(effect.strength)} u/s`;
    case 'shield':
      return `${plainNumber(effect.seconds)} s`;
    case 'kill':
      return 'kills';
    case 'move':
      return 'puts away';
    default:
      return effect.type;
  }
}

/** What a kind is mainly for: its first effect. */
function mainValue(kind: Kind): string {
  const rule = inOrder(kind.rules)[0]?.[1];
  const effect = rule === undefined ? undefined : inOrder(rule.effects)[0]?.[1];
  if (rule === undefined) return '';
  if (effect === undefined) return rule.windUp === null ? '' : `after ${plainNumber(rule.windUp.seconds)} s`;
  const rate = rule.setOffBy.type === 'inside' && rule.setOffBy.pulse === null && effect.type === 'meter';
  return effectValue(effect) + (rate ? '/s' : '');
}

/** So many kinds are seen at a glance. */
const FEW = 6;

interface TrayKindProps {
  readonly id: string;
  readonly kind: Kind;
  readonly count: number;
}

/** A kind: its mark, its name, what it is mainly for and how many are placed. */
const TrayKind = memo(function TrayKind({ id, kind, count }: TrayKindProps) {
  const dispatch = useAppDispatch();
  const { entry, handle } = useSorted(id);
  const says = mainValue(kind);
  return (
    <Hint says="Drag onto the Plan to place one, or along the Tray to put it elsewhere" keys="Alt + ← →">
      <Pick
        value={id}
        data-beyond=""
        {...entry}
        {...handle}
        onContextMenu={() => dispatch(viewActions.selected({ kind: id }))}
        className="flex h-10 shrink-0 cursor-pointer items-center gap-1.5 rounded-lg border border-line bg-card py-1 pr-2.5 pl-1.5 text-left hover:border-ink aria-checked:border-needle aria-checked:outline aria-checked:outline-needle"
      >
        <Mark kind={kind} />
        <span>
          <b className="block text-xs leading-[14px] whitespace-nowrap">{kind.name}</b>
          <span className="block font-mono text-[11px] leading-[13px] whitespace-nowrap">
            {says}{' '}
            <span className="text-soft">
              {says !== '' && '· '}
              {count === 0 ? 'unused' : count}
            </span>
          </span>
        </span>
      </Pick>
    </Hint>
  );
});

/** The row of kinds: to choose, to drag out onto the Plan, and to make new ones. */
export function Tray({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const { kind: selected, placements } = useAppSelector((state) => state.view.selection);
  const store = useAppStore();
  const [search, setSearch] = useState('');
  const bar = useRef<HTMLDivElement>(null);
  const all = allKinds(level);
  const wanted = search.trim().toLowerCase();
  const kinds = all.filter(([, { name, role, tags }]) => [name, role, ...tags].some((word) => word.toLowerCase().includes(wanted)));
  const ids = kinds.map(([id]) => id);
  const count = new Map<string, number>();
  for (const { kind } of Object.values(level.placements)) count.set(kind, (count.get(kind) ?? 0) + 1);
  const beyond = useBeyond(bar, 'right', ids.join());
  return (
    <div className="flex h-[54px] items-center border-b border-line bg-panel">
      {all.length > FEW && (
        <span className="ml-3.5 shrink-0 text-xs">
          <SearchField label="Find in the Tray" hint="name, role, tag" width="w-[118px]" value={search} onChange={setSearch} />
        </span>
      )}
      <SortOrder
        ids={ids}
        runs="across"
        nameOf={(id) => kindOf(level, id)?.name ?? id}
        // Last of those that are found is not last of all.
        onMove={(kind, before) => reorderKind(store, kind, before ?? all[all.findIndex(([id]) => id === ids.at(-1)) + 1]?.[0] ?? null)}
      >
        <PickBar
          ref={bar}
          label="Tray"
          className="flex h-full min-w-0 flex-1 items-center gap-1.5 overflow-x-auto overflow-y-hidden px-3.5 [scrollbar-width:thin]"
          value={selected ?? ''}
          // Pressed with things of it chosen, all of the kind is; pressed again, nothing.
          onPick={(id) => {
            const again = id === '' && placements.length > 0 ? selected : id;
            dispatch(viewActions.selected({ kind: again === '' ? null : again }));
          }}
        >
          {kinds.length === 0 && all.length > 0 && <p className="text-soft">No kind has that in its name, role or tags.</p>}
          {all.length === 0 && <p className="text-soft">This level has no kinds yet. Make one with “New kind”, then place it.</p>}
          {kinds.map(([id, kind]) => (
            <TrayKind key={id} id={id} kind={kind} count={count.get(id) ?? 0} />
          ))}
        </PickBar>
      </SortOrder>
      {beyond > 0 && (
        <button
          type="button"
          className="h-10 shrink-0 cursor-pointer border-l border-line px-1.5 text-xs hover:underline"
          onClick={() => bar.current?.scrollBy({ left: bar.current.clientWidth * 0.8 })}
        >
          {beyond} more ▸
        </button>
      )}
      <NewKind level={level} selected={selected} />
    </div>
  );
}
