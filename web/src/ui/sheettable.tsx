import type { ReactNode } from "react";
import styled, { css } from "styled-components";
import type { Column } from "./table.tsx";
import { cards, cellHead, Table, tight } from "./tablestyle.ts";

export interface SheetTableProps<Row> {
  label: string;
  rows: readonly Row[];
  columns: readonly Omit<Column<Row>, "id" | "compare" | "total">[];
  rowId: (row: Row) => string | number;
  /** What the table adds up to: words that span it, and the sum at its end. */
  sum?: { words: ReactNode; figure: ReactNode };
}

const edgeToEdge = css`
  tbody tr,
  tfoot tr {
    padding-inline: 0;
  }
`;

/** It is read as part of its sheet, so its header and sum scroll with it. */
const Still = styled(Table)<{ $columns: number }>`
  th,
  tfoot td {
    position: static;
  }
  ${({ $columns }) => cards($columns)}
  ${({ $columns }) => tight($columns, edgeToEdge)}
`;

/** A short table within a sheet, in the order in which its rows are given. */
export function SheetTable<Row>({ label, rows, columns, rowId, sum }: SheetTableProps<Row>) {
  return (
    <Still aria-label={label} $columns={columns.length}>
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
              <td key={column.header} className={column.end ? "end" : undefined} data-head={cellHead(column)}>
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
