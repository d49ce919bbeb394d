import { createSortedRowModel, rowSortingFeature, tableFeatures, useTable } from "@tanstack/react-table";
import { useVirtualizer } from "@tanstack/react-virtual";
import { ArrowDown, ArrowUp } from "lucide-react";
import { type ReactNode, useMemo, useRef } from "react";
import styled from "styled-components";
import { oldAnswer } from "./old.tsx";
import { Table } from "./tablestyle.ts";
import { color, focusRing, font } from "./theme.ts";

export interface Column<Row> {
  id: string;
  header: string;
  cell: (row: Row) => ReactNode;
  /** Orders two rows by this column; without it the column does not sort. */
  compare?: (a: Row, b: Row) => number;
  end?: boolean;
  /** What stands under the column, of all rows. */
  total?: ReactNode;
  width?: string;
}

export interface DataTableProps<Row> {
  label: string;
  rows: readonly Row[];
  columns: readonly Column<Row>[];
  rowId: (row: Row) => string | number;
  /** Opens a row, by click or Enter. */
  onOpen?: ((row: Row) => void) | undefined;
  isCurrent?: ((row: Row) => boolean) | undefined;
  isMarked?: ((row: Row) => boolean) | undefined;
  empty?: ReactNode;
  /** The rows were asked for before; those that are asked for now are on their way. */
  old?: boolean;
  /** Called when the last row comes into view, to fetch more. */
  onEnd?: (() => void) | undefined;
  /** Where the rows come sorted already, page by page: what by, and what to do at a press on a header. */
  sorted?: { by: string; descending: boolean; columns: readonly string[]; onSort: (column: string) => void };
}

const features = tableFeatures({ rowSortingFeature, sortedRowModel: createSortedRowModel() });
const ROW_HEIGHT = 39;
/** Past this many rows only those in view are in the page. */
const VIRTUAL_FROM = 60;

/** A table: sorted by a press on a header, header in view, totals below, and light however many rows there are. */
export function DataTable<Row extends object>({
  label,
  rows,
  columns,
  rowId,
  onOpen,
  isCurrent,
  isMarked,
  empty,
  onEnd,
  old = false,
  sorted: order,
}: DataTableProps<Row>) {
  const frame = useRef<HTMLDivElement>(null);
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
  const hasTotals = columns.some((column) => column.total !== undefined);
  return (
    <Frame ref={frame} onScroll={onScroll} $old={old} aria-busy={old || undefined}>
      <Table aria-label={label} aria-rowcount={sorted.length + 1}>
        <thead>
          <tr>
            {table.getHeaderGroups()[0]?.headers.map((header, i) => (
              <Head
                key={header.id}
                column={columns[i]}
                sorts={order ? order.columns.includes(header.id) : columns[i]?.compare !== undefined}
                sorted={order ? orderOf(order, header.id) : header.column.getIsSorted()}
                onSort={() => (order ? order.onSort(header.id) : header.column.toggleSorting())}
              />
            ))}
          </tr>
        </thead>
        <tbody>
          {above > 0 && <tr aria-hidden style={{ height: above }} />}
          {sorted.slice(first, last + 1).map((row, i) => (
            <Line
              key={row.id}
              aria-rowindex={first + i + 2}
              {...(onOpen && {
                tabIndex: 0,
                onClick: () => onOpen(row.original),
                onKeyDown: (e) => moveOrOpen(e, () => onOpen(row.original)),
              })}
              $open={onOpen !== undefined}
              $marked={isMarked?.(row.original) ?? false}
              {...(isCurrent?.(row.original) && { "aria-current": true })}
            >
              {columns.map((column) => (
                <td key={column.id} className={column.end ? "end" : undefined}>
                  {column.cell(row.original)}
                </td>
              ))}
            </Line>
          ))}
          {below > 0 && <tr aria-hidden style={{ height: below }} />}
          {sorted.length === 0 && empty && (
            <tr>
              <td className="empty" colSpan={columns.length}>
                {empty}
              </td>
            </tr>
          )}
        </tbody>
        {hasTotals && sorted.length > 0 && (
          <tfoot>
            <tr>
              {columns.map((column) => (
                <td key={column.id} className={column.end ? "end" : undefined}>
                  {column.total}
                </td>
              ))}
            </tr>
          </tfoot>
        )}
      </Table>
    </Frame>
  );
}

function orderOf(order: { by: string; descending: boolean }, column: string): false | "asc" | "desc" {
  if (order.by !== column) return false;
  return order.descending ? "desc" : "asc";
}

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

/** Arrow keys walk the rows, Enter opens one. */
function moveOrOpen(event: React.KeyboardEvent<HTMLTableRowElement>, open: () => void): void {
  if (event.target !== event.currentTarget) return;
  const step = { ArrowDown: "nextElementSibling", ArrowUp: "previousElementSibling" } as const;
  const next = event.key in step ? event.currentTarget[step[event.key as keyof typeof step]] : null;
  if (event.key === "Enter") open();
  else if (next instanceof HTMLElement) next.focus();
  else return;
  event.preventDefault();
}

const Frame = styled.div<{ $old: boolean }>`
  ${oldAnswer}
  overflow: auto;
  min-height: 0;
  flex: 0 1 auto;
  background: ${color.sheet};
  border: 1px solid ${color.line};
  position: relative;
  @media print {
    overflow: visible;
  }
`;

const Line = styled.tr<{ $open: boolean; $marked: boolean }>`
  ${({ $open }) => $open && "cursor: pointer;"}
  ${({ $marked }) => $marked && `td { background: ${color.marked}; }`}
  ${({ $open }) => $open && `&:hover td { background: ${color.paper}; }`}
  &[aria-current] td {
    background: ${color.sunk};
  }
  &:focus-visible {
    ${focusRing}
    outline-offset: -2px;
  }
`;

const Sort = styled.button`
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
