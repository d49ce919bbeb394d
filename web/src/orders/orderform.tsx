import { type ItemRow, type OrderSheet, routes } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useCommand } from "../api/index.ts";
import { ItemField, QuantityField, RateField, useFirms } from "../fields/index.ts";
import {
  Actions,
  Button,
  DateField,
  FieldHeads,
  FieldLine,
  Form,
  type FormRefusal,
  Notice,
  Row,
  Select,
  Stack,
  sayDone,
  TextField,
} from "../ui/index.ts";

/** A line as it is typed. */
interface LineDraft {
  key: number;
  id: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null;
  quantity: string;
  price: string;
  pricePer: string;
}

/** An order as it stands in the form. */
interface OrderDraft {
  customer: string;
  due: string;
  reference: string;
  note: string;
  lines: readonly LineDraft[];
}

const blank = (key: number): LineDraft => ({
  key,
  id: null,
  item: null,
  quantity: "",
  price: "",
  pricePer: "",
});

const NEW: OrderDraft = { customer: "", due: "", reference: "", note: "", lines: [blank(0)] };

const draftOf = (order: OrderSheet): OrderDraft => ({
  customer: String(order.customer.id),
  due: order.due ?? "",
  reference: order.reference,
  note: order.note,
  lines: order.orderLines.map(({ id, item, quantity, price, pricePer }, key) => {
    return { key, id, item, quantity, price: price ?? "", pricePer };
  }),
});

/** What is sent. Lines that are still empty are room to go on. */
const bodyOf = ({ customer, due, lines, ...draft }: OrderDraft) => ({
  ...draft,
  customer: Number(customer),
  due: due === "" ? null : due,
  lines: lines
    .filter((line) => line.item !== null || line.quantity !== "")
    .map(({ id, item, quantity, price, pricePer }) => ({
      id,
      item: item?.id ?? 0,
      quantity,
      price: price === "" ? null : price,
      pricePer: price === "" ? "" : pricePer,
    })),
});

/** A new order: for whom, what, and until when. */
export function NewOrder({ onMade }: { onMade: (id: number) => void }) {
  const [draft, setDraft] = useState(NEW);
  const make = useCommand(routes.newOrder, (made) => {
    sayDone(`${made.number} is taken; what it asks for is reserved.`);
    onMade(made.id);
  });
  return (
    <Form refusal={make.refusal} onSubmit={() => void make.run({ body: bodyOf(draft) })}>
      <Fields draft={draft} onChange={setDraft} refusal={make.refusal} />
      <Actions>
        <Button look="main" type="submit" isPending={make.busy}>
          Take the order
        </Button>
      </Actions>
    </Form>
  );
}

/** An open order, changed. */
export function ChangeOrder({ order, onDone }: { order: OrderSheet; onDone: () => void }) {
  const [draft, setDraft] = useState(() => draftOf(order));
  const change = useCommand(routes.changeOrder, (changed) => {
    sayDone(`${changed.number} is changed.`);
    onDone();
  });
  const run = () => void change.run({ params: { id: order.id }, body: bodyOf(draft) });
  return (
    <Form refusal={change.refusal} onSubmit={run}>
      <Fields draft={draft} onChange={setDraft} refusal={change.refusal} />
      <Actions>
        <Button look="main" type="submit" isPending={change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

interface FieldsProps {
  draft: OrderDraft;
  onChange: (draft: OrderDraft) => void;
  refusal: FormRefusal | null;
}

function Fields({ draft, onChange, refusal }: FieldsProps) {
  const customers = useFirms("customer").data?.firms;
  const set = (change: Partial<OrderDraft>) => onChange({ ...draft, ...change });
  const setLine = (at: number, to: Partial<LineDraft>) =>
    set({ lines: draft.lines.map((line, i) => (i === at ? { ...line, ...to } : line)) });
  const next = Math.max(-1, ...draft.lines.map((line) => line.key)) + 1;
  const noLine = refusal?.fields.find((field) => field.field === "lines");
  return (
    <Stack>
      {customers?.length === 0 && (
        <Notice role="status">
          There is no customer yet. <Link to="/customers">Write the first one down</Link>, then take the
          order.
        </Notice>
      )}
      <Row>
        <Select
          label="Customer"
          name="customer"
          width="260px"
          value={draft.customer}
          options={(customers ?? [])
            .filter((firm) => !firm.archived || String(firm.id) === draft.customer)
            .map((firm) => ({ value: String(firm.id), label: firm.name }))}
          onChange={(customer) => set({ customer })}
        />
        <DateField label="Due on" name="due" value={draft.due} onChange={(due) => set({ due })} />
        <TextField
          label="Their reference"
          name="reference"
          width="170px"
          value={draft.reference}
          onChange={(reference) => set({ reference })}
        />
      </Row>
      <div>
        <FieldHeads
          gap="6px"
          heads={[
            ["Item", "300px"],
            ["Quantity", "140px"],
            ["Price and what for", "242px"],
          ]}
        />
        {draft.lines.map((line, i) => (
          <FieldLine
            key={line.key}
            remove={`Remove line ${i + 1}`}
            onRemove={() => set({ lines: draft.lines.filter((l) => l.key !== line.key) })}
          >
            <ItemField
              label={`Item ${i + 1}`}
              hideLabel
              name={`lines.${i}.item`}
              width="300px"
              choosing="selling"
              value={line.item}
              onChange={(item) => setLine(i, { item, price: "", pricePer: "" })}
            />
            <QuantityField
              label={`Quantity ${i + 1}`}
              hideLabel
              name={`lines.${i}.quantity`}
              width="140px"
              unit={line.item?.unit}
              packs={line.item?.packs ?? []}
              value={line.quantity}
              onChange={(quantity) => setLine(i, { quantity })}
            />
            <RateField
              label={`Price ${i + 1}`}
              hideLabel
              name={`lines.${i}.price`}
              perLabel={`Per, line ${i + 1}`}
              width="146px"
              placeholder="as in the catalog"
              unit={line.item?.unit}
              packs={line.item?.packs ?? []}
              value={line.price}
              per={line.pricePer}
              onChange={(price, pricePer) => setLine(i, { price, pricePer })}
            />
          </FieldLine>
        ))}
        <Button look="link" onPress={() => set({ lines: [...draft.lines, blank(next)] })}>
          <Plus /> Another line
        </Button>
        {noLine && <Notice>{noLine.message}</Notice>}
      </div>
      <TextField label="Note" name="note" value={draft.note} onChange={(note) => set({ note })} />
    </Stack>
  );
}
