import { type ItemRow, type ReturnSheet, returnRoutes } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Row, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";

interface Draft {
  customer: { id: number; code: string; name: string } | null;
  item: ItemRow | null;
  quantity: string;
  lot: string;
  serial: string;
  credit: string;
  reason: string;
  fee: string;
  day: string;
  note: string;
}

const In = fieldsOf<Draft>();

/** The field of the form that a fault in what is sent is shown at: it has one line. */
const fieldOf = (path: string): string => path.replace(/^lines\.0\./, "");

/** Takes back what came without a known shipment: its credit is typed. */
export function NewReturn({ onClose, onDone }: { onClose: () => void; onDone: (made: ReturnSheet) => void }) {
  const format = useFormat();
  return (
    <FormDialog
      title="Return without a shipment"
      isOpen
      onClose={onClose}
      width="620px"
      save="Receive the return"
      route={returnRoutes.newReturn}
      begin={{
        customer: null,
        item: null,
        quantity: "1",
        lot: "",
        serial: "",
        credit: "",
        reason: "",
        fee: "",
        day: format.settings.today,
        note: "",
      }}
      body={({ customer, item, quantity, lot, serial, credit, fee, ...typed }: Draft) => ({
        ...typed,
        shipment: null,
        costTag: "",
        customer: customer?.id ?? null,
        fee: fee === "" ? "0" : fee,
        lines: [
          {
            orderLine: null,
            item: item?.id ?? 0,
            quantity,
            lot,
            serial,
            credit: credit === "" ? null : credit,
          },
        ],
      })}
      fieldOf={fieldOf}
      done={(made) => {
        sayDone(`Received as ${made.number}.`);
        onDone(made);
      }}
    >
      <Fields />
    </FormDialog>
  );
}

function Fields() {
  const format = useFormat();
  const item = useWatch<Draft, "item">({ name: "item" });
  return (
    <Stack>
      <Sub>
        Where the shipment is known, open it and press Return: the credit then follows from what was paid.
      </Sub>
      <Row>
        <In.Firm label="Customer" name="customer" kind="customer" width="280px" autoFocus />
        <In.Item label="Item" name="item" width="280px" choosing="stock" />
      </Row>
      <Row>
        <In.Quantity
          label="Quantity"
          name="quantity"
          width="130px"
          unit={item?.unit}
          packs={item?.packs ?? []}
        />
        {item?.tracking === "lot" && <In.Text label="Lot" name="lot" width="150px" />}
        {item?.tracking === "serial" && <In.Text label="Serial number" name="serial" width="170px" />}
        <In.Amount label="Credit" name="credit" width="130px" unit={format.settings.currency} />
        <In.Amount label="Restocking fee" name="fee" width="130px" unit={format.settings.currency} />
      </Row>
      <Row>
        <In.Text label="Why it came back" name="reason" width="320px" />
        <In.Day label="Day" name="day" width="170px" />
      </Row>
      <In.Text label="Note" name="note" />
    </Stack>
  );
}
