import { type AnswerOf, type ItemRow, type OrderSheet, routes } from "@yosegi/contract";
import { useCommand } from "../api/index.ts";
import { FirmField, ItemField, QuantityField, RateField } from "../fields/index.ts";
import {
  Actions,
  AddLine,
  Button,
  DateField,
  type Described,
  FieldHeads,
  FieldLine,
  Form,
  type FormRefusal,
  KeptDraft,
  Notice,
  Row,
  Stack,
  Stale,
  sayDone,
  sayFailed,
  TextField,
  useDraft,
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
  /** Of the order as it was when this began; null for a new one. */
  version: number | null;
  customer: { id: number; name: string } | null;
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

const NEW: OrderDraft = {
  version: null,
  customer: null,
  due: "",
  reference: "",
  note: "",
  lines: [blank(0)],
};

const draftOf = (order: OrderSheet): OrderDraft => ({
  version: order.version,
  customer: order.customer,
  due: order.due ?? "",
  reference: order.reference,
  note: order.note,
  lines: order.orderLines.map(({ id, item, quantity, price, pricePer }, key) => {
    return { key, id, item, quantity, price: price ?? "", pricePer };
  }),
});

/** What is sent. Lines that are still empty are room to go on. */
const bodyOf = ({ customer, due, lines, version: _, ...draft }: OrderDraft) => ({
  ...draft,
  customer: customer?.id ?? 0,
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

/** What an order says, to be held against what somebody else made of it. */
const describe = ({ customer, due, reference, note, lines }: OrderDraft): Described => [
  ["Customer", customer?.name ?? ""],
  ["Due on", due],
  ["Their reference", reference],
  ["Note", note],
  ...lines
    .filter((line) => line.item !== null)
    .map(({ item, quantity, price }): [string, string] => [
      "Line",
      [quantity, item?.code, price && `at ${price}`].filter(Boolean).join(" "),
    ]),
];

/** Says whose stock an order takes, for it is due before; they wait now, or are to be built for. */
function sayTaken({ number, takesFrom }: AnswerOf<typeof routes.newOrder>): void {
  if (takesFrom.length === 0) return;
  const whose = takesFrom.map((order) => `${order.number} (${order.customer})`).join(", ");
  sayFailed(`${number} is due earlier and takes what was there for ${whose}.`);
}

/** A new order: for whom, what, and until when. */
export function NewOrder({ onMade }: { onMade: (id: number) => void }) {
  const { draft, change, keptAt, startAgain, forget } = useDraft("order", () => NEW);
  const make = useCommand(routes.newOrder, (made) => {
    forget();
    sayDone(`${made.number} is taken; what it asks for is reserved.`);
    sayTaken(made);
    onMade(made.id);
  });
  return (
    <Form keeps refusal={make.refusal} onSubmit={() => void make.run({ body: bodyOf(draft) })}>
      <KeptDraft at={keptAt} onStartAgain={startAgain} />
      <Fields draft={draft} change={change} refusal={make.refusal} />
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
  const { draft, change, keptAt, startAgain, forget } = useDraft(`order ${order.id}`, () => draftOf(order));
  const save = useCommand(routes.changeOrder, (changed) => {
    forget();
    sayDone(`${changed.number} is changed.`);
    sayTaken(changed);
    onDone();
  });
  const run = () => void save.run({ params: { id: order.id }, body: bodyOf(draft), version: draft.version });
  // Lines that the other person took away are new ones, where this order is to have them.
  const keepMine = () => {
    const there = new Set(order.orderLines.map((line) => line.id));
    change((before) => ({
      ...before,
      version: order.version,
      lines: before.lines.map((line) => (there.has(line.id ?? 0) ? line : { ...line, id: null })),
    }));
  };
  return (
    <Form keeps refusal={save.refusal} onSubmit={run}>
      <KeptDraft at={keptAt} onStartAgain={startAgain} />
      <Stale
        command={save}
        mine={describe(draft)}
        theirs={describe(draftOf(order))}
        onMine={keepMine}
        onTheirs={startAgain}
      />
      <Fields draft={draft} change={change} refusal={save.refusal} />
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

interface FieldsProps {
  draft: OrderDraft;
  change: (to: (before: OrderDraft) => OrderDraft) => void;
  refusal: FormRefusal | null;
}

function Fields({ draft, change, refusal }: FieldsProps) {
  const set = (to: Partial<OrderDraft>) => change((before) => ({ ...before, ...to }));
  const changeLines = (to: (lines: readonly LineDraft[]) => readonly LineDraft[]) =>
    change((before) => ({ ...before, lines: to(before.lines) }));
  const setLine = (key: number, to: Partial<LineDraft>) =>
    changeLines((lines) => lines.map((line) => (line.key === key ? { ...line, ...to } : line)));
  const noLine = refusal?.fields.find((field) => field.field === "lines");
  return (
    <Stack>
      <Row>
        <FirmField
          label="Customer"
          name="customer"
          kind="customer"
          width="260px"
          value={draft.customer}
          onChange={(customer) => set({ customer })}
          autoFocus={draft.customer === null}
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
            onRemove={() => changeLines((lines) => lines.filter((l) => l.key !== line.key))}
          >
            <ItemField
              label={`Item ${i + 1}`}
              hideLabel
              name={`lines.${i}.item`}
              width="300px"
              choosing="selling"
              value={line.item}
              onChange={(item) => setLine(line.key, { item, price: "", pricePer: "" })}
            />
            <QuantityField
              label={`Quantity ${i + 1}`}
              hideLabel
              name={`lines.${i}.quantity`}
              width="140px"
              unit={line.item?.unit}
              packs={line.item?.packs ?? []}
              value={line.quantity}
              onChange={(quantity) => setLine(line.key, { quantity })}
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
              onChange={(price, pricePer) => setLine(line.key, { price, pricePer })}
            />
          </FieldLine>
        ))}
        <AddLine onAdd={() => changeLines((lines) => [...lines, blank(nextKey(lines))])}>
          Another line
        </AddLine>
        {noLine && <Notice>{noLine.message}</Notice>}
      </div>
      <TextField label="Note" name="note" value={draft.note} onChange={(note) => set({ note })} />
    </Stack>
  );
}

const nextKey = (lines: readonly LineDraft[]): number => Math.max(-1, ...lines.map((line) => line.key)) + 1;
