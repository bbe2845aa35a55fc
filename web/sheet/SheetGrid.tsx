import { dialText, type Sheet, type SheetCell, type SheetRow } from '@dial/core/formats';
import { kindOf, type Kind, type Level } from '@dial/core/level';
import { useEffect, useId, useRef, useState, type ClipboardEvent, type KeyboardEvent, type PointerEvent, type ReactNode } from 'react';
import { Mark } from '../drawing/Mark.tsx';
import { useWindowed } from '../controls/hooks/useWindowed.ts';
import { boundsOf, movedBy, type Block, type Spot } from './block.ts';
import { CellEditor } from './CellEditor.tsx';
import { Headings } from './Headings.tsx';
import { Hint } from '../controls/Hint.tsx';

const ROW_HEIGHT = 26;

interface GridProps {
  readonly level: Level;
  readonly sheet: Sheet;
  /** The same rows of the compared version, by id; null: not shown beside. */
  readonly was: ReadonlyMap<string, SheetRow> | null;
  readonly block: Block;
  readonly onBlock: (block: Block) => void;
  readonly sortBy: string | null;
  readonly descending: boolean;
  readonly onSort: (column: string) => void;
  /** Answers why the value is refused, or null. */
  readonly onSet: (spot: Spot, typed: string) => string | null;
  readonly onPaste: (text: string) => void;
  readonly copy: () => string;
  readonly onForget: () => void;
}

function cellClass(cell: SheetCell | undefined, chosen: boolean, active: boolean, changed: boolean): string {
  const ground = cell === undefined ? 'bg-panel' : chosen ? 'bg-needle/10' : 'bg-card';
  const text = cell?.follows === true ? 'text-soft' : cell?.own === true ? 'font-semibold' : '';
  return `relative h-[26px] border-r border-b border-line px-1.5 text-right font-mono whitespace-nowrap ${ground} ${text} ${
    active ? 'outline-2 -outline-offset-2 outline-needle' : ''
  } ${changed ? 'underline decoration-dotted decoration-1 underline-offset-2' : ''}`;
}

/** Scrolls so that the active cell is seen, clear of the headings. */
function bringIntoView(view: HTMLElement | null, active: Spot): void {
  const cell = view?.querySelector<HTMLElement>('[data-active]');
  if (view === null) return;
  const above = active.row * ROW_HEIGHT;
  const head = view.querySelector('thead')?.clientHeight ?? 0;
  if (above < view.scrollTop) view.scrollTop = above;
  else if (above + ROW_HEIGHT > view.scrollTop + view.clientHeight - head) view.scrollTop = above + ROW_HEIGHT - view.clientHeight + head;
  const names = view.querySelector('thead th')?.clientWidth ?? 0;
  if (cell == null) return;
  if (cell.offsetLeft < view.scrollLeft + names) view.scrollLeft = cell.offsetLeft - names;
  else if (cell.offsetLeft + cell.offsetWidth > view.scrollLeft + view.clientWidth) {
    view.scrollLeft = cell.offsetLeft + cell.offsetWidth - view.clientWidth;
  }
}

const NO_CELLS: SheetRow['cells'] = new Map();

interface GridRowProps {
  readonly id: string;
  /** Which row it is. */
  readonly at: number;
  readonly row: SheetRow;
  readonly columns: Sheet['columns'];
  readonly kind: Kind | undefined;
  /** Its cells in the compared version; null: not shown beside. */
  readonly was: SheetRow['cells'] | null;
  readonly chosen: ReturnType<typeof boundsOf>;
  readonly active: Spot;
  /** What the active cell is typed into, while it is. */
  readonly editor: (cell: SheetCell, label: string) => ReactNode;
}

function GridRow({ id, at, row, columns, kind, was, chosen, active, editor }: GridRowProps) {
  return (
    <tr role="row" aria-rowindex={at + 2}>
      <th
        role="rowheader"
        scope="row"
        data-row={at}
        data-column={-1}
        className="sticky left-0 z-10 h-[26px] max-w-[200px] min-w-[170px] border-r-[1.3px] border-b border-r-ink border-b-line px-2 text-left font-semibold bg-paper"
      >
        <span className="flex items-center gap-1.5">
          {kind !== undefined && <Mark kind={kind} size={18} />}
          <Hint says={row.name}>
            <span className="truncate">{row.name}</span>
          </Hint>
        </span>
      </th>
      {columns.map(({ name }, column) => {
        const cell = row.cells.get(name);
        const isActive = at === active.row && column === active.column;
        const within = at >= chosen.top && at <= chosen.bottom && column >= chosen.left && column <= chosen.right;
        const old = was?.get(name)?.value;
        const changed = was !== null && cell !== undefined && cell.value !== old;
        return (
          <td
            key={name}
            id={`${id}-${String(at)}-${String(column)}`}
            role="gridcell"
            aria-colindex={column + 2}
            aria-selected={within}
            data-row={at}
            data-column={column}
            data-active={isActive ? '' : undefined}
            className={cellClass(cell, within, isActive, changed)}
          >
            {cell !== undefined && dialText(cell.value)}
            {changed && <span className="ml-1 text-soft no-underline">{old === undefined ? 'new' : `was ${dialText(old)}`}</span>}
            {isActive && cell !== undefined && editor(cell, `${row.name}: ${name}`)}
          </td>
        );
      })}
    </tr>
  );
}

/** All numbers in one table: arrows go about, typing writes, a block is copied, pasted and filled as in any spreadsheet. */
export function SheetGrid(props: GridProps) {
  const { level, sheet, was, block, onBlock, onSet, onPaste, copy, onForget } = props;
  const { rows, columns } = sheet;
  const id = useId();
  const scroller = useRef<HTMLDivElement>(null);
  const { first, last } = useWindowed(scroller, rows.length, ROW_HEIGHT);
  const [typed, setTyped] = useState<string | null>(null);
  const [drawing, setDrawing] = useState(false);
  const active = block.to;
  const chosen = boundsOf(block);

  useEffect(() => bringIntoView(scroller.current, { row: active.row, column: active.column }), [active.row, active.column]);

  const go = (to: Spot, drawOut: boolean): void => onBlock({ from: drawOut ? block.from : to, to });
  const step = (key: string): void => go(movedBy(key, false, active, rows.length, columns.length) ?? active, false);
  const endTyping = (way: string | null): void => {
    setTyped(null);
    scroller.current?.focus();
    if (way !== null) step(way);
  };
  const onKey = (event: KeyboardEvent): void => {
    if (typed !== null || event.altKey) return;
    const held = event.ctrlKey || event.metaKey;
    const to = movedBy(event.key, held, active, rows.length, columns.length);
    if (to !== null) go(to, event.shiftKey);
    else if (held && event.key.toLowerCase() === 'a') {
      onBlock({ from: { row: 0, column: 0 }, to: { row: rows.length - 1, column: columns.length - 1 } });
    } else if (held) return;
    else if (event.key === 'Delete' || event.key === 'Backspace') onForget();
    else if (event.key === 'Enter' || event.key === 'F2') setTyped('');
    else if (/^[\d.,=+\-−]$/.test(event.key)) setTyped(event.key);
    else return;
    event.preventDefault();
    event.stopPropagation();
  };
  const spotOf = (event: PointerEvent): Spot | null => {
    const cell = (event.target as HTMLElement).closest<HTMLElement>('[data-row]');
    if (cell === null) return null;
    return { row: Number(cell.dataset['row']), column: Number(cell.dataset['column']) };
  };
  const onPress = (event: PointerEvent): void => {
    const spot = spotOf(event);
    if (spot === null || event.button !== 0 || typed !== null) return;
    // A press on the name of a row or a column takes all of it.
    const row = spot.row < 0 ? { from: 0, to: rows.length - 1 } : { from: spot.row, to: spot.row };
    const column = spot.column < 0 ? { from: 0, to: columns.length - 1 } : { from: spot.column, to: spot.column };
    const from = event.shiftKey ? block.from : { row: row.from, column: column.from };
    onBlock({ from, to: { row: row.to, column: column.to } });
    setDrawing(spot.row >= 0 && spot.column >= 0);
  };
  const onClipboard = (event: ClipboardEvent, take: () => void): void => {
    if (typed !== null) return;
    event.preventDefault();
    take();
  };

  return (
    <div
      ref={scroller}
      role="grid"
      aria-label="Sheet"
      aria-rowcount={rows.length + 1}
      aria-colcount={columns.length + 1}
      aria-multiselectable
      aria-activedescendant={`${id}-${String(active.row)}-${String(active.column)}`}
      tabIndex={0}
      className="h-[320px] min-h-0 overflow-auto desk:h-auto desk:flex-1 border-[1.3px] border-ink bg-paper select-none"
      onKeyDown={onKey}
      onPointerDown={onPress}
      onPointerMove={(event) => {
        const spot = drawing && event.buttons === 1 ? spotOf(event) : null;
        if (spot !== null && spot.row >= 0 && spot.column >= 0) go(spot, true);
      }}
      onPointerUp={() => setDrawing(false)}
      onDoubleClick={(event) => {
        if ((event.target as HTMLElement).closest('td') !== null) setTyped('');
      }}
      onCopy={(event) => onClipboard(event, () => event.clipboardData.setData('text/plain', copy()))}
      onPaste={(event) => onClipboard(event, () => onPaste(event.clipboardData.getData('text/plain')))}
    >
      <table role="presentation" className="border-separate border-spacing-0 text-xs">
        <Headings {...props} />
        <tbody role="rowgroup">
          {first > 0 && <tr aria-hidden style={{ height: first * ROW_HEIGHT }} />}
          {rows.slice(first, last).map((row, offset) => (
            <GridRow
              key={row.id}
              id={id}
              at={first + offset}
              row={row}
              columns={columns}
              kind={kindOf(level, row.kind)}
              was={was === null ? null : (was.get(row.id)?.cells ?? NO_CELLS)}
              chosen={chosen}
              active={active}
              editor={(cell, label) =>
                typed !== null && (
                  <CellEditor
                    label={label}
                    initial={typed === '' ? dialText(cell.value) : typed}
                    whole={typed === ''}
                    onSet={(text) => onSet(active, text)}
                    onEnd={endTyping}
                  />
                )
              }
            />
          ))}
          {last < rows.length && <tr aria-hidden style={{ height: (rows.length - last) * ROW_HEIGHT }} />}
        </tbody>
      </table>
    </div>
  );
}
