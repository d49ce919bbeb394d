import { quantity } from "@yosegi/contract";
import { LOT_PATTERN } from "@yosegi/core";
import { Plus, X } from "lucide-react";
import type { ReactNode } from "react";
import styled from "styled-components";
import { QuantityField, RateField, StoreField, useUnits } from "../fields/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  color,
  Form,
  type FormRefusal,
  Row,
  Select,
  Stack,
  TextField,
} from "../ui/index.ts";
import type { ItemDraft } from "./itemdraft.ts";
import { useGroups } from "./queries.ts";
import { KIND_CHOICES, KIND_HELP, STATE_CHOICES, TRACKING_CHOICES } from "./words.ts";

export interface ItemFormProps {
  draft: ItemDraft;
  onChange: (draft: ItemDraft) => void;
  refusal: FormRefusal | null;
  busy: boolean;
  onSubmit: () => void;
  isNew?: boolean;
  /** What stands above the fields. */
  top?: ReactNode;
  children: string;
}

/** All that is said of an item. What a kind has no use for is not asked. */
export function ItemForm({
  draft,
  onChange,
  refusal,
  busy,
  onSubmit,
  isNew = false,
  top,
  children,
}: ItemFormProps) {
  const set = (change: Partial<ItemDraft>) => onChange({ ...draft, ...change });
  return (
    <Form refusal={refusal} onSubmit={onSubmit}>
      {top}
      <Stack>
        <WhatItIs draft={draft} set={set} isNew={isNew} />
        <Money draft={draft} set={set} />
        {draft.kind !== "service" && draft.kind !== "kit" && <Keeping draft={draft} set={set} />}
        <More draft={draft} set={set} isNew={isNew} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={busy}>
          {children}
        </Button>
      </Actions>
    </Form>
  );
}

interface PartProps {
  draft: ItemDraft;
  set: (change: Partial<ItemDraft>) => void;
}

function WhatItIs({ draft, set, isNew }: PartProps & { isNew: boolean }) {
  const units = [...useUnits().values()];
  const groups = useGroups().data?.groups ?? [];
  const counted = draft.kind === "bought" || draft.kind === "built";
  const choose = (name: string) => {
    const group = groups.find((g) => g.name === name);
    // A group gives a new item its defaults; what is there already stays as it is.
    const defaults = isNew && group && counted;
    set({
      group: name === NO_GROUP ? "" : name,
      ...(defaults && group.unit && { unit: group.unit }),
      ...(defaults && group.tracking && { tracking: group.tracking }),
      ...(defaults && group.store && { store: group.store }),
    });
  };
  return (
    <>
      <Row>
        <TextField
          label="Code"
          name="code"
          width="170px"
          value={draft.code}
          onChange={(code) => set({ code })}
          isReadOnly={!isNew}
          autoFocus={isNew}
        />
        <TextField
          label="Name"
          name="name"
          width="394px"
          value={draft.name}
          onChange={(name) => set({ name })}
          autoFocus={!isNew}
        />
        <Select
          label="Group"
          name="group"
          width="170px"
          value={draft.group}
          options={[
            { value: NO_GROUP, label: "None" },
            ...groups.map((g) => ({ value: g.name, label: g.name })),
          ]}
          onChange={choose}
          placeholder="None"
        />
      </Row>
      <Row>
        <Select
          label="Kind"
          name="kind"
          width="170px"
          value={draft.kind}
          options={KIND_CHOICES}
          onChange={(kind) =>
            set({
              kind,
              ...((kind === "service" || kind === "kit") && { tracking: "none", notStockTracked: false }),
              ...(kind === "service" && draft.unit === "pc" && { unit: "hour" }),
            })
          }
        />
        <Select
          label="Unit"
          name="unit"
          width="190px"
          value={draft.unit}
          options={units.map((u) => ({ value: u.code, label: `${u.code} · ${u.name}` }))}
          onChange={(unit) => set({ unit, costPer: "", pricePer: "" })}
        />
        {counted && (
          <Select
            label="Tracking"
            name="tracking"
            width="194px"
            value={draft.tracking}
            options={TRACKING_CHOICES}
            onChange={(tracking) => set({ tracking })}
            isDisabled={draft.notStockTracked}
          />
        )}
        {!isNew && (
          <Select
            label="State"
            name="state"
            width="170px"
            value={draft.state}
            options={STATE_CHOICES}
            onChange={(state) => set({ state })}
          />
        )}
      </Row>
      {isNew && <Help>{KIND_HELP[draft.kind]}</Help>}
    </>
  );
}

const NO_GROUP = "–";

function Money({ draft, set }: PartProps) {
  return (
    <Row>
      {draft.kind !== "kit" && (
        <RateField
          label={draft.kind === "service" ? "Rate" : "Standard cost"}
          name="cost"
          unit={draft.unit}
          packs={draft.packs}
          value={draft.cost}
          per={draft.costPer}
          onChange={(cost, costPer) => set({ cost, costPer })}
        />
      )}
      <RateField
        label="Price"
        name="price"
        unit={draft.unit}
        packs={draft.packs}
        value={draft.price}
        per={draft.pricePer}
        onChange={(price, pricePer) => set({ price, pricePer })}
      />
      <TextField
        label="Barcode"
        name="barcode"
        width="194px"
        value={draft.barcode}
        onChange={(barcode) => set({ barcode })}
      />
    </Row>
  );
}

function Keeping({ draft, set }: PartProps) {
  return (
    <>
      <Row>
        <StoreField
          label="Home store"
          name="store"
          width="170px"
          value={draft.store}
          onChange={(store) => set({ store })}
          placeholder="None"
        />
        <TextField
          label="Home bin"
          name="bin"
          width="190px"
          value={draft.bin}
          onChange={(bin) => set({ bin })}
        />
        <QuantityField
          packs={draft.packs.filter((pack) => quantity.safeParse(pack.quantity).success)}
          label="Reorder level"
          name="reorderLevel"
          width="194px"
          unit={draft.unit}
          value={draft.reorderLevel}
          onChange={(reorderLevel) => set({ reorderLevel })}
        />
      </Row>
      <Packs draft={draft} set={set} />
      <Checkbox
        isSelected={draft.notStockTracked}
        onChange={(notStockTracked) => set({ notStockTracked, ...(notStockTracked && { tracking: "none" }) })}
      >
        Not counted: costs and prints, but is never stocked and never limits (rags, tape)
      </Checkbox>
    </>
  );
}

function Packs({ draft, set }: PartProps) {
  const change = (at: number, to: Partial<ItemDraft["packs"][number]>) =>
    set({ packs: draft.packs.map((pack, i) => (i === at ? { ...pack, ...to } : pack)) });
  return (
    <>
      {draft.packs.map((pack, i) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: a pack has no other name than the one being typed
        <Row key={i}>
          <TextField
            label={`Pack ${i + 1}`}
            name={`packs.${i}.name`}
            width="170px"
            placeholder="box"
            value={pack.name}
            onChange={(name) => change(i, { name })}
          />
          <AmountField
            label={`Holds, pack ${i + 1}`}
            name={`packs.${i}.quantity`}
            width="190px"
            unit={draft.unit}
            value={pack.quantity}
            onChange={(quantity) => change(i, { quantity })}
          />
          <Remove>
            <Button
              look="icon"
              aria-label={`Remove pack ${i + 1}`}
              onPress={() => set({ packs: draft.packs.filter((_, at) => at !== i) })}
            >
              <X />
            </Button>
          </Remove>
        </Row>
      ))}
      <div>
        <Button look="link" onPress={() => set({ packs: [...draft.packs, { name: "", quantity: "" }] })}>
          <Plus /> A pack, such as a box of 200
        </Button>
      </div>
    </>
  );
}

function More({ draft, set, isNew }: PartProps & { isNew: boolean }) {
  const days = (label: string, name: "buildDays" | "shelfLife" | "warrantyMonths", unit: string) => (
    <AmountField
      label={label}
      name={name}
      width="150px"
      unit={unit}
      value={draft[name]}
      onChange={(value) => set({ [name]: value })}
    />
  );
  return (
    <Details open={!isNew}>
      <summary>Times, maker, notes</summary>
      <Stack>
        <Row>
          {draft.kind === "built" && days("Build days", "buildDays", "days")}
          {draft.tracking === "lot" && days("Shelf life", "shelfLife", "days")}
          {draft.tracking === "lot" && draft.kind === "built" && (
            <TextField
              label="Lot numbers"
              name="lotPattern"
              width="210px"
              placeholder={LOT_PATTERN}
              hint="{yy}, {year}, {month}, {day} and {number} are filled in."
              value={draft.lotPattern}
              onChange={(lotPattern) => set({ lotPattern })}
            />
          )}
          {days("Warranty", "warrantyMonths", "months")}
        </Row>
        <Row>
          <TextField
            label="Maker"
            name="maker"
            width="370px"
            value={draft.maker}
            onChange={(maker) => set({ maker })}
          />
          <TextField
            label="Maker's number"
            name="makerNumber"
            width="194px"
            value={draft.makerNumber}
            onChange={(makerNumber) => set({ makerNumber })}
          />
        </Row>
        <TextField
          label="Notes"
          name="notes"
          lines
          value={draft.notes}
          onChange={(notes) => set({ notes })}
        />
      </Stack>
    </Details>
  );
}

const Help = styled.p`
  margin: -4px 0 0;
  color: ${color.ink2};
  max-width: 44em;
`;

const Remove = styled.div`
  padding-top: 22px;
`;

const Details = styled.details`
  summary {
    cursor: pointer;
    font-weight: 600;
    color: ${color.ink2};
    margin-bottom: 10px;
  }
`;
