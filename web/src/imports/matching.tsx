import {
  DECIMAL_MARKS,
  IMPORT_COLUMNS,
  type ImportFile,
  type ImportKind,
  type ImportReport,
  NEEDED_COLUMNS,
} from "@yosegi/contract";
import styled from "styled-components";
import { Select, Short, Sub } from "../ui/index.ts";
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

/** Columns that were not found by their name, to be matched by hand. */
export function Columns({
  report,
  onRename,
}: {
  report: ImportReport;
  onRename: (kind: ImportKind, theirs: string, ours: string) => void;
}) {
  const open = report.files.filter(
    (file) => file.missing.length > 0 || file.theirs.some((column) => !file.columns[column]),
  );
  if (open.length === 0) return null;
  return (
    <Match>
      {open.map((file) => {
        const strangers = file.theirs.filter((column) => !file.columns[column]);
        const free = IMPORT_COLUMNS[file.kind].filter((ours) => !Object.values(file.columns).includes(ours));
        return (
          <section key={file.kind}>
            <h2>Columns of {TITLES[file.kind]}</h2>
            <Sub>
              {file.missing.length > 0 ? (
                <Short>Not found: {file.missing.join(", ")}. </Short>
              ) : (
                "These are not read. "
              )}
              Match each of your columns:
            </Sub>
            <Pairs>
              {strangers.map((theirs) => (
                <Select
                  key={theirs}
                  label={theirs}
                  width="190px"
                  value={LEFT_OUT}
                  options={[
                    { value: LEFT_OUT, label: "Left out" },
                    ...free.map((ours) => ({
                      value: ours,
                      label: NEEDED_COLUMNS[file.kind].includes(ours) ? `${ours} (needed)` : ours,
                    })),
                  ]}
                  onChange={(ours) => ours !== LEFT_OUT && onRename(file.kind, theirs, ours)}
                />
              ))}
            </Pairs>
          </section>
        );
      })}
    </Match>
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
