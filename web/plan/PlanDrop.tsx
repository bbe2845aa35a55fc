import { useDroppable } from '@dnd-kit/core';
import type { DropData } from '../controls/Sortable.tsx';

/** Where kinds are let go on: all of the Plan. An id of a kind has no blank in it. */
export function PlanDrop({ onDrop }: { readonly onDrop: DropData['onDrop'] }) {
  const data: DropData = { name: () => 'the Plan', onDrop };
  const { setNodeRef, isOver } = useDroppable({ id: 'the Plan', data });
  return (
    <div
      ref={setNodeRef}
      className={`pointer-events-none absolute inset-0 ${isOver ? 'outline-2 -outline-offset-2 outline-needle' : ''}`}
    />
  );
}
