import type { ImportReport } from "@yosegi/contract";
import styled from "styled-components";
import { Actions, Button, Checkbox, color, Short, Sub, useFormat } from "../ui/index.ts";
import { thingWords } from "./words.ts";

interface ResultProps {
  report: ImportReport;
  update: boolean;
  onUpdate: (update: boolean) => void;
  busy: boolean;
  onConfirm: (goodRowsOnly: boolean) => void;
}

/** What would be written, in a sentence, and the way to it. */
export function Result({ report, update, onUpdate, busy, onConfirm }: ResultProps) {
  const format = useFormat();
  const { adds, problems, changes } = report;
  const parts = [
    ...thingWords(adds, format),
    ...(adds.stores.length > 0
      ? [`the new ${adds.stores.length === 1 ? "store" : "stores"} ${format.list(adds.stores)}`]
      : []),
    ...(adds.bins > 0 ? [format.count(adds.bins, "new bin", "new bins")] : []),
    ...(adds.groups.length > 0 ? [format.count(adds.groups.length, "new group", "new groups")] : []),
  ];
  const changed = new Set(changes.map((change) => `${change.kind} ${change.what}`)).size;
  const nothing = parts.length === 0;
  if (report.files.some((file) => file.missing.length > 0))
    return (
      <Answer>
        <em>First match the columns that are needed.</em>
      </Answer>
    );
  // Until that is said, not a row of the file is read.
  if (report.files.some((file) => file.decimal === "unclear"))
    return (
      <Answer>
        <em>First choose how the numbers are written.</em>
      </Answer>
    );
  return (
    <>
      <Answer>
        {nothing
          ? "There is nothing new in these files."
          : `${format.list(parts)} can come in${adds.fresh.stock > 0 ? `, worth ${format.money(adds.stockValue)}` : ""}.`}{" "}
        {problems.length > 0 && (
          <em>{format.count(problems.length, "problem was", "problems were")} found.</em>
        )}
      </Answer>
      {changed > 0 && (
        <Checkbox isSelected={update} onChange={onUpdate}>
          Also change {format.count(changed, "record that is", "records that are")} here already, as listed
          below
        </Checkbox>
      )}
      <Actions>
        {!nothing && problems.length === 0 && (
          <Button look="main" isPending={busy} onPress={() => onConfirm(false)}>
            Import all of it
          </Button>
        )}
        {!nothing && problems.length > 0 && (
          <>
            <Button isPending={busy} onPress={() => onConfirm(true)}>
              Import the good rows only
            </Button>
            <span>
              or mend the file and choose it again; <Short>rows with a problem stay out.</Short>
            </span>
          </>
        )}
        {nothing && problems.length > 0 && <Sub>Fix the files and choose them again.</Sub>}
      </Actions>
    </>
  );
}

const Answer = styled.h1`
  font-size: 23px;
  margin: 22px 0 6px;
  max-width: 40em;
  em {
    font-style: normal;
    color: ${color.lacquer};
  }
`;
