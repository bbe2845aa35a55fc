import type { DragEvent, KeyboardEvent } from 'react';

interface Reordering {
  /** What is dragged, as a media type: only entries of the same list can be dropped on each other. */
  readonly type: string;
  readonly ids: readonly string[];
  readonly id: string;
  /** Whether the list runs across or down. */
  readonly runs: 'across' | 'down';
  /** Puts an entry before another, or last. */
  readonly onMove: (id: string, before: string | null) => void;
}

/** What an entry of a list needs to be put elsewhere in it: dragged, or with Alt and the arrow keys. */
export function reordering({ type, ids, id, runs, onMove }: Reordering) {
  const across = runs === 'across';
  const at = ids.indexOf(id);
  const drop = (event: DragEvent<HTMLElement>): void => {
    const dragged = event.dataTransfer.getData(type);
    if (dragged === '') return;
    event.preventDefault();
    event.stopPropagation();
    const box = event.currentTarget.getBoundingClientRect();
    const first = across ? event.clientX < box.left + box.width / 2 : event.clientY < box.top + box.height / 2;
    const before = first ? id : (ids[at + 1] ?? null);
    if (ids.includes(dragged) && dragged !== before && dragged !== id) onMove(dragged, before);
  };
  return {
    draggable: true,
    onDragStart: (event: DragEvent<HTMLElement>): void => {
      event.stopPropagation();
      event.dataTransfer.setData(type, id);
    },
    onDragOver: (event: DragEvent<HTMLElement>): void => {
      if (event.dataTransfer.types.includes(type)) event.preventDefault();
    },
    onDrop: drop,
    onKeyDown: (event: KeyboardEvent<HTMLElement>): void => {
      const way = across ? { ArrowLeft: -1, ArrowRight: 2 }[event.key] : { ArrowUp: -1, ArrowDown: 2 }[event.key];
      if (!event.altKey || way === undefined) return;
      event.preventDefault();
      if (at + way >= 0 && at + way <= ids.length) onMove(id, ids[at + way] ?? null);
    },
  };
}

/** What is said of an entry that can be put elsewhere. */
export const reorderTitle = (runs: Reordering['runs']): string => `Drag to put it elsewhere (Alt + ${runs === 'across' ? '← →' : '↑ ↓'})`;
