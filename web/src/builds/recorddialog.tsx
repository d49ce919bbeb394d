import { buildRoutes, type ItemBrief } from "@yosegi/contract";
import { serialRun } from "@yosegi/core";
import { useEffect, useRef } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { useNavigate } from "react-router";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, useRefusal } from "../forms/index.ts";
import { Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";
import { useNextNumbers } from "./queries.ts";
import { Shorts } from "./shorts.tsx";

type Product = Pick<ItemBrief, "id" | "code" | "name" | "unit" | "packs" | "tracking">;

interface RecordDraft {
  product: Product | null;
  quantity: string;
  day: string;
  store: string;
  bin: string;
  lot: string;
  expiry: string;
  /** The first serial number; the others follow it. */
  serials: string;
  note: string;
}

const In = fieldsOf<RecordDraft>();

export interface RecordDialogProps {
  isOpen: boolean;
  onClose: () => void;
  /** The line of an order that it is for, with what it asks for. */
  line?: { id: number; order: string; product: Product; quantity: string } | null;
}

/** A build that is done already, recorded in one go: its parts are taken as planned, and the product goes into stock. */
export function RecordDialog({ isOpen, onClose, line = null }: RecordDialogProps) {
  const format = useFormat();
  const navigate = useNavigate();
  return (
    <FormDialog
      title={line ? `Record a build for ${line.order}` : "Record a finished build"}
      isOpen={isOpen}
      onClose={onClose}
      width="640px"
      save="Record build"
      route={buildRoutes.recordBuild}
      begin={{
        product: line?.product ?? null,
        quantity: line?.quantity ?? "",
        day: format.settings.today,
        store: "",
        bin: "",
        lot: "",
        expiry: "",
        serials: "",
        note: "",
      }}
      body={({ product, expiry, serials, ...typed }: RecordDraft) => ({
        ...typed,
        list: null,
        costTag: "",
        product: product?.id ?? 0,
        expiry: expiry === "" ? null : expiry,
        serials: product?.tracking === "serial" ? serialsFrom(serials, typed.quantity) : [],
        line: line?.id ?? null,
      })}
      done={(build) => {
        sayDone(`${build.number} recorded: ${format.amount(build.good, build.product.unit)} in stock.`);
        if (line === null) void navigate(`/builds/${build.id}`);
      }}
    >
      <RecordFields isFixed={line !== null} />
    </FormDialog>
  );
}

/** As many numbers as units, from the first on; what is no run is sent as it is, to be refused at its field. */
function serialsFrom(first: string, quantity: string): string[] {
  const count = Number(quantity);
  const run = Number.isInteger(count) && count > 0 ? serialRun(first.trim(), count, () => false) : null;
  return run?.serials ?? [first.trim()].filter(Boolean);
}

function RecordFields({ isFixed }: { isFixed: boolean }) {
  const { setValue } = useFormContext<RecordDraft>();
  const product = useWatch<RecordDraft, "product">({ name: "product" });
  const shorts = useRefusal()?.shorts;
  const id = product?.id ?? 0;
  const next = useNextNumbers(id).data;
  const filledFor = useRef(0);
  useEffect(() => {
    // Once for each product: what somebody else records meanwhile changes nothing that was typed.
    if (!next || filledFor.current === id) return;
    filledFor.current = id;
    setValue("store", next.store);
    setValue("bin", next.bin);
    setValue("lot", next.suggestedLot);
    setValue("expiry", next.suggestedExpiry ?? "");
    setValue("serials", next.suggestedSerial);
  }, [id, next, setValue]);
  return (
    <Stack>
      <Sub>The parts are taken from stock as the parts list plans them. To change them, use a build.</Sub>
      {shorts && (
        <Sub as="div">
          <Shorts shorts={shorts} />
        </Sub>
      )}
      {!isFixed && <In.Item label="Product" name="product" choosing="product" autoFocus />}
      <Row>
        <In.Quantity
          label="Good units"
          name="quantity"
          width="150px"
          unit={product?.unit}
          packs={product?.packs ?? []}
          autoFocus={isFixed}
        />
        <In.Day label="Finished on" name="day" />
      </Row>
      {product?.tracking === "lot" && (
        <Row>
          <In.Text label="Lot" name="lot" width="160px" />
          <In.Day label="Use by" name="expiry" />
        </Row>
      )}
      {product?.tracking === "serial" && (
        <In.Text label="First serial number" name="serials" width="220px" placeholder="H-0001" />
      )}
      <Row>
        <In.Store label="Put away in" name="store" width="190px" />
        <In.Text label="Bin" name="bin" width="120px" />
      </Row>
      <In.Text label="Note" name="note" />
    </Stack>
  );
}
