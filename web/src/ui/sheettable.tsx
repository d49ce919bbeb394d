import type { ReactNode } from "react";
import styled, { css } from "styled-components";
import type { Column } from "./table.tsx";
import { Table } from "./tablestyle.ts";
import { color, NARROW, unseen } from "./theme.ts";

export interface SheetTableProps<Row> {
  label: string;
  rows: readonly Row[];
  columns: readonly Omit<Column<Row>, "id" | "compare" | "total">[];
  rowId: (row: Row) => string | number;
  /** What the table adds up to: words that span it, and the sum at its end. */
  sum?: { words: ReactNode; figure: ReactNode };
  /** On a narrow screen each row stands as a block, its cells named by their headers. */
  stacks?: boolean;
}

const stacked = css`
  ${NARROW} {
    &,
    tbody,
    tfoot {
      display: block;
    }
    thead {
      ${unseen}
    }
    tr {
      display: grid;
      grid-template-columns: repeat(auto-fit, minmax(96px, 1fr));
      gap: 6px 12px;
      padding: 12px 0;
      border-bottom: 1px solid ${color.line};
    }
    td {
      padding: 0;
      border: 0;
      min-width: 0;
    }
    td:empty {
      display: none;
    }
    td:first-child {
      grid-column: 1 / -1;
      padding: 0;
    }
    td.end {
      text-align: left;
      white-space: normal;
    }
    td.end[data-head]::before {
      content: attr(data-head);
      display: block;
      font-size: 13px;
      color: ${color.ink2};
    }
  }
`;

/** It is read as part of its sheet, so its header and sum scroll with it. */
const Still = styled(Table)<{ $stacks: boolean }>`
  th,
  tfoot td {
    position: static;
  }
  ${({ $stacks }) => $stacks && stacked}
`;

/** A short table within a sheet, in the order in which its rows are given. */
export function SheetTable<Row>({ label, rows, columns, rowId, sum, stacks = false }: SheetTableProps<Row>) {
  return (
    <Still aria-label={label} $stacks={stacks}>
      <thead>
        <tr>
          {columns.map((column) =>
            // A column of buttons names none of its rows.
            column.header === "" ? (
              <td key="" />
            ) : (
              <th key={column.header} scope="col" className={column.end ? "end" : undefined}>
                {column.header}
              </th>
            ),
          )}
        </tr>
      </thead>
      <tbody>
        {rows.map((row) => (
          <tr key={rowId(row)}>
            {columns.map((column) => (
              <td key={column.header} className={column.end ? "end" : undefined} data-head={column.header}>
                {column.cell(row)}
              </td>
            ))}
          </tr>
        ))}
      </tbody>
      {sum && (
        <tfoot>
          <tr>
            <td colSpan={columns.length - 1}>{sum.words}</td>
            <td className="end">{sum.figure}</td>
          </tr>
        </tfoot>
      )}
    </Still>
  );
}
