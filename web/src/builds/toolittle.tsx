import { type BuildSheet, countBody, type FinishPreview } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import styled from "styled-components";
import { QuantityField, StoreField, useStores } from "../fields/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  Dialog,
  Form,
  type FormRefusal,
  Notice,
  Row,
  Short,
  Sub,
  TextField,
  useFormat,
} from "../ui/index.ts";
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
      <b>The books hold too little.</b>
      {preview.shorts.map((short) => {
        const line = build.lines.find((l) => l.item.id === short.item && l.stocked);
        const planned = preview.lines.find((l) => l.line === line?.line)?.planned ?? "0";
        return (
          <Part key={short.item}>
            <Short>
              {short.name}: {format.amount(short.needed)} needed, {format.amount(short.there)} there,{" "}
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
            Make it {format.amount(largest)}
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
  const tracked = line.item.tracking;
  const [first] = line.choices.filter((choice) => !choice.bench);
  const [there, setThere] = useState("");
  // Counted where it lies; where nothing lies, in its home bin.
  const [store, setStore] = useState(first?.store || line.store || (stores[0]?.name ?? ""));
  const [bin, setBin] = useState(first ? first.bin : line.bin);
  const [newBin, setNewBin] = useState(false);
  const [code, setCode] = useState(first?.code ?? "");
  // A bin belongs to its store; in another one there is none of that name, or it is another bin.
  const changeStore = (chosen: string) => {
    setStore(chosen);
    setBin("");
    setNewBin(false);
  };
  const [cost, setCost] = useState("");
  const [reason, setReason] = useState("");
  const [refusal, setRefusal] = useState<FormRefusal | null>(null);
  const submit = () => {
    const parsed = countBody.safeParse({
      item: line.item.id,
      store,
      bin,
      newBin,
      there,
      reason,
      cost: cost === "" ? null : cost,
      lot: tracked === "lot" ? code : "",
      serial: tracked === "serial" ? code : "",
    });
    if (parsed.success) return onCounted(parsed.data);
    const fields = parsed.error.issues.map((issue) => ({
      field: issue.path.join("."),
      message: issue.message,
    }));
    setRefusal({ message: "", fields });
  };
  return (
    <Form refusal={refusal} onSubmit={submit}>
      <Sub>
        Say what really lies in the bin. It is put right in the same step as the build is recorded, under your
        name.
      </Sub>
      <Row>
        <QuantityField
          autoFocus
          packs={line.item.packs}
          label="Really there"
          name="there"
          width="150px"
          unit={line.unit}
          value={there}
          onChange={setThere}
        />
        <StoreField label="Store" name="store" width="150px" value={store} onChange={changeStore} />
        <TextField label="Bin" name="bin" width="96px" value={bin} onChange={setBin} />
        {tracked !== "none" && (
          <TextField
            label={tracked === "lot" ? "Lot" : "Serial number"}
            name={tracked === "lot" ? "lot" : "serial"}
            width="150px"
            value={code}
            onChange={setCode}
          />
        )}
      </Row>
      <Checkbox isSelected={newBin} onChange={setNewBin}>
        It is a new bin
      </Checkbox>
      <Row style={{ marginTop: 12 }}>
        <TextField
          label="What was found, or why"
          name="reason"
          width="300px"
          value={reason}
          onChange={setReason}
        />
        <AmountField
          label="Cost of one"
          name="cost"
          width="150px"
          placeholder="as it is"
          value={cost}
          onChange={setCost}
        />
      </Row>
      <Actions>
        <Button look="main" type="submit">
          Count it
        </Button>
      </Actions>
    </Form>
  );
}

const Part = styled.div`
  margin: 8px 0;
  display: grid;
  gap: 6px;
`;
