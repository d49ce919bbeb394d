import { type ReceiptRecord, routes } from "@yosegi/contract";
import { Pencil } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { RateField } from "../fields/index.ts";
import { Actions, Button, Dialog, Form, Stack, Sub, sayDone, TextField, useFormat } from "../ui/index.ts";

type Line = ReceiptRecord["lines"][number];

/** The price of a received line, and the way to put it right where the bill says otherwise. */
export function ReceivedPrice({ receipt, line }: { receipt: ReceiptRecord; line: Line }) {
  const format = useFormat();
  const [asking, setAsking] = useState(false);
  const price = format.unitCost(line.price, line.pricePer);
  if (receipt.undone) return price;
  return (
    <Beside>
      {price}
      <Button
        look="icon"
        aria-label={`Correct the price of ${line.item.name}`}
        onPress={() => setAsking(true)}
      >
        <Pencil />
      </Button>
      <Dialog
        title={`Price of ${line.item.name} in ${receipt.number}`}
        isOpen={asking}
        onClose={() => setAsking(false)}
        width="480px"
      >
        <PriceForm receipt={receipt} line={line} onDone={() => setAsking(false)} />
      </Dialog>
    </Beside>
  );
}

function PriceForm({ receipt, line, onDone }: { receipt: ReceiptRecord; line: Line; onDone: () => void }) {
  const [rate, setRate] = useState({ price: line.price, pricePer: line.pricePer });
  const [reason, setReason] = useState("");
  const correct = useCommand(routes.correctPrice, () => {
    sayDone(`The price of ${line.item.name} in ${receipt.number} is corrected.`);
    onDone();
  });
  const body = { line: line.line, ...rate, reason };
  return (
    <Form refusal={correct.refusal} onSubmit={() => void correct.run({ params: { id: receipt.id }, body })}>
      <Stack>
        <Sub>
          What is still in stock is worth the new price. Builds that are finished keep their cost; the rest is
          recorded as a price difference.
        </Sub>
        <RateField
          label="Price"
          name="price"
          perLabel="Per"
          unit={line.item.unit}
          packs={line.item.packs}
          value={rate.price}
          per={rate.pricePer}
          onChange={(price, pricePer) => setRate({ price, pricePer })}
        />
        <TextField label="Reason" name="reason" value={reason} onChange={setReason} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={correct.busy}>
          Correct the price
        </Button>
      </Actions>
    </Form>
  );
}

const Beside = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 4px;
`;
