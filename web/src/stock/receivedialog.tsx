import { type ItemSheet, stockRoutes } from "@yosegi/contract";
import { fieldsOf, useStores } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Stack, sayDone, useFormat } from "../ui/index.ts";
import { fieldOfLine } from "./firstline.ts";
import { useUndoStock } from "./undostock.ts";

/** Takes stock of one item in by hand. */
export function ReceiveDialog({
  item,
  isOpen,
  onClose,
}: {
  item: ItemSheet;
  isOpen: boolean;
  onClose: () => void;
}) {
  const format = useFormat();
  const undo = useUndoStock();
  const stores = useStores().data?.stores ?? [];
  return (
    <FormDialog
      title={`Receive ${item.code}`}
      isOpen={isOpen}
      onClose={onClose}
      width="640px"
      save="Receive"
      route={stockRoutes.receive}
      begin={{
        quantity: item.tracking === "serial" ? "1" : "",
        unitCost: item.unitCost ?? "",
        costPer: "",
        store: item.store || (stores[0]?.name ?? ""),
        bin: item.bin,
        lot: "",
        expiry: "",
        madeOn: "",
        serial: "",
        day: format.settings.today,
        reason: "",
      }}
      body={({ unitCost, costPer, expiry, madeOn, day, reason, ...typed }: ReceiveDraft) => ({
        day,
        reason,
        costTag: "",
        lines: [
          {
            ...typed,
            item: item.id,
            unitCost: unitCost === "" ? null : unitCost,
            costPer: unitCost === "" ? "" : costPer,
            expiry: expiry === "" ? null : expiry,
            madeOn: madeOn === "" ? null : madeOn,
          },
        ],
      })}
      fieldOf={fieldOfLine}
      done={({ document }, { quantity }) =>
        sayDone(
          `${format.amount(quantity, item.unit)} of ${item.code} received as ${document}.`,
          undo(document),
        )
      }
    >
      <Stack>
        <Row>
          <In.Quantity
            packs={item.packs}
            label="Quantity"
            name="quantity"
            width="160px"
            unit={item.unit}
            autoFocus
          />
          <In.Rate
            label="Unit cost"
            name="unitCost"
            per="costPer"
            width="120px"
            unit={item.unit}
            packs={item.packs}
          />
          <In.Day label="Day" name="day" />
        </Row>
        {item.tracking !== "none" && (
          <Row>
            {item.tracking === "lot" ? (
              <In.Text label="Lot" name="lot" width="160px" />
            ) : (
              <In.Text label="Serial number" name="serial" width="190px" />
            )}
            <In.Day label="Use by" name="expiry" width="180px" />
            <In.Day label="Made on" name="madeOn" width="180px" />
          </Row>
        )}
        <Row>
          <In.Store label="Store" name="store" width="190px" />
          <In.Text label="Bin" name="bin" width="160px" />
        </Row>
        <In.Text label="Note" name="reason" />
      </Stack>
    </FormDialog>
  );
}

interface ReceiveDraft {
  quantity: string;
  unitCost: string;
  costPer: string;
  store: string;
  bin: string;
  lot: string;
  expiry: string;
  madeOn: string;
  serial: string;
  day: string;
  reason: string;
}

const In = fieldsOf<ReceiveDraft>();
