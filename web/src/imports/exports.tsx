import { IMPORT_COLUMNS, IMPORT_NAMES, type ImportKind, type ImportReport } from "@yosegi/contract";
import { FileDown } from "lucide-react";
import styled from "styled-components";
import { color } from "../ui/index.ts";

/** The ways out of a kind: everything, or a template. */
export function Out({ kind }: { kind: ImportKind }) {
  const address = (query: string) => `/api/exports/${kind}?${query}`;
  return (
    <Ways>
      <FileDown aria-hidden /> Export:{" "}
      <a href={address("format=xlsx")} aria-label={`${IMPORT_NAMES[kind]} as XLSX`} download>
        XLSX
      </a>
      <a href={address("format=csv")} aria-label={`${IMPORT_NAMES[kind]} as CSV`} download>
        CSV
      </a>
      <a
        href={address("format=xlsx&empty=true")}
        aria-label={`Empty ${IMPORT_NAMES[kind]} to fill in`}
        title={IMPORT_COLUMNS[kind].join(", ")}
        download
      >
        empty
      </a>
    </Ways>
  );
}

export function CountOf({ report, kind }: { report: ImportReport | null; kind: ImportKind }) {
  const count = report?.files.find((file) => file.kind === kind);
  if (!count) return null;
  const words = [
    count.fresh > 0 && `${count.fresh} new`,
    count.changed > 0 && `${count.changed} changed`,
    count.same > 0 && `${count.same} the same`,
  ].filter(Boolean);
  return (
    <small>
      {count.rows} rows{words.length > 0 && `: ${words.join(", ")}`}
    </small>
  );
}

export const Ways = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 4px 10px;
  align-items: center;
  margin-top: 12px;
  font-size: 13.5px;
  color: ${color.ink2};
  svg {
    width: 15px;
    height: 15px;
  }
`;
