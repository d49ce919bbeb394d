import { type PurchaseLine, type PurchaseSheet, routes } from "@yosegi/contract";
import { useState } from "react";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { QuantityField, RateField, StoreField } from "../fields/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  color,
  DateField,
  Form,
  Row,
  Stack,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { type CameDraft, cameOf, type LotDraft, lotOf, receiveLines, serialsIn } from "./words.ts";

/** What came of an order: all that is open is offered, and changed where it was otherwise. */
export function ReceiveForm({ purchase, onDone }: { purchase: PurchaseSheet; onDone: () => void }) {
  const format = useFormat();
  const { today } = format.settings;
  const open = purchase.orderLines.filter((line) => line.open !== "0");
  const [drafts, setDrafts] = useState(() => open.map((line) => cameOf(line, today)));
  const [day, setDay] = useState(today);
  const [note, setNote] = useState("");
  const [more, setMore] = useState(false);
  const receive = useCommand(routes.receivePurchase, (changed) => {
    sayDone(`Received as ${changed.receipts.at(-1)?.number ?? purchase.number}.`);
    onDone();
  });
  const lines = receiveLines(drafts, purchase.orderLines);
  // Fields are named by their line; a refusal counts only the lines that were sent.
  const at = (line: number) => lines.findIndex((l) => l.line === line);
  const over = receive.refusal?.code === "over-delivery";
  const set = (line: number, to: Partial<CameDraft>) =>
    setDrafts(drafts.map((draft) => (draft.line === line ? { ...draft, ...to } : draft)));
  return (
    <Form
      refusal={receive.refusal}
      onSubmit={() => void receive.run({ params: { id: purchase.id }, body: { day, note, more, lines } })}
    >
      <Stack>
        {open.map((line) => {
          const draft = drafts.find((d) => d.line === line.id);
          return (
            draft && (
              <LineFields
                key={line.id}
                line={line}
                draft={draft}
                at={at(line.id)}
                set={(to) => set(line.id, to)}
              />
            )
          );
        })}
        <Row>
          <DateField label="Day" name="day" value={day} onChange={setDay} />
          <TextField label="Note" name="note" width="420px" value={note} onChange={setNote} />
        </Row>
        {(over || more) && (
          <Checkbox isSelected={more} onChange={setMore}>
            More came than was ordered; keep it
          </Checkbox>
        )}
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={receive.busy}>
          Take in
        </Button>
        <Button onPress={() => setDrafts(drafts.map((draft) => ({ ...draft, quantity: "0" })))}>
          Nothing came of these
        </Button>
      </Actions>
    </Form>
  );
}

interface LineFieldsProps {
  line: PurchaseLine;
  draft: CameDraft;
  /** Its place among the lines that are sent. */
  at: number;
  set: (to: Partial<CameDraft>) => void;
}

function LineFields({ line, draft, at, set }: LineFieldsProps) {
  const format = useFormat();
  const { item } = line;
  const stocked = item.kind !== "service" && !item.notStockTracked;
  return (
    <One>
      <div>
        <b>{item.name}</b>
        <small>
          {item.code} · {format.amount(line.open, item.unit)} to come
        </small>
      </div>
      <Row $gap="8px">
        <QuantityField
          label={`Came of ${item.code}`}
          name={`lines.${at}.quantity`}
          width="130px"
          unit={item.unit}
          packs={item.packs}
          value={draft.quantity}
          onChange={(quantity) => set({ quantity })}
        />
        <RateField
          label={`Price of ${item.code}`}
          name={`lines.${at}.price`}
          perLabel={`Per, ${item.code}`}
          unit={item.unit}
          packs={item.packs}
          value={draft.price}
          per={draft.pricePer}
          onChange={(price, pricePer) => set({ price, pricePer })}
        />
        {stocked && (
          <>
            <StoreField
              label={`Store for ${item.code}`}
              name={`lines.${at}.store`}
              width="150px"
              value={draft.store}
              onChange={(store) => set({ store })}
            />
            <TextField
              label={`Bin for ${item.code}`}
              name={`lines.${at}.bin`}
              width="96px"
              value={draft.bin}
              onChange={(bin) => set({ bin })}
            />
          </>
        )}
        {item.tracking === "serial" && (
          <TextField
            lines
            label={`Serial numbers of ${item.code}, one a line`}
            name={`lines.${at}.serials`}
            width="260px"
            hint={format.count(serialsIn(draft.serials).length, "number", "numbers")}
            value={draft.serials}
            onChange={(serials) => set({ serials })}
          />
        )}
      </Row>
      {item.tracking === "lot" && <Lots line={line} draft={draft} at={at} set={set} />}
      <Checkbox isSelected={draft.close} onChange={(close) => set({ close })}>
        Wait no more for what is missing of it
      </Checkbox>
    </One>
  );
}

/** The lots of what came: one is all of it; several say how much each. */
function Lots({ line, draft, at, set }: LineFieldsProps) {
  const format = useFormat();
  const { item } = line;
  const several = draft.lots.length > 1;
  const change = (place: number, to: Partial<LotDraft>) =>
    set({ lots: draft.lots.map((lot, i) => (i === place ? { ...lot, ...to } : lot)) });
  return (
    <>
      {draft.lots
        .map((lot, place) => ({ lot, place }))
        .map(({ lot, place }) => (
          <Row key={place} $gap="8px">
            <TextField
              label={`Lot${several ? ` ${place + 1}` : ""} of ${item.code}`}
              name={`lines.${at}.lots`}
              width="150px"
              value={lot.lot}
              onChange={(text) => change(place, { lot: text })}
            />
            <DateField
              label={`Use ${several ? `lot ${place + 1}` : item.code} by`}
              width="190px"
              value={lot.expiry}
              onChange={(expiry) => change(place, { expiry })}
            />
            {several && (
              <QuantityField
                label={`Of lot ${place + 1}`}
                name={`lines.${at}.lots.${place}.quantity`}
                width="130px"
                unit={item.unit}
                packs={item.packs}
                value={lot.quantity}
                onChange={(quantity) => change(place, { quantity })}
              />
            )}
          </Row>
        ))}
      <div>
        <Button
          look="link"
          onPress={() => set({ lots: [...draft.lots, lotOf(line, format.settings.today)] })}
        >
          Another lot of {item.code}
        </Button>
      </div>
    </>
  );
}

const One = styled.div`
  display: grid;
  gap: 6px;
  padding-bottom: 10px;
  border-bottom: 1px solid ${color.line};
  small {
    margin-left: 10px;
    color: ${color.ink2};
  }
`;
