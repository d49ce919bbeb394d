import { type BuildSheet, countBody, type FinishPreview } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import styled from "styled-components";
import { fieldsOf, useStores } from "../fields/index.ts";
import { FormOf, useSchemaForm } from "../forms/index.ts";
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

interface CountValues {
  there: string;
  store: string;
  bin: string;
  newBin: boolean;
  lot: string;
  serial: string;
  reason: string;
  cost: string;
}

const In = fieldsOf<CountValues>();

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
    body: ({ cost, ...typed }: CountValues) => ({
      ...typed,
      item: line.item.id,
      cost: cost === "" ? null : cost,
    }),
    send: (body) => onCounted(countBody.parse(body)),
  });
  // A bin belongs to its store; in another one there is none of that name, or it is another bin.
  const onStore = () => {
    form.methods.setValue("bin", "");
    form.methods.setValue("newBin", false);
  };
  return (
    <FormOf form={form} save="Save count">
      <Sub>
        Enter what is really in the bin. The stock is corrected together with the finish, under your name.
      </Sub>
      <Row>
        <In.Quantity
          autoFocus
          packs={line.item.packs}
          label="Counted"
          name="there"
          width="150px"
          unit={line.unit}
        />
        <In.Store label="Store" name="store" width="150px" onChanged={onStore} />
        <In.Text label="Bin" name="bin" width="96px" />
        {tracking === "lot" && <In.Text label="Lot" name="lot" width="150px" />}
        {tracking === "serial" && <In.Text label="Serial number" name="serial" width="150px" />}
      </Row>
      <In.Tick name="newBin">New bin</In.Tick>
      <Row style={{ marginTop: 12 }}>
        <In.Text label="Reason" name="reason" width="300px" />
        <In.Amount label="Unit cost" name="cost" width="150px" placeholder="unchanged" />
      </Row>
    </FormOf>
  );
}

const Part = styled.div`
  margin: 8px 0;
  display: grid;
  gap: 6px;
`;
