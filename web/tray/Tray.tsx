import { plainNumber } from '@dial/core/formats';
import { allKinds, inOrder, type Effect, type Kind, type Level } from '@dial/core/level';
import type { DragEvent } from 'react';
import { benchActions } from '../state/bench.ts';
import { reorderKind } from '../state/authoring.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { KIND_DRAGGED } from '../ui/dragging.ts';
import { Mark } from '../ui/Mark.tsx';
import { NewKind } from './NewKind.tsx';

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
  if (rule === undefined || effect === undefined) return '';
  const rate = rule.setOffBy.type === 'inside' && rule.setOffBy.pulse === null && effect.type === 'meter';
  return effectValue(effect) + (rate ? '/s' : '');
}

/** The row of kinds: to choose, to drag out onto the Plan, and to make new ones. */
export function Tray({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const selected = useAppSelector((state) => state.bench.selection.kind);
  const store = useAppStore();
  const kinds = allKinds(level);
  /** The kind before which one is dropped on this: this, or the next when it is dropped on its right half. */
  const beforeOrAfter = (event: DragEvent<HTMLElement>, id: string): string | null => {
    const box = event.currentTarget.getBoundingClientRect();
    if (event.clientX < box.left + box.width / 2) return id;
    return kinds[kinds.findIndex(([one]) => one === id) + 1]?.[0] ?? null;
  };
  return (
    <div className="flex h-[54px] items-center border-b border-line bg-panel">
      <div role="toolbar" aria-label="Tray" className="flex h-full min-w-0 flex-1 items-center gap-1.5 overflow-x-auto px-3.5">
        {kinds.length === 0 && <p className="text-soft">This level has no kinds yet. Make one with “New kind”, then place it.</p>}
        {kinds.map(([id, kind]) => {
          const count = Object.values(level.placements).filter((placement) => placement.kind === id).length;
          const on = selected === id;
          return (
            <button
              key={id}
              type="button"
              aria-pressed={on}
              draggable
              title="Drag onto the Plan to place one, or along the Tray to put it elsewhere (Alt + ← →)"
              className={`flex h-10 shrink-0 cursor-pointer items-center gap-1.5 rounded-lg border bg-card py-1 pr-2.5 pl-1.5 text-left ${
                on ? 'border-needle outline outline-needle' : 'border-line hover:border-ink'
              }`}
              onClick={() => dispatch(benchActions.selected({ kind: on ? null : id }))}
              onDragStart={(event) => event.dataTransfer.setData(KIND_DRAGGED, id)}
              onDragOver={(event) => event.dataTransfer.types.includes(KIND_DRAGGED) && event.preventDefault()}
              onDrop={(event) => {
                event.preventDefault();
                const dragged = event.dataTransfer.getData(KIND_DRAGGED);
                if (dragged !== '' && dragged !== id) reorderKind(store, dragged, beforeOrAfter(event, id));
              }}
              onKeyDown={(event) => {
                const way = { ArrowLeft: -1, ArrowRight: 2 }[event.key];
                if (!event.altKey || way === undefined) return;
                event.preventDefault();
                const at = kinds.findIndex(([one]) => one === id);
                if (at + way >= 0) reorderKind(store, id, kinds[at + way]?.[0] ?? null);
              }}
            >
              <Mark kind={kind} />
              <span>
                <b className="block text-xs leading-[14px] whitespace-nowrap">{kind.name}</b>
                <span className="block font-mono text-[11px] leading-[13px] whitespace-nowrap">
                  {mainValue(kind)} <span className="text-soft">· {count === 0 ? 'unused' : count}</span>
                </span>
              </span>
            </button>
          );
        })}
      </div>
      <NewKind level={level} selected={selected} />
    </div>
  );
}
