import type { BuildSheet } from "@yosegi/contract";
import { renumber, type SerialFault, serialFaults, serialRun } from "@yosegi/core";
import { type ClipboardEvent, type KeyboardEvent, useState } from "react";
import styled from "styled-components";
import { Button, Notice, Row, Section, Select, Sub, TextField, useFormat } from "../ui/index.ts";
import { type FinishDraft, fitted, partsInUnit, placed, unitPart } from "./finishdraft.ts";
import type { BuildLine } from "./linecells.tsx";
import { useUsedSerials } from "./queries.ts";

const FAULT_WORDS: Record<SerialFault, string> = {
  missing: "Enter a serial number.",
  repeated: "Entered twice.",
  used: "Already used.",
};

export interface SerialEntryProps {
  build: BuildSheet;
  draft: FinishDraft;
  /** As many as good units. */
  count: number;
  onChange: (draft: FinishDraft) => void;
  /** Whether what is missing is said too: once the person tried to record. */
  tried: boolean;
  /** What is wrong with them as a whole. */
  error: string | undefined;
}

/** Serial numbers of the finished units: from a run, pasted or scanned one after the other, each mended in place. */
export function SerialEntry({ build, draft, count, onChange, tried, error }: SerialEntryProps) {
  const format = useFormat();
  const used = new Set(useUsedSerials(build.id).data?.serials ?? []);
  const [from, setFrom] = useState(build.suggestedSerial);
  const [said, setSaid] = useState("");
  const isUsed = (serial: string) => used.has(serial);
  const serials = fitted(draft.serials, count);
  const faults = serialFaults(serials, isUsed).map((fault) => (fault === "missing" && !tried ? null : fault));
  const wrong = faults.filter((fault) => fault !== null).length;
  const set = (next: readonly string[]) => onChange({ ...draft, serials: next });
  const fill = () => {
    const run = serialRun(from.trim(), count, isUsed);
    if (!run) return setSaid("Start with a number that ends in digits, e.g. H-0001.");
    setSaid(run.skipped.length === 0 ? "" : `Skipped (already used): ${format.list(run.skipped)}.`);
    set(run.serials);
  };
  // Serial numbers come from a message as often as from a spreadsheet: "H-1, H-2" too.
  const paste = (at: number) => (event: ClipboardEvent) => {
    const pasted = event.clipboardData
      .getData("text/plain")
      .split(/[\s,;]+/)
      .filter(Boolean);
    if (pasted.length < 2) return;
    event.preventDefault();
    set(serials.map((serial, i) => pasted[i - at] ?? serial));
  };
  return (
    <Section title={`Serial numbers: ${format.count(count, "unit", "units")}`}>
      <Row style={{ alignItems: "flex-end" }}>
        <TextField label="Run from" width="180px" value={from} onChange={setFrom} placeholder="H-0001" />
        <Button onPress={fill}>Fill in {format.amount(String(count))}</Button>
        {wrong > 0 && (
          <Button onPress={() => set(renumber(serials, isUsed))}>
            Renumber the {format.amount(String(wrong))} marked
          </Button>
        )}
      </Row>
      {said !== "" && <Notice role="status">{said}</Notice>}
      <Sub>Scan one after the other, or paste a column of them.</Sub>
      <List>
        {placed(serials).map(([serial, i]) => (
          <li key={i} onPaste={paste(i)}>
            <TextField
              label={`Serial number ${i + 1}`}
              hideLabel
              width="180px"
              placeholder={`Unit ${i + 1}`}
              value={serial}
              onChange={(text) => set(serials.map((s, at) => (at === i ? text.trim() : s)))}
              onKeyDown={nextOnEnter}
              error={faultWords(faults[i])}
            />
            {partLines(build).flatMap((line) => partFields(build, line, i, draft, onChange))}
          </li>
        ))}
      </List>
      {error && <Notice>{error}</Notice>}
    </Section>
  );
}

const faultWords = (fault: SerialFault | null | undefined) => (fault ? FAULT_WORDS[fault] : undefined);

/** A scan ends with Enter: it goes on to the next unit's field instead of recording. */
function nextOnEnter(event: KeyboardEvent): void {
  if (event.key !== "Enter") return;
  event.preventDefault();
  const fields = [...(event.currentTarget.closest("ul")?.querySelectorAll<Element>("input") ?? [])];
  const next = fields[fields.indexOf(event.currentTarget) + 1];
  if (next instanceof HTMLElement) next.focus();
}

/** Lines whose parts have serial numbers of their own. */
const partLines = (build: BuildSheet): BuildLine[] =>
  build.lines.filter((line) => line.item.tracking === "serial" && line.choices.length > 0);

/** Which part serials went into a unit: as suggested until one is chosen. */
function partFields(
  build: BuildSheet,
  line: BuildLine,
  unit: number,
  draft: FinishDraft,
  onChange: (draft: FinishDraft) => void,
) {
  const each = partsInUnit(line, build);
  return Array.from({ length: Math.min(each, line.choices.length) }, (_, place) => {
    const key = unitPart(unit, line.item.id, place);
    const value = draft.parts.get(key) ?? "";
    const elsewhere = new Set([...draft.parts].filter(([other]) => other !== key).map(([, part]) => part));
    const suggested = line.choices[unit * each + place]?.code ?? "as it comes";
    return (
      <Select
        key={key}
        label={`${line.item.code} in unit ${unit + 1}`}
        hideLabel
        width="200px"
        value={value === "" ? SUGGESTED : value}
        options={[
          { value: SUGGESTED, label: `with ${suggested}` },
          ...line.choices
            .filter((choice) => !elsewhere.has(choice.code))
            .map((choice) => ({ value: choice.code, label: `${line.item.code} ${choice.code}` })),
        ]}
        onChange={(part) => {
          const parts = new Map(draft.parts);
          if (part === SUGGESTED) parts.delete(key);
          else parts.set(key, part);
          onChange({ ...draft, parts });
        }}
      />
    );
  });
}

const SUGGESTED = "suggested";

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 8px;
  li {
    display: flex;
    flex-wrap: wrap;
    gap: 10px;
  }
`;
