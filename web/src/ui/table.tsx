import { createSortedRowModel, rowSortingFeature, tableFeatures, useTable } from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp, ChevronRight } from "lucide-react";
import { type KeyboardEvent, type ReactNode, useMemo, useRef } from "react";
import { Link, type To } from "react-router";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { useColumnChoice } from "./columnchoice.tsx";
import { useNarrow } from "./narrow.ts";
import { oldAnswer } from "./old.tsx";
import { Select } from "./select.tsx";
import type { SpreadsheetOf } from "./sheetcopy.ts";
import { useCopying } from "./tablecopy.tsx";
import { SelectAll, type Selection, SelectRow } from "./tableselection.tsx";
import { cards, cellHead, Table } from "./tablestyle.ts";
import { color, focusRing, font, NARROW, TARGET, TOUCH } from "./theme.ts";

export interface Column<Row> {
  id: string;
  header: string;
  cell: (row: Row) => ReactNode;
  /** Orders two rows by this column; without it the column does not sort. */
  compare?: (a: Row, b: Row) => number;
  end?: boolean;
  /** Its cells are fields, with labels of their own. */
  isField?: boolean;
  /** What stands under the column, of all rows. */
  total?: ReactNode;
  width?: string;
}

export interface DataTableProps<Row> {
  label: string;
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  /** Which of its columns are shown can be chosen, and is remembered on the device by this name. */
  columnsKeptAs?: string;
  /** Its rows, or those that are selected, can be copied to a spreadsheet and saved as a file. */
  spreadsheet?: SpreadsheetOf<Row>;
  selection?: Selection<Row>;
  rowId: (row: Row) => string | number;
  /** Where a row leads: its first cell is the link, and a press anywhere on the row follows it. */
  linkTo?: (row: Row) => To;
  /** Opens a row, by a press anywhere on it or by the button at its end, which `words` name. */
  onOpen?: { words: (row: Row) => string; open: (row: Row) => void };
  isCurrent?: ((row: Row) => boolean) | undefined;
  isMarked?: ((row: Row) => boolean) | undefined;
  empty?: ReactNode;
  /** The rows were asked for before; those that are asked for now are on their way. */
  old?: boolean;
  /** Called when the last row comes into view, to fetch more. */
  onEnd?: (() => void) | undefined;
  /** Where the rows come sorted already, page by page: what by, and what to do at a press on a header. */
  sorted?: {
    by: string;
    descending: boolean;
    columns: readonly string[];
    onSort: (column: string, descending: boolean) => void;
  };
}

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() });
const ROW_HEIGHT = 39;
/** Past this many rows only those in view are in the page. */
const VIRTUAL_FROM = 60;

/** A table: sorted by a press on a header, header in view, totals below, and light however many rows there are. */
export function DataTable<Row extends object>({
  label,
  rows,
  columns: all,
  columnsKeptAs,
  spreadsheet,
  selection,
  rowId,
  linkTo,
  onOpen,
  isCurrent,
  isMarked,
  empty,
  onEnd,
  old = false,
  sorted: order,
}: DataTableProps<Row>) {
  const frame = useRef<HTMLDivElement>(null);
  const { shown: columns, menu } = useColumnChoice(label, columnsKeptAs, all);
  // What opens a row, the choice of columns and copying stand in a column of their own, which names none of the rows.
  const hasEnd = onOpen !== undefined || menu !== null || spreadsheet !== undefined;
  const span = columns.length + (hasEnd ? 1 : 0) + (selection ? 1 : 0);
  const defs = useMemo(
    () =>
      columns.map((column) => ({
        id: column.id,
        accessorFn: (row: Row) => row,
        enableSorting: column.compare !== undefined,
        sortDescFirst: false,
        sortFn: (a: { original: Row }, b: { original: Row }) => column.compare?.(a.original, b.original) ?? 0,
      })),
    [columns],
  );
  const data = useMemo(() => [...rows], [rows]);
  const table = useTable({ features, columns: defs, data, getRowId: (row: Row) => String(rowId(row)) });
  const sorted = order ? table.getCoreRowModel().rows : table.getRowModel().rows;
  const virtual = useVirtualizer({
    count: sorted.length,
    getScrollElement: () => frame.current,
    estimateSize: () => ROW_HEIGHT,
    // Rows are as high as what stands in them: of two lines in a table, of many in a card.
    measureElement: (row) => row.getBoundingClientRect().height,
    overscan: 12,
    enabled: sorted.length > VIRTUAL_FROM,
  });
  const seen = virtual.getVirtualItems();
  const isVirtual = sorted.length > VIRTUAL_FROM && seen.length > 0;
  const first = isVirtual ? (seen[0]?.index ?? 0) : 0;
  const last = isVirtual ? (seen.at(-1)?.index ?? 0) : sorted.length - 1;
  const above = isVirtual ? (seen[0]?.start ?? 0) : 0;
  const below = isVirtual ? virtual.getTotalSize() - (seen.at(-1)?.end ?? 0) : 0;
  const onScroll = () => {
    const el = frame.current;
    if (el && onEnd && el.scrollHeight - el.scrollTop - el.clientHeight < 4 * ROW_HEIGHT) onEnd();
  };
  const narrow = useNarrow();
  const [own] = table.state.sorting;
  const sorting: Sorting = {
    by: order?.by ?? own?.id ?? "",
    descending: order?.descending ?? own?.desc ?? false,
    columns: columns.filter(({ id, compare }) =>
      order ? order.columns.includes(id) : compare !== undefined,
    ),
    onSort: order?.onSort ?? ((id, desc) => table.setSorting([{ id, desc }])),
  };
  const hasTotals = columns.some((column) => column.total !== undefined);
  const ordered = () => sorted.map((row) => row.original);
  const isChosen = (row: Row) => selection?.chosen.has(rowId(row)) ?? false;
  // What is selected is what one means; without a selection all of it.
  const meant = () => (ordered().some(isChosen) ? ordered().filter(isChosen) : ordered());
  const copying = useCopying(spreadsheet, meant, label);
  return (
    <>
      {narrow && columns.length > 2 && <SortBy {...sorting} />}
      {narrow && selection && (
        <SelectAll label={label} rows={ordered()} rowId={rowId} selection={selection}>
          Select all
        </SelectAll>
      )}
      <Frame ref={frame} onScroll={onScroll} $old={old} aria-busy={old || undefined}>
        <Folding
          aria-label={label}
          aria-rowcount={sorted.length + 1}
          $columns={columns.length + (selection ? 1 : 0)}
          onKeyDown={copying?.onKeyDown}
        >
          <thead>
            <tr>
              {selection && (
                <td className="select">
                  <SelectAll label={label} rows={ordered()} rowId={rowId} selection={selection} />
                </td>
              )}
              {table.getHeaderGroups()[0]?.headers.map((header, i) => (
                <Head
                  key={header.id}
                  column={columns[i]}
                  sorts={sorting.columns.some((sortable) => sortable.id === header.id)}
                  sorted={sorting.by === header.id ? (sorting.descending ? "desc" : "asc") : false}
                  onSort={() => sorting.onSort(header.id, sorting.by === header.id && !sorting.descending)}
                />
              ))}
              {hasEnd && (
                <td className="end">
                  {copying?.menu}
                  {menu}
                </td>
              )}
            </tr>
          </thead>
          <tbody onKeyDown={walkRows}>
            {above > 0 && <tr aria-hidden style={{ height: above }} />}
            {sorted.slice(first, last + 1).map((row, i) => (
              <Line
                key={row.id}
                ref={isVirtual ? virtual.measureElement : undefined}
                data-index={first + i}
                aria-rowindex={first + i + 2}
                {...(onOpen && {
                  onClick: (e) => !isControl(e.target) && onOpen.open(row.original),
                })}
                $open={onOpen !== undefined || linkTo !== undefined}
                $marked={isMarked?.(row.original) ?? isChosen(row.original)}
                {...(isCurrent?.(row.original) && { "aria-current": true })}
              >
                {selection && (
                  <td className="select">
                    <SelectRow row={row.original} rowId={rowId} selection={selection} />
                  </td>
                )}
                {columns.map((column, at) => (
                  <td key={column.id} className={column.end ? "end" : undefined} data-head={cellHead(column)}>
                    {linkTo && at === 0 ? (
                      <RowLink to={linkTo(row.original)} data-opens>
                        {column.cell(row.original)}
                      </RowLink>
                    ) : (
                      column.cell(row.original)
                    )}
                  </td>
                ))}
                {hasEnd && (
                  <td className="end">
                    {onOpen && (
                      <Button
                        look="icon"
                        aria-label={onOpen.words(row.original)}
                        onPress={() => onOpen.open(row.original)}
                        data-opens
                      >
                        <ChevronRight />
                      </Button>
                    )}
                  </td>
                )}
              </Line>
            ))}
            {below > 0 && <tr aria-hidden style={{ height: below }} />}
            {sorted.length === 0 && empty && (
              <tr>
                <td className="empty" colSpan={span}>
                  {empty}
                </td>
              </tr>
            )}
          </tbody>
          {hasTotals && sorted.length > 0 && (
            <tfoot>
              <tr>
                {selection && <td />}
                {columns.map((column) => (
                  <td key={column.id} className={column.end ? "end" : undefined}>
                    {column.total}
                  </td>
                ))}
                {hasEnd && <td />}
              </tr>
            </tfoot>
          )}
        </Folding>
      </Frame>
    </>
  );
}

interface Sorting {
  by: string;
  descending: boolean;
  columns: readonly { id: string; header: string }[];
  onSort: (column: string, descending: boolean) => void;
}

/** Sorts a table whose rows are cards, for then it has no header to press. */
function SortBy({ by, descending, columns, onSort }: Sorting) {
  if (columns.length === 0) return null;
  const options = columns.flatMap(({ id, header }) => [
    { value: id, label: header },
    { value: `${id} ${DESCENDING}`, label: `${header}, ${DESCENDING}` },
  ]);
  return (
    <Select
      label="Sort by"
      width="220px"
      value={descending ? `${by} ${DESCENDING}` : by}
      options={options}
      onChange={(next) => onSort(next.split(" ")[0] ?? next, next.endsWith(DESCENDING))}
    />
  );
}

const DESCENDING = "descending";

interface HeadProps<Row> {
  column: Column<Row> | undefined;
  sorts: boolean;
  sorted: false | "asc" | "desc";
  onSort: () => void;
}

function Head<Row>({ column, sorts, sorted, onSort }: HeadProps<Row>) {
  if (!column) return null;
  const order = sorted === "asc" ? "ascending" : sorted === "desc" ? "descending" : undefined;
  return (
    <th
      scope="col"
      className={column.end ? "end" : undefined}
      aria-sort={order}
      data-sorts={sorts || undefined}
      style={{ width: column.width }}
    >
      {sorts ? (
        <Sort type="button" onClick={onSort}>
          {column.header}
          {sorted === "asc" && <ArrowUp aria-hidden />}
          {sorted === "desc" && <ArrowDown aria-hidden />}
        </Sort>
      ) : (
        column.header
      )}
    </th>
  );
}

const isControl = (target: EventTarget) =>
  target instanceof Element && target.closest("a, button, input, label") !== null;

/** Arrow keys walk from what opens one row to what opens the next. */
function walkRows(event: KeyboardEvent<HTMLTableSectionElement>): void {
  const step = { ArrowDown: "nextElementSibling", ArrowUp: "previousElementSibling" } as const;
  if (!(event.target instanceof HTMLElement) || !("opens" in event.target.dataset) || !(event.key in step))
    return;
  const row = event.target.closest("tr")?.[step[event.key as keyof typeof step]];
  row?.querySelector<HTMLElement>("[data-opens]")?.focus();
  event.preventDefault();
}

const Frame = styled.div<{ $old: boolean }>`
  ${oldAnswer}
  --pane-top: 0px;
  overflow: auto;
  min-height: 0;
  flex: 0 1 auto;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  position: relative;
  container-type: inline-size;
  @media print {
    overflow: visible;
  }
`;

/** Two columns fit on any screen. */
const Folding = styled(Table)<{ $columns: number }>`
  ${({ $columns }) => $columns > 2 && cards($columns)}
  ${NARROW} {
    ${({ $columns }) => $columns > 2 && "thead { display: none; }"}
  }
`;

const Line = styled.tr<{ $open: boolean; $marked: boolean }>`
  position: relative;
  ${({ $open }) => $open && "cursor: pointer;"}
  ${({ $marked }) => $marked && `td { background: ${color.marked}; }`}
  ${({ $open }) => $open && `&:hover td { background: ${color.paper}; }`}
  &[aria-current] td {
    background: ${color.sunk};
  }
  `;

/** The link of a row covers it. */
const RowLink = styled(Link)`
  color: inherit;
  text-decoration: none;
  && {
    padding: 0;
    margin: 0;
  }
  &::after {
    content: "";
    position: absolute;
    inset: 0;
  }
  &:focus-visible {
    outline: none;
  }
  &:focus-visible::after {
    ${focusRing}
    outline-offset: -2px;
  }
`;

const Sort = styled.button`
  ${TOUCH} {
    min-height: ${TARGET};
  }
  display: inline-flex;
  align-items: center;
  gap: 3px;
  padding: 0;
  border: 0;
  background: none;
  color: inherit;
  font: 600 13px/1.4 ${font.text};
  cursor: pointer;
  svg {
    width: 13px;
    height: 13px;
  }
`;
