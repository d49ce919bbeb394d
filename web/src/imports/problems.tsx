import { IMPORT_NAMES, type ImportReport } from "@yosegi/contract";
import { useMemo } from "react";
import styled from "styled-components";
import { type Column, DataTable } from "../ui/index.ts";

type Problem = ImportReport["problems"][number];
type Change = ImportReport["changes"][number];

/** One row can stand here twice; its place in the list tells it apart. */
const keyed = <Row,>(rows: readonly Row[]) => rows.map((row, key) => ({ ...row, key }));

/** Every row that is wrong: where, what stood there, and why it cannot come in. */
export function Problems({ problems }: { problems: Problem[] }) {
  const rows = useMemo(() => keyed(problems), [problems]);
  return (
    <Wrap>
      <DataTable label="Problems" rows={rows} columns={PROBLEM_COLUMNS} rowId={(p) => p.key} />
    </Wrap>
  );
}

/** What would become different of what is there already, field by field. */
export function Changes({ changes, update }: { changes: Change[]; update: boolean }) {
  const rows = useMemo(() => keyed(changes), [changes]);
  return (
    <Wrap>
      <h2>{update ? "What changes" : "What stays as it is, and would change"}</h2>
      <DataTable label="Changes" rows={rows} columns={CHANGE_COLUMNS} rowId={(c) => c.key} />
    </Wrap>
  );
}

const shown = (value: string) => <code>{value === "" ? "empty" : value.slice(0, 60)}</code>;

const PROBLEM_COLUMNS: Column<Problem & { key: number }>[] = [
  {
    id: "file",
    header: "File",
    compare: (a, b) => a.kind.localeCompare(b.kind),
    cell: (p) => IMPORT_NAMES[p.kind],
  },
  { id: "row", header: "Row", end: true, compare: (a, b) => a.row - b.row, cell: (p) => p.row },
  { id: "field", header: "Field", compare: (a, b) => a.field.localeCompare(b.field), cell: (p) => p.field },
  { id: "value", header: "Value", cell: (p) => shown(p.value) },
  { id: "message", header: "What is wrong", cell: (p) => p.message },
];

const CHANGE_COLUMNS: Column<Change & { key: number }>[] = [
  {
    id: "file",
    header: "File",
    compare: (a, b) => a.kind.localeCompare(b.kind),
    cell: (c) => IMPORT_NAMES[c.kind],
  },
  { id: "row", header: "Row", end: true, compare: (a, b) => a.row - b.row, cell: (c) => c.row },
  { id: "what", header: "What", compare: (a, b) => a.what.localeCompare(b.what), cell: (c) => c.what },
  { id: "field", header: "Field", compare: (a, b) => a.field.localeCompare(b.field), cell: (c) => c.field },
  { id: "before", header: "Now", cell: (c) => shown(c.before) },
  { id: "after", header: "In the file", cell: (c) => shown(c.after) },
];

const Wrap = styled.div`
  code {
    font: inherit;
  }
  h2 {
    margin-bottom: 6px;
  }
  margin-top: 16px;
  display: flex;
  flex-direction: column;
  min-height: 200px;
`;
