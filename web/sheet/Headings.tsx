import type { Sheet } from '@dial/core/formats';
import { Hint } from '../controls/Hint.tsx';

interface HeadingsProps {
  readonly sheet: Sheet;
  readonly sortBy: string | null;
  readonly descending: boolean;
  readonly onSort: (column: string) => void;
}

/** The names of the columns, under the names of their groups; a press on a name takes the column, its arrow sorts by it. */
export function Headings({ sheet: { columns }, sortBy, descending, onSort }: HeadingsProps) {
  const groups = columns.flatMap(({ group }, index) => {
    if (columns[index - 1]?.group === group) return [];
    const after = columns.slice(index).findIndex((one) => one.group !== group);
    return [{ group, span: after < 0 ? columns.length - index : after }];
  });
  return (
    <thead role="rowgroup" className="sticky top-0 z-20 bg-panel">
      <tr role="presentation" className="h-5">
        <th role="presentation" className="sticky left-0 z-10 border-r-[1.3px] border-ink bg-panel p-0" />
        {groups.map(({ group, span }) => (
          <Hint key={group} says={group}>
            <th
              role="presentation"
              colSpan={span}
              className="max-w-0 overflow-clip border-r border-line bg-panel px-1.5 py-0.5 text-left text-[11px] font-bold whitespace-nowrap text-soft"
            >
              <span className="sticky left-[178px]">{group}</span>
            </th>
          </Hint>
        ))}
      </tr>
      <tr role="row" aria-rowindex={1}>
        <th
          role="columnheader"
          className="sticky left-0 z-10 border-r-[1.3px] border-b-[1.3px] border-ink bg-panel px-2 text-left align-bottom"
        >
          name
        </th>
        {columns.map(({ name }, column) => (
          <th
            key={name}
            role="columnheader"
            scope="col"
            aria-sort={sortBy === name ? (descending ? 'descending' : 'ascending') : 'none'}
            data-row={-1}
            data-column={column}
            className="max-w-[120px] min-w-[70px] cursor-pointer border-r border-b-[1.3px] border-r-line border-b-ink bg-panel px-1.5 py-0.5 text-right align-bottom font-semibold"
          >
            {name}
            <Hint says={`Sort by ${name}`}>
              <button
                type="button"
                tabIndex={-1}
                aria-label={`Sort by ${name}`}
                className={`ml-1 cursor-pointer rounded-sm px-0.5 font-mono hover:bg-card ${sortBy === name ? 'text-needle-text' : 'text-soft'}`}
                onPointerDown={(event) => event.stopPropagation()}
                onClick={() => onSort(name)}
              >
                {sortBy === name ? (descending ? '↓' : '↑') : '↕'}
              </button>
            </Hint>
          </th>
        ))}
      </tr>
    </thead>
  );
}
