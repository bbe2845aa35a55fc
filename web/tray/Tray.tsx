import { plainNumber } from '@dial/core/formats';
import { allKinds, inOrder, type Effect, type Kind, type Level } from '@dial/core/level';
import type { KeyboardEvent } from 'react';
import { viewActions } from '../state/slices/view.ts';
import { reorderKind } from '../state/document/authoring.ts';
import { useAppDispatch, useAppSelector, useAppStore } from '../state/store.ts';
import { KIND_DRAGGED } from '../controls/dragging.ts';
import { Mark } from '../drawing/Mark.tsx';
import { reordering } from '../controls/reordering.ts';
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

/** The arrow keys go from one button of a row to the next. */
function toNeighbour(event: KeyboardEvent<HTMLElement>): void {
  const way = { ArrowRight: 1, ArrowLeft: -1 }[event.key];
  if (way === undefined || event.altKey || event.ctrlKey || event.metaKey) return;
  const buttons = [...event.currentTarget.querySelectorAll<HTMLElement>('button')];
  const next = buttons[buttons.indexOf(document.activeElement as HTMLElement) + way];
  if (next === undefined) return;
  event.preventDefault();
  event.stopPropagation();
  next.focus();
}

/** The row of kinds: to choose, to drag out onto the Plan, and to make new ones. */
export function Tray({ level }: { readonly level: Level }) {
  const dispatch = useAppDispatch();
  const { kind: selected, placements } = useAppSelector((state) => state.view.selection);
  const store = useAppStore();
  const kinds = allKinds(level);
  const ids = kinds.map(([id]) => id);
  const stop = selected !== null && ids.includes(selected) ? selected : ids[0];
  return (
    <div className="flex h-[54px] items-center border-b border-line bg-panel">
      <div
        role="toolbar"
        aria-label="Tray"
        className="flex h-full min-w-0 flex-1 items-center gap-1.5 overflow-x-auto px-3.5"
        onKeyDown={toNeighbour}
      >
        {kinds.length === 0 && <p className="text-soft">This level has no kinds yet. Make one with “New kind”, then place it.</p>}
        {kinds.map(([id, kind]) => {
          const count = Object.values(level.placements).filter((placement) => placement.kind === id).length;
          const on = selected === id;
          return (
            <button
              key={id}
              type="button"
              aria-pressed={on}
              // One stop for Tab; within, the arrow keys go from kind to kind.
              tabIndex={id === stop ? 0 : -1}
              {...reordering({ type: KIND_DRAGGED, ids, id, runs: 'across', onMove: (kind, before) => reorderKind(store, kind, before) })}
              title="Drag onto the Plan to place one, or along the Tray to put it elsewhere (Alt + ← →)"
              className={`flex h-10 shrink-0 cursor-pointer items-center gap-1.5 rounded-lg border bg-card py-1 pr-2.5 pl-1.5 text-left ${
                on ? 'border-needle outline outline-needle' : 'border-line hover:border-ink'
              }`}
              // Pressed with things of it chosen, all of the kind is; pressed again, nothing.
              onClick={() => dispatch(viewActions.selected({ kind: on && placements.length === 0 ? null : id }))}
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
