import { quantity } from "@yosegi/contract";
import { LOT_PATTERN } from "@yosegi/core";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf, useUnits } from "../fields/index.ts";
import { color, Details, Row, Stack } from "../ui/index.ts";
import type { ItemDraft } from "./itemdraft.ts";
import { useGroups } from "./queries.ts";
import { KIND_CHOICES, KIND_HELP, STATE_CHOICES, TRACKING_CHOICES } from "./words.ts";

const In = fieldsOf<ItemDraft>();

/** All that is said of an item. What a kind has no use for is not asked. */
export function ItemFields({ isNew }: { isNew: boolean }) {
  const kind = useWatch<ItemDraft, "kind">({ name: "kind" });
  return (
    <Stack>
      <WhatItIs isNew={isNew} />
      <Money />
      {kind !== "service" && kind !== "kit" && <Keeping />}
      <More isNew={isNew} />
    </Stack>
  );
}

function WhatItIs({ isNew }: { isNew: boolean }) {
  const { setValue, getValues } = useFormContext<ItemDraft>();
  const kind = useWatch<ItemDraft, "kind">({ name: "kind" });
  const notStockTracked = useWatch<ItemDraft, "notStockTracked">({ name: "notStockTracked" });
  const units = [...useUnits().values()];
  const groups = useGroups().data?.groups ?? [];
  const counted = kind === "bought" || kind === "built";
  // A group gives a new item its defaults; what is there already stays as it is.
  const takeDefaults = (name: string) => {
    const group = groups.find((g) => g.name === name);
    if (!isNew || !group || !counted) return;
    if (group.unit) setValue("unit", group.unit);
    if (group.tracking) setValue("tracking", group.tracking);
    if (group.store) setValue("store", group.store);
  };
  const followKind = (chosen: string) => {
    if (chosen === "service" || chosen === "kit") {
      setValue("tracking", "none");
      setValue("notStockTracked", false);
    }
    if (chosen === "service" && getValues("unit") === "pc") setValue("unit", "hour");
  };
  const forgetPers = () => {
    setValue("costPer", "");
    setValue("pricePer", "");
  };
  return (
    <>
      <Row>
        <In.Text label="Code" name="code" width="170px" isReadOnly={!isNew} autoFocus={isNew} />
        <In.Text label="Name" name="name" width="394px" autoFocus={!isNew} />
        <In.Choice
          label="Group"
          name="group"
          width="170px"
          none="None"
          options={groups.map((g) => ({ value: g.name, label: g.name }))}
          onChanged={takeDefaults}
        />
      </Row>
      <Row>
        <In.Choice label="Kind" name="kind" width="170px" options={KIND_CHOICES} onChanged={followKind} />
        <In.Choice
          label="Unit"
          name="unit"
          width="190px"
          options={units.map((u) => ({ value: u.code, label: `${u.code} · ${u.name}` }))}
          onChanged={forgetPers}
        />
        {counted && (
          <In.Choice
            label="Tracking"
            name="tracking"
            width="194px"
            options={TRACKING_CHOICES}
            isDisabled={notStockTracked}
          />
        )}
        {!isNew && <In.Choice label="State" name="state" width="170px" options={STATE_CHOICES} />}
      </Row>
      {isNew && <Help>{KIND_HELP[kind]}</Help>}
    </>
  );
}

/** What a price and a quantity of the item can be measured in. */
function useMeasure() {
  const unit = useWatch<ItemDraft, "unit">({ name: "unit" });
  const packs = useWatch<ItemDraft, "packs">({ name: "packs" });
  return { unit, packs };
}

function Money() {
  const measure = useMeasure();
  const kind = useWatch<ItemDraft, "kind">({ name: "kind" });
  return (
    <Row>
      {kind !== "kit" && (
        <In.Rate
          label={kind === "service" ? "Rate" : "Standard cost"}
          name="cost"
          per="costPer"
          {...measure}
        />
      )}
      <In.Rate label="Price" name="price" per="pricePer" {...measure} />
      <In.Text label="Barcode" name="barcode" width="194px" />
    </Row>
  );
}

function Keeping() {
  const { unit, packs } = useMeasure();
  const kind = useWatch<ItemDraft, "kind">({ name: "kind" });
  const byLot = useWatch<ItemDraft, "tracking">({ name: "tracking" }) === "lot";
  const { setValue } = useFormContext<ItemDraft>();
  return (
    <>
      <Row>
        <In.Store label="Default store" name="store" width="170px" none="None" />
        <In.Text label="Default bin" name="bin" width="190px" />
        <In.Quantity
          packs={packs.filter((pack) => quantity.safeParse(pack.quantity).success)}
          label="Reorder level"
          name="reorderLevel"
          width="194px"
          unit={unit}
        />
      </Row>
      <In.Lines
        name="packs"
        blank={{ name: "", quantity: "" }}
        add="Add pack, e.g. a box of 200"
        remove={(i) => `Remove pack ${i + 1}`}
      >
        {(at, i) => (
          <>
            <In.Text label={`Pack ${i + 1}`} name={`${at}.name`} width="170px" placeholder="box" />
            <In.Amount label={`Holds, pack ${i + 1}`} name={`${at}.quantity`} width="190px" unit={unit} />
          </>
        )}
      </In.Lines>
      <In.Tick name="notStockTracked" onChanged={(on) => on && setValue("tracking", "none")}>
        Not stock-tracked: adds to cost and appears on paperwork, but has no stock (e.g. rags, tape)
      </In.Tick>
      {byLot && <In.Tick name="lotFixed">Pick the suggested lot: another one needs a reason</In.Tick>}
      <In.Tick name="notForSale">Not for sale: can't be put on an order</In.Tick>
      {kind === "built" && (
        <>
          <In.Tick name="alwaysBuild">Always build for orders, even when some are in stock</In.Tick>
          <In.Tick name="finishWhenShipped">
            Finish when shipped: shipping an order finishes its builds
          </In.Tick>
        </>
      )}
    </>
  );
}

function More({ isNew }: { isNew: boolean }) {
  const kind = useWatch<ItemDraft, "kind">({ name: "kind" });
  const byLot = useWatch<ItemDraft, "tracking">({ name: "tracking" }) === "lot";
  return (
    <Details open={!isNew}>
      <summary>Times, tax, maker, notes</summary>
      <Stack>
        <Row>
          {kind === "built" && <In.Amount label="Build days" name="buildDays" width="150px" unit="days" />}
          {byLot && <In.Amount label="Shelf life" name="shelfLife" width="150px" unit="days" />}
          {byLot && kind === "built" && (
            <In.Text
              label="Lot numbers"
              name="lotPattern"
              width="210px"
              placeholder={LOT_PATTERN}
              hint="{yy}, {year}, {month}, {day} and {number} are filled in."
            />
          )}
          <In.Amount label="Warranty" name="warrantyMonths" width="150px" unit="months" />
          <In.Amount label="Tax rate" name="taxRate" width="150px" unit="%" placeholder="as company" />
        </Row>
        <Row>
          <In.Text label="Maker" name="maker" width="370px" />
          <In.Text label="Maker's number" name="makerNumber" width="194px" />
        </Row>
        <In.Text label="Notes" name="notes" lines />
      </Stack>
    </Details>
  );
}

const Help = styled.p`
  margin: -4px 0 0;
  color: ${color.ink2};
  max-width: 44em;
`;
