import { type BuildSheet, countBody, type FinishPreview } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import styled from "styled-components";
import { useStores } from "../fields/index.ts";
import { FormOf, useSchemaForm } from "../forms/index.ts";
import { CountFields, type CountValues, countOf } from "../stock/index.ts";
import { Button, Dialog, Notice, Row, Short, Sub, useFormat } from "../ui/index.ts";
import { type CountDraft, type FinishDraft, takeSubstitute } from "./finishdraft.ts";
import type { BuildLine } from "./linecells.tsx";

export interface TooLittleProps {
  build: BuildSheet;
  draft: FinishDraft;
  preview: FinishPreview;
  onChange: (draft: FinishDraft) => void;
}

/** The books hold too little: which parts, how many units they would do for, and the ways on from here. */
export function TooLittle({ build, draft, preview, onChange }: TooLittleProps) {
  const format = useFormat();
  const [counting, setCounting] = useState<BuildLine | null>(null);
  const { largest } = preview;
  if (largest === null) return null;
  const possible = draft.rejected === "0" && decimal(largest).gt(0);
  return (
    <Notice>
      <b>Not enough stock on record.</b>
      {preview.shorts.map((short) => {
        const line = build.lines.find((l) => l.item.id === short.item && l.stocked);
        const planned = preview.lines.find((l) => l.line === line?.line)?.planned ?? "0";
        return (
          <Part key={short.item}>
            <Short>
              {short.name}: {format.amount(short.needed)} needed, {format.amount(short.there)} on record,{" "}
              {format.amount(short.short, short.unit)} short
            </Short>
            <Row>
              {line && <Button onPress={() => setCounting(line)}>Count {short.code}</Button>}
              {line?.substitutes
                .filter((s) => decimal(s.free).gt(0))
                .map((substitute) => (
                  <Button
                    key={substitute.item.id}
                    onPress={() => onChange(takeSubstitute(draft, line.line, substitute, planned))}
                  >
                    Take {substitute.item.name} instead (
                    {format.amount(substitute.free, substitute.item.unit)} free)
                  </Button>
                ))}
            </Row>
          </Part>
        );
      })}
      <Row style={{ marginTop: 8, alignItems: "center" }}>
        {decimal(largest).gt(0)
          ? `At most ${format.amount(largest, build.product.unit)} can be finished.`
          : "None can be finished."}
        {possible && (
          <Button onPress={() => onChange({ ...draft, good: largest })}>
            Finish {format.amount(largest)} instead
          </Button>
        )}
      </Row>
      <Dialog
        title={counting ? `Count ${counting.item.name}` : ""}
        isOpen={counting !== null}
        onClose={() => setCounting(null)}
      >
        {counting && (
          <CountForm
            line={counting}
            onCounted={(count) => {
              onChange({ ...draft, counts: [...draft.counts.filter((c) => !sameBin(c, count)), count] });
              setCounting(null);
            }}
          />
        )}
      </Dialog>
    </Notice>
  );
}

const sameBin = (a: CountDraft, b: CountDraft): boolean =>
  a.item === b.item && a.store === b.store && a.bin === b.bin && a.lot === b.lot && a.serial === b.serial;

/** What is really there of a part, in one bin; recorded together with the finish. */
function CountForm({ line, onCounted }: { line: BuildLine; onCounted: (count: CountDraft) => void }) {
  const stores = useStores().data?.stores ?? [];
  const { tracking } = line.item;
  const [first] = line.choices.filter((choice) => !choice.bench);
  const form = useSchemaForm({
    schema: countBody,
    // Counted where it lies; where nothing lies, in its home bin.
    begin: {
      there: "",
      store: first?.store || line.store || (stores[0]?.name ?? ""),
      bin: first ? first.bin : line.bin,
      newBin: false,
      lot: tracking === "lot" ? (first?.code ?? "") : "",
      serial: tracking === "serial" ? (first?.code ?? "") : "",
      reason: "",
      cost: "",
    },
    body: (typed: CountValues) => countOf(typed, line.item.id),
    send: (body) => onCounted(countBody.parse(body)),
  });
  return (
    <FormOf form={form} save="Save count">
      <Sub>
        Enter what is really in the bin. The stock is corrected together with the finish, under your name.
      </Sub>
      <CountFields of={{ packs: line.item.packs, unit: line.unit, tracking }} />
    </FormOf>
  );
}

const Part = styled.div`
  margin: 8px 0;
  display: grid;
  gap: 6px;
`;
