import { dialText, fileName, readNumber, type Sheet as SheetTable, type SheetRow } from '@dial/core/formats';
import { forgetAt, kindOf, type Level } from '@dial/core/level';
import { useMemo, useState, type ReactNode } from 'react';
import { Check } from '../controls/Check.tsx';
import { documentActions } from '../state/slices/document.ts';
import { viewActions } from '../state/slices/view.ts';
import { setValue, tryEdit, turnDial, writeMany } from '../state/document/edits.ts';
import { useAppSelector, useAppStore } from '../state/store.ts';
import { questionAbout } from '../browser/asking.ts';
import { Button, Notice } from '../controls/controls.tsx';
import { download } from '../controls/download.ts';
import { SearchField } from '../controls/SearchField.tsx';
import { TapeDial } from '../controls/tape/TapeDial.tsx';
import type { Block, Spot } from './block.ts';
import { BlockTools } from './BlockTools.tsx';
import { arranged, copied, fillDown, operateOn, pasteInto, placesIn, type Arrangement, type Gathered, type Place } from './cells.ts';
import { SheetFile } from './SheetFile.tsx';
import { SheetGrid } from './SheetGrid.tsx';
import { NAMES, TABLES, type Table } from './tables.ts';
import { TabList, TabPage, Tabs } from '../controls/Tabs.tsx';

const CORNER: Block = { from: { row: 0, column: 0 }, to: { row: 0, column: 0 } };
const MOST_REFUSED = 6;

/** A block brought back within a table that has become smaller. */
function inside(block: Block, rows: number, columns: number): Block {
  const clamp = ({ row, column }: Spot): Spot => ({
    row: Math.max(0, Math.min(rows - 1, row)),
    column: Math.max(0, Math.min(columns - 1, column)),
  });
  return { from: clamp(block.from), to: clamp(block.to) };
}

interface BarProps {
  readonly level: Level;
  readonly table: Table;
  readonly arrangement: Arrangement;
  readonly onArrange: (part: Partial<Arrangement>) => void;
  /** The name of the compared version, and whether its values are shown beside. */
  readonly compared: string | null;
  readonly beside: boolean;
  readonly onBeside: (beside: boolean) => void;
}

/** Which table, which rows and columns of it, and files out and in. */
function Bar({ level, table, arrangement, onArrange, compared, beside, onBeside }: BarProps) {
  const { text, file } = TABLES[table];
  const nextTable = NAMES[(NAMES.indexOf(table) + 1) % NAMES.length];
  return (
    <div className="flex flex-wrap items-center gap-2 text-xs">
      <TabList
        label="Table"
        tabs={NAMES.map((one) => ({ value: one, name: one, command: one === nextTable ? 'other table' : undefined }))}
      />
      <SearchField
        label="Find rows"
        hint="find rows: name, role, tag"
        width="w-44"
        value={arrangement.search}
        onChange={(search) => onArrange({ search })}
      />
      <SearchField
        label="Find columns"
        hint="find columns: rests for"
        width="w-40"
        value={arrangement.columns}
        onChange={(columns) => onArrange({ columns })}
      />
      {compared !== null && (
        <label className="flex items-center gap-1">
          <Check checked={beside} onCheck={onBeside} />
          was in “{compared}”
        </label>
      )}
      <span className="ml-auto flex gap-2">
        <SheetFile level={level} table={table} />
        <Button
          kind="quiet"
          data-command="export csv"
          onClick={() => download(fileName(`${level.name} ${file}`, 'csv'), text(level), 'text/csv')}
        >
          Export CSV
        </Button>
      </span>
    </div>
  );
}

function NotTaken({ refused, onClose }: { readonly refused: readonly string[]; readonly onClose: () => void }) {
  return (
    <Notice>
      <div className="flex-1 text-xs">
        <p className="font-semibold">Not taken, and left as it was:</p>
        <ul>
          {refused.slice(0, MOST_REFUSED).map((one, index) => (
            <li key={index}>{one}</li>
          ))}
          {refused.length > MOST_REFUSED && <li>and {refused.length - MOST_REFUSED} more</li>}
        </ul>
      </div>
      <Button kind="quiet" onClick={onClose}>
        Close
      </Button>
    </Notice>
  );
}

interface ActiveDialProps {
  readonly level: Level;
  readonly active: Place;
  readonly was: number | null;
  readonly onSet: (value: number) => string | null;
}

/** The dial of the active cell. */
function ActiveDial({ level, active, was, onSet }: ActiveDialProps) {
  const store = useAppStore();
  return (
    <TapeDial
      label={`${active.row.name}: ${active.column.name}`}
      value={active.cell.value}
      was={was}
      range={active.column.range}
      scale={level.scale}
      onTurn={(value) => {
        if (value === null) store.dispatch(documentActions.turned(null));
        else turnDial(store, [active.cell.path], value);
      }}
      onSet={onSet}
    />
  );
}

/** The table as it is arranged, and the values of the compared version by row; null: not shown beside. */
function useTable(level: Level, table: Table, arrangement: Arrangement, compared: Level | null) {
  const whole = useMemo(() => TABLES[table].sheet(level), [level, table]);
  const sheet = useMemo(() => {
    const about = ({ name, kind }: SheetRow): string => {
      const { role = '', tags = [], name: kindName = '' } = kindOf(level, kind) ?? {};
      return [name, kindName, role, ...tags].join(' ');
    };
    return arranged(whole, about, arrangement);
  }, [whole, level, arrangement]);
  const was = useMemo(
    () => (compared === null ? null : new Map(TABLES[table].sheet(compared).rows.map((row) => [row.id, row] as const))),
    [compared, table],
  );
  return { whole, sheet, was };
}

/** All values of all kinds in one table, of placements or of personas; `outcome` says what the session comes to. */
export function Sheet({ level, outcome }: { readonly level: Level; readonly outcome: ReactNode }) {
  const store = useAppStore();
  const compared = useAppSelector((state) => state.document.compared ?? null);
  const [table, setTable] = useState<Table>('kinds');
  const [arrangement, setArrangement] = useState<Arrangement>({ search: '', columns: '', sortBy: null, descending: false });
  const [beside, setBeside] = useState(true);
  const [wished, setBlock] = useState<Block>(CORNER);
  const [refused, setRefused] = useState<readonly string[]>([]);
  const arrange = (part: Partial<Arrangement>): void => setArrangement({ ...arrangement, ...part });

  const { whole, sheet, was } = useTable(level, table, arrangement, beside ? (compared?.level ?? null) : null);
  const block = inside(wished, sheet.rows.length, sheet.columns.length);
  const places = placesIn(sheet, block);
  const active = placesIn(sheet, { from: block.to, to: block.to })[0];
  const wasActive = active === undefined ? undefined : was?.get(active.row.id)?.cells.get(active.column.name)?.value;

  const make = (label: string, { writes, refused: late }: Gathered): void => {
    const invalid = writeMany(store, label, writes).map(({ write, why }) => `${write.words}: ${why}`);
    setRefused([...late, ...invalid]);
  };
  const setPlace = ({ row, column, cell }: Place, value: number): string | null => {
    setRefused([]);
    return setValue(store, [cell.path], `${row.name}: ${column.name}`, value);
  };
  const setCell = (spot: Spot, typed: string): string | null => {
    const [place] = placesIn(sheet, { from: spot, to: spot });
    if (place === undefined) return 'there is no such number';
    // What is shown is rounded; leaving it as it stands must not round the number.
    if (typed === dialText(place.cell.value)) return null;
    const read = readNumber(typed, place.cell.range, level.scale);
    if (!read.ok) return read.why;
    return questionAbout(place.cell.path, read.doubt) ?? setPlace(place, read.value);
  };
  const forget = (): void => {
    const own = places.filter(({ cell }) => cell.own);
    const kept = places.length - own.length;
    setRefused(kept > 0 ? [`${String(kept)} of these numbers follow no other kind; they stay as they are`] : []);
    if (own.length === 0) return;
    tryEdit(store, `${String(own.length)} values back to their kind`, (draft) => {
      for (const { cell } of own) forgetAt(draft, cell.path);
    });
  };
  const choose = (next: Block): void => {
    setBlock(next);
    const row = sheet.rows[next.to.row];
    if (row !== undefined && table !== 'personas')
      store.dispatch(viewActions.selected({ kind: row.kind, placements: table === 'kinds' ? [] : [row.id] }));
  };
  const chooseTable = (one: Table): void => {
    setTable(one);
    arrange({ sortBy: null, columns: '' });
    setBlock(CORNER);
  };
  return (
    <Tabs
      label="Sheet"
      className="flex min-h-0 flex-1 flex-col gap-2 p-2.5"
      value={table}
      onChoose={(chosen) => chooseTable(chosen as Table)}
    >
      <Bar
        level={level}
        table={table}
        arrangement={arrangement}
        onArrange={arrange}
        compared={compared?.name ?? null}
        beside={beside}
        onBeside={setBeside}
      />
      <div className="flex min-h-[74px] flex-wrap items-start gap-x-5 border-b border-line pb-1">
        <div className="w-[312px] shrink-0">
          {active === undefined ? (
            <p className="pt-3 text-xs text-soft">{hereWords(sheet, block.to)}</p>
          ) : (
            <ActiveDial
              key={active.cell.path}
              level={level}
              active={active}
              was={wasActive ?? null}
              onSet={(value) => setPlace(active, value)}
            />
          )}
        </div>
        <BlockTools
          count={places.length}
          onApply={(operation, by) => make(`${operation} ${dialText(by)}`, operateOn(sheet, block, operation, by))}
          onFillDown={() => make('fill down', fillDown(sheet, block))}
          onForget={forget}
        />
        <div className="ml-auto text-xs">{outcome}</div>
      </div>
      {refused.length > 0 && <NotTaken refused={refused} onClose={() => setRefused([])} />}
      <TabPage value={table} className="flex min-h-0 flex-1 flex-col">
        {sheet.rows.length === 0 || sheet.columns.length === 0 ? (
          <p className="p-3 text-soft">{emptyWords(whole.rows.length, table)}</p>
        ) : (
          <SheetGrid
            level={level}
            sheet={sheet}
            was={was}
            block={block}
            onBlock={choose}
            sortBy={arrangement.sortBy}
            descending={arrangement.descending}
            onSort={(column) => {
              if (arrangement.sortBy !== column) arrange({ sortBy: column, descending: false });
              else arrange(arrangement.descending ? { sortBy: null } : { descending: true });
            }}
            onSet={setCell}
            onPaste={(pasted) => make('paste', pasteInto(sheet, block, pasted, level.scale))}
            copy={() => copied(sheet, block)}
            onForget={forget}
          />
        )}
      </TabPage>
    </Tabs>
  );
}

/** Why there is no dial for a cell that holds no number. */
function hereWords({ rows, columns }: SheetTable, { row, column }: Spot): string {
  const [name, number] = [rows[row]?.name, columns[column]?.name];
  return name === undefined || number === undefined ? '' : `${name} has no “${number}”. Its dial stands here where there is a number.`;
}

function emptyWords(rows: number, table: Table): string {
  if (rows > 0) return 'Nothing has that in its name. Clear the fields above to see all.';
  if (table === 'kinds') return 'This level has no kinds yet. Make one on the Bench, with “New kind”.';
  if (table === 'personas') return 'This level has no personas. Add one on the Bench, among the level settings.';
  if (table === 'all placements')
    return 'Nothing is placed yet. Place things on the Bench, or import a CSV with the columns kind, x and y.';
  return 'No placement has own values: all follow their kinds. Choose one on the Bench and turn a dial for “only this”.';
}
