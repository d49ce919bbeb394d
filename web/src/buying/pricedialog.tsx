import { buyingRoutes, type ReceiptRecord } from "@yosegi/contract";
import { Pencil } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { Button, Stack, Sub, sayDone, useFormat } from "../ui/index.ts";

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
      <FormDialog
        title={`Price of ${line.item.name} in ${receipt.number}`}
        isOpen={asking}
        onClose={() => setAsking(false)}
        width="480px"
        save="Correct the price"
        route={buyingRoutes.correctPrice}
        begin={{ price: line.price, pricePer: line.pricePer, reason: "" }}
        params={{ id: receipt.id }}
        body={(typed: PriceDraft) => ({ line: line.line, ...typed })}
        done={() => sayDone(`The price of ${line.item.name} in ${receipt.number} is corrected.`)}
      >
        <Stack>
          <Sub>
            What is still in stock is worth the new price. Builds that are finished keep their cost; the rest
            is recorded as a price difference.
          </Sub>
          <In.Rate label="Price" name="price" per="pricePer" unit={line.item.unit} packs={line.item.packs} />
          <In.Text label="Reason" name="reason" />
        </Stack>
      </FormDialog>
    </Beside>
  );
}

interface PriceDraft {
  price: string;
  pricePer: string;
  reason: string;
}

const In = fieldsOf<PriceDraft>();

const Beside = styled.span`
  display: inline-flex;
  align-items: center;
  gap: 4px;
`;
