import { DragOverlay, pointerWithin, rectIntersection, type CollisionDetection } from '@dnd-kit/core';
import { kindOf, type Level } from '@dial/core/level';
import { useState, type ReactNode } from 'react';
import { createPortal } from 'react-dom';
import { Dragging } from '../controls/Sortable.tsx';
import { Mark } from '../drawing/Mark.tsx';

/** What the pointer is over; in a gap of the Tray, the kind that the dragged one lies over most. */
const under: CollisionDetection = (of) => {
  const found = pointerWithin(of);
  return found.length > 0 ? found : rectIntersection(of);
};

/** Where kinds are dragged: along the Tray, and out of it onto the Plan. What is dragged goes with the pointer. */
export function KindDragging({ level, children }: { readonly level: Level; readonly children: ReactNode }) {
  const [held, setHeld] = useState<string | null>(null);
  const kind = held === null ? undefined : kindOf(level, held);
  return (
    <Dragging collisions={under} onHeld={setHeld}>
      {children}
      {createPortal(
        <DragOverlay dropAnimation={null}>
          {kind !== undefined && (
            <span className="inline-flex items-center gap-1.5 rounded-lg border border-needle bg-card px-1.5 py-1 text-xs font-bold">
              <Mark kind={kind} />
              {kind.name}
            </span>
          )}
        </DragOverlay>,
        document.body,
      )}
    </Dragging>
  );
}
