import { type ItemSheet, routes } from "@yosegi/contract";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { QuantityField, RateField, StoreField, useStores } from "../fields/index.ts";
import {
  Actions,
  Button,
  DateField,
  Dialog,
  Form,
  Row,
  Stack,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";

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
  return (
    <Dialog title={`Take in ${item.code}`} isOpen={isOpen} onClose={onClose} width="640px">
      <ReceiveForm item={item} onClose={onClose} />
    </Dialog>
  );
}

function ReceiveForm({ item, onClose }: { item: ItemSheet; onClose: () => void }) {
  const format = useFormat();
  const stores = useStores().data?.stores ?? [];
  const [quantity, setQuantity] = useState(item.tracking === "serial" ? "1" : "");
  const [unitCost, setUnitCost] = useState(item.unitCost ?? "");
  const [costPer, setCostPer] = useState("");
  const [chosenStore, setStore] = useState(item.store);
  const store = chosenStore === "" ? (stores[0]?.name ?? "") : chosenStore;
  const [bin, setBin] = useState(item.bin);
  const [lot, setLot] = useState("");
  const [expiry, setExpiry] = useState("");
  const [serial, setSerial] = useState("");
  const [day, setDay] = useState(format.settings.today);
  const [reason, setReason] = useState("");
  const receive = useCommand(routes.receive, (answer) => {
    sayDone(`${format.amount(quantity, item.unit)} of ${item.code} taken in as ${answer.document}.`);
    onClose();
  });
  const body = {
    item: item.id,
    quantity,
    unitCost: unitCost === "" ? null : unitCost,
    costPer: unitCost === "" ? "" : costPer,
    store,
    bin,
    lot,
    expiry: expiry === "" ? null : expiry,
    serial,
    day,
    reason,
  };
  return (
    <Form refusal={receive.refusal} onSubmit={() => void receive.run({ body })}>
      <Stack>
        <Row>
          <QuantityField
            packs={item.packs}
            label="Quantity"
            name="quantity"
            width="160px"
            unit={item.unit}
            value={quantity}
            onChange={setQuantity}
            autoFocus
          />
          <RateField
            label="Unit cost"
            name="unitCost"
            perName="costPer"
            width="120px"
            unit={item.unit}
            packs={item.packs}
            value={unitCost}
            per={costPer}
            onChange={(cost, per) => {
              setUnitCost(cost);
              setCostPer(per);
            }}
          />
          <DateField label="Day" name="day" value={day} onChange={setDay} />
        </Row>
        {item.tracking === "lot" && (
          <Row>
            <TextField label="Lot" name="lot" width="160px" value={lot} onChange={setLot} />
            <DateField label="Use by" name="expiry" value={expiry} onChange={setExpiry} />
          </Row>
        )}
        {item.tracking === "serial" && (
          <TextField label="Serial number" name="serial" width="260px" value={serial} onChange={setSerial} />
        )}
        <Row>
          <StoreField label="Store" name="store" width="190px" value={store} onChange={setStore} />
          <TextField label="Bin" name="bin" width="160px" value={bin} onChange={setBin} />
        </Row>
        <TextField label="Note" name="reason" value={reason} onChange={setReason} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={receive.busy}>
          Take in
        </Button>
      </Actions>
    </Form>
  );
}
