import { IMPORT_NAMES, type ImportReport } from "@yosegi/contract";
import { useMemo } from "react";
import styled from "styled-components";
import { type Column, DataTable } from "../ui/index.ts";

type Problem = ImportReport["problems"][number];

/** Every row that is wrong: where, what stood there, and why it cannot come in. */
export function Problems({ problems }: { problems: Problem[] }) {
  // One row can have the same problem twice; its place in the list tells them apart.
  const rows = useMemo(() => problems.map((problem, key) => ({ ...problem, key })), [problems]);
  return (
    <Wrap>
      <DataTable label="Problems" rows={rows} columns={COLUMNS} rowId={(p) => p.key} />
    </Wrap>
  );
}

const COLUMNS: Column<Problem & { key: number }>[] = [
  {
    id: "file",
    header: "File",
    compare: (a, b) => a.file.localeCompare(b.file),
    cell: (p) => IMPORT_NAMES[p.file],
  },
  { id: "row", header: "Row", end: true, compare: (a, b) => a.row - b.row, cell: (p) => p.row },
  { id: "field", header: "Field", compare: (a, b) => a.field.localeCompare(b.field), cell: (p) => p.field },
  {
    id: "value",
    header: "Value",
    cell: (p) => <code>{p.value === "" ? "empty" : p.value.slice(0, 60)}</code>,
  },
  { id: "message", header: "What is wrong", cell: (p) => p.message },
];

const Wrap = styled.div`
  code {
    font: inherit;
  }
  margin-top: 16px;
  display: flex;
  flex-direction: column;
  min-height: 200px;
`;
