import {
  closestCenter,
  DndContext,
  MouseSensor,
  TouchSensor,
  useSensor,
  useSensors,
  type Announcements,
  type CollisionDetection,
  type DragEndEvent,
  type DragStartEvent,
  type UniqueIdentifier,
} from '@dnd-kit/core';
import {
  horizontalListSortingStrategy,
  rectSortingStrategy,
  SortableContext,
  useSortable,
  verticalListSortingStrategy,
} from '@dnd-kit/sortable';
import { CSS } from '@dnd-kit/utilities';
import {
  createContext,
  use,
  useEffect,
  useLayoutEffect,
  useMemo,
  useRef,
  useState,
  type CSSProperties,
  type HTMLAttributes,
  type KeyboardEvent,
  type ReactNode,
} from 'react';
import { hold } from './keyboard.ts';

/** Where something was let go. Pixels of the window. */
export interface LetGo {
  readonly clientX: number;
  readonly clientY: number;
  readonly altKey: boolean;
}

/** What a place to let go on does with what is let go. */
export interface DropData {
  readonly name: () => string;
  readonly onDrop: (dragged: string, at: LetGo) => void;
}

const dataOf = (of: { readonly data: { readonly current: unknown } } | null): DropData | undefined =>
  of === null ? undefined : (of.data.current as DropData | undefined);

const ANNOUNCED: Announcements = {
  onDragStart: ({ active }) => `${dataOf(active)?.name() ?? ''} is held.`,
  onDragOver: ({ over }) => (over === null ? 'Over nothing that takes it.' : `Over ${dataOf(over)?.name() ?? ''}.`),
  onDragEnd: ({ over }) =>
    over === null ? 'Let go where nothing takes it; it stays where it was.' : `Put to ${dataOf(over)?.name() ?? ''}.`,
  onDragCancel: () => 'Taken back.',
};

/** One and the same at all times: with others, all that can be dragged would be made anew. */
const BY_MOUSE = { activationConstraint: { distance: 4 } };
const BY_TOUCH = { activationConstraint: { delay: 200, tolerance: 8 } };
const SPOKEN = { announcements: ANNOUNCED, screenReaderInstructions: { draggable: 'Alt and an arrow key put it elsewhere.' } };

interface DraggingProps {
  readonly collisions?: CollisionDetection;
  readonly onHeld?: (id: string | null) => void;
  readonly children: ReactNode;
}

/** Where things are dragged, by mouse or, held for a moment, by touch. Escape takes it back; no other key does anything meanwhile. */
export function Dragging({ collisions = closestCenter, onHeld, children }: DraggingProps) {
  const sensors = useSensors(useSensor(MouseSensor, BY_MOUSE), useSensor(TouchSensor, BY_TOUCH));
  const letGo = useRef<() => void>(() => undefined);
  const alt = useRef(false);
  const over = (): void => {
    letGo.current();
    onHeld?.(null);
  };
  const begin = ({ active }: DragStartEvent): void => {
    const watch = (event: PointerEvent): void => void (alt.current = event.altKey);
    // What drags listens for Escape on the document.
    const release = hold(() => document.dispatchEvent(new KeyboardEvent('keydown', { key: 'Escape', code: 'Escape' })));
    addEventListener('pointermove', watch, true);
    addEventListener('pointerup', watch, true);
    letGo.current = () => {
      release();
      removeEventListener('pointermove', watch, true);
      removeEventListener('pointerup', watch, true);
    };
    onHeld?.(String(active.id));
  };
  const end = ({ active, over: target, activatorEvent, delta }: DragEndEvent): void => {
    over();
    const from = 'touches' in activatorEvent ? (activatorEvent as TouchEvent).touches[0] : (activatorEvent as MouseEvent);
    if (target === null || target.id === active.id || from === undefined) return;
    dataOf(target)?.onDrop(String(active.id), { clientX: from.clientX + delta.x, clientY: from.clientY + delta.y, altKey: alt.current });
  };
  return (
    <DndContext
      sensors={sensors}
      collisionDetection={collisions}
      accessibility={SPOKEN}
      onDragStart={begin}
      onDragEnd={end}
      onDragCancel={over}
    >
      {children}
    </DndContext>
  );
}

interface Order {
  readonly ids: readonly string[];
  readonly nameOf: (id: string) => string;
  readonly keys: Readonly<Record<string, number>>;
  /** Puts an entry before another, or last, and says so. */
  readonly move: (id: string, before: string | null) => void;
  readonly moves: boolean;
}

const Ordered = createContext<Order | null>(null);

const ACROSS = { ArrowLeft: -1, ArrowRight: 2 };
const DOWN = { ArrowUp: -1, ArrowDown: 2 };
const STRATEGIES = { across: horizontalListSortingStrategy, down: verticalListSortingStrategy, flowing: rectSortingStrategy };

interface OrderProps {
  readonly ids: readonly string[];
  /** Whether the list runs across, down, or as words of a sentence do. */
  readonly runs: keyof typeof STRATEGIES;
  readonly nameOf: (id: string) => string;
  /** Puts an entry before another, or last. */
  readonly onMove: (id: string, before: string | null) => void;
  readonly children: ReactNode;
}

/** The entries of a list that can be put elsewhere in it, where things are dragged already. */
export function SortOrder({ ids, runs, nameOf, onMove, children }: OrderProps) {
  const [said, setSaid] = useState('');
  // The entries are made anew only when their order is another, however often a dial is turned.
  const [kept, setKept] = useState(ids);
  if (kept.length !== ids.length || kept.some((id, index) => id !== ids[index])) setKept(ids);
  const latest = useRef({ nameOf, onMove });
  useLayoutEffect(() => {
    latest.current = { nameOf, onMove };
  });
  const order = useMemo<Order>(
    () => ({
      ids: kept,
      keys: runs === 'down' ? DOWN : ACROSS,
      moves: runs !== 'flowing',
      nameOf: (id) => latest.current.nameOf(id),
      move: (id, before) => {
        const { nameOf: named, onMove: put } = latest.current;
        put(id, before);
        setSaid(before === null ? `${named(id)} is the last.` : `${named(id)} stands before ${named(before)}.`);
      },
    }),
    [kept, runs],
  );
  return (
    <Ordered value={order}>
      <SortableContext items={kept as UniqueIdentifier[]} strategy={STRATEGIES[runs]}>
        {children}
      </SortableContext>
      <span role="status" aria-label="Order" className="sr-only">
        {said}
      </span>
    </Ordered>
  );
}

/** A list whose entries can be put elsewhere in it: dragged by mouse or touch, or with Alt and the arrow keys. */
export const Sortable = (props: OrderProps) => (
  <Dragging>
    <SortOrder {...props} />
  </Dragging>
);

/** What an entry of such a list needs: the part that is moved, and the part it is held by, which may be the same. */
export interface Sorted {
  readonly entry: { readonly ref: (element: HTMLElement | null) => void; readonly style: CSSProperties };
  readonly handle: HTMLAttributes<HTMLElement>;
}

/** What makes an entry one that can be put elsewhere. */
export function useSorted(id: string): Sorted {
  const order = use(Ordered);
  if (order === null) throw new Error('useSorted stands within a Sortable');
  const { ids, nameOf, keys, move, moves } = order;
  const data: DropData = {
    name: () => nameOf(id),
    onDrop: (dragged) => {
      const [from, to] = [ids.indexOf(dragged), ids.indexOf(id)];
      if (from >= 0 && to >= 0) move(dragged, to > from ? (ids[to + 1] ?? null) : id);
    },
  };
  const { setNodeRef, listeners, transform, transition, isDragging, isOver } = useSortable({ id, data });
  const moved = useRef<HTMLElement | null>(null);
  // An entry that is put elsewhere in the page loses the focus.
  useEffect(() => {
    moved.current?.focus();
    moved.current = null;
  }, [ids]);
  const onKeyDown = (event: KeyboardEvent<HTMLElement>): void => {
    const way = keys[event.key];
    if (!event.altKey || way === undefined) return;
    event.preventDefault();
    event.stopPropagation();
    const to = ids.indexOf(id) + way;
    if (to < 0 || to > ids.length) return;
    moved.current = event.currentTarget;
    move(id, ids[to] ?? null);
  };
  const style: CSSProperties = {
    ...(moves && transform !== null ? { transform: CSS.Translate.toString(transform), transition } : {}),
    ...(isDragging ? { opacity: 0.5 } : {}),
    ...(!moves && isOver && !isDragging ? { outline: '1.5px solid var(--needle)' } : {}),
  };
  return { entry: { ref: setNodeRef, style }, handle: { ...listeners, onKeyDown } };
}

interface SortedEntryProps {
  readonly id: string;
  readonly children: (sorted: Sorted) => ReactNode;
}

/** An entry, where a component of its own would be more than it is worth. */
export const SortedEntry = ({ id, children }: SortedEntryProps) => children(useSorted(id));

/** What is said of an entry that can be put elsewhere. */
export const sortHint = (runs: OrderProps['runs']): string => `Drag to put it elsewhere (Alt + ${runs === 'down' ? '↑ ↓' : '← →'})`;
