import {
  DECIMAL_MARKS,
  IMPORT_COLUMNS,
  type ImportFile,
  type ImportKind,
  type ImportReport,
  NEEDED_COLUMNS,
} from "@yosegi/contract";
import { useState } from "react";
import styled from "styled-components";
import { Button, Select, Short, Sub } from "../ui/index.ts";
import { TITLES } from "./words.ts";

const DECIMAL_WORDS = { ".": "a point: 1,234.5", ",": "a comma: 1.234,5" } as const;

interface NumbersProps {
  report: ImportReport;
  onChange: (kind: ImportKind, decimal: ImportFile["decimal"]) => void;
}

/** How each file writes decimals: told by its numbers, and asked where they do not tell. */
export function Numbers({ report, onChange }: NumbersProps) {
  const files = report.files.filter((file) => file.decimal !== null);
  if (files.length === 0) return null;
  return (
    <Match aria-label="How numbers are written" as="section">
      <h2>How numbers are written</h2>
      <Pairs>
        {files.map(({ kind, decimal }) => (
          <Select
            key={kind}
            label={`Decimals in ${TITLES[kind].toLowerCase()} have`}
            width="220px"
            placeholder="Choose"
            value={decimal === "unclear" || decimal === null ? "" : decimal}
            options={DECIMAL_MARKS.map((mark) => ({ value: mark, label: DECIMAL_WORDS[mark] }))}
            onChange={(mark) => onChange(kind, mark)}
          />
        ))}
      </Pairs>
    </Match>
  );
}

const LEFT_OUT = "–";

/** Which of our columns each of theirs is read as: those that are not read first, the others to be mended. */
export function Columns({
  report,
  onRename,
}: {
  report: ImportReport;
  onRename: (kind: ImportKind, theirs: string, ours: string) => void;
}) {
  const isOpen = (file: File) =>
    file.missing.length > 0 || file.theirs.some((column) => !file.columns[column]);
  const [all, setAll] = useState(false);
  const shown = report.files.filter((file) => all || isOpen(file));
  return (
    <Match>
      {shown.map((file) => (
        <Matched key={file.kind} file={file} all={all} onRename={onRename} />
      ))}
      <div>
        <Button look="link" aria-pressed={all} onPress={() => setAll(!all)}>
          {all ? "Show only columns that aren't read" : "Change how columns are read"}
        </Button>
      </div>
    </Match>
  );
}

type File = ImportReport["files"][number];

interface MatchedProps {
  file: File;
  all: boolean;
  onRename: (kind: ImportKind, theirs: string, ours: string) => void;
}

/** The columns of one file, each with what it is read as. */
function Matched({ file, all, onRename }: MatchedProps) {
  const columns = file.theirs.filter((column) => all || !file.columns[column]);
  const taken = new Set(Object.values(file.columns));
  const optionsOf = (theirs: string) => [
    { value: LEFT_OUT, label: "Left out" },
    ...IMPORT_COLUMNS[file.kind]
      .filter((ours) => !taken.has(ours) || file.columns[theirs] === ours)
      .map((ours) => ({
        value: ours,
        label: NEEDED_COLUMNS[file.kind].includes(ours) ? `${ours} (needed)` : ours,
      })),
  ];
  return (
    <section>
      <h2>Columns of {TITLES[file.kind]}</h2>
      <Sub>
        {file.missing.length > 0 && <Short>Not found: {file.missing.join(", ")}. </Short>}
        {file.missing.length === 0 && !all && "These are not read. "}
        Match each of your columns; it is remembered for the next file:
      </Sub>
      <Pairs>
        {columns.map((theirs) => (
          <Select
            key={theirs}
            label={theirs}
            width="190px"
            value={file.columns[theirs] ?? LEFT_OUT}
            options={optionsOf(theirs)}
            onChange={(ours) => onRename(file.kind, theirs, ours === LEFT_OUT ? "" : ours)}
          />
        ))}
      </Pairs>
    </section>
  );
}

const Match = styled.div`
  display: grid;
  gap: 14px;
  margin-top: 18px;
`;

const Pairs = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 10px;
`;
