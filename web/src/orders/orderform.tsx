import { type AnswerOf, type ItemRow, type OrderSheet, orderRoutes } from "@yosegi/contract";
import type { ReactNode } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { fieldsOf, rateBody } from "../fields/index.ts";
import { FormDialog, sentLines } from "../forms/index.ts";
import { Row, Stack, sayDone, sayFailed } from "../ui/index.ts";
import { LineFigures, OrderFigures, OrderTotal } from "./orderfigures.tsx";

/** A line as it is typed. */
interface LineDraft {
  id: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null;
  quantity: string;
  price: string;
  pricePer: string;
  /** Percent; empty for none. */
  discount: string;
}

/** An order as it stands in the form. */
interface OrderDraft {
  customer: { id: number; name: string } | null;
  due: string;
  reference: string;
  note: string;
  lines: LineDraft[];
}

const BLANK: LineDraft = { id: null, item: null, quantity: "", price: "", pricePer: "", discount: "" };

const NEW: OrderDraft = { customer: null, due: "", reference: "", note: "", lines: [BLANK] };

const draftOf = (order: OrderSheet): OrderDraft => ({
  customer: order.customer,
  due: order.due ?? "",
  reference: order.reference,
  note: order.note,
  lines: order.orderLines.map(({ price, id, item, quantity, pricePer, discount }) => {
    return { id, item, quantity, price: price ?? "", pricePer, discount: discount === "0" ? "" : discount };
  }),
});

/** The same goods for the same customer once more, at today's prices and on a day that is still to be said. */
function copyOf(order: OrderSheet): OrderDraft {
  const draft = draftOf(order);
  const lines = draft.lines.map((line) => ({ ...line, id: null, price: "", pricePer: "" }));
  return { ...draft, due: "", reference: "", lines };
}

/** Lines that are still empty are room to go on. */
const isFilled = (line: LineDraft): boolean => line.item !== null || line.quantity !== "";

const soldLine = ({ item, quantity, price, pricePer, discount }: LineDraft) => ({
  item: item?.id ?? 0,
  quantity,
  ...rateBody(price, pricePer),
  discount: discount === "" ? "0" : discount,
});

const bodyOf = ({ customer, due, lines, ...draft }: OrderDraft) => ({
  ...draft,
  customer: customer?.id ?? 0,
  due: due === "" ? null : due,
  lines: lines.filter(isFilled).map((line) => ({ id: line.id, ...soldLine(line) })),
});

/** Lines that the other person took away are new ones, where this order is to have them. */
function rebase(mine: OrderDraft, saved: OrderDraft): OrderDraft {
  const there = new Set(saved.lines.map((line) => line.id));
  return { ...mine, lines: mine.lines.map((line) => (there.has(line.id) ? line : { ...line, id: null })) };
}

/** Says whose stock an order takes, for it is due before; they wait now, or are to be built for. */
function sayTaken({ number, takesFrom }: AnswerOf<typeof orderRoutes.newOrder>): void {
  if (takesFrom.length === 0) return;
  const whose = takesFrom.map((order) => `${order.number} (${order.customer})`).join(", ");
  sayFailed(`${number} is due earlier and takes stock from ${whose}.`);
}

interface OrderDialogProps {
  /** The order that is changed; null for a new one. */
  order: OrderSheet | null;
  /** The order that a new one begins as. */
  copied?: OrderSheet;
  isOpen: boolean;
  onClose: () => void;
  onSaved?: (id: number) => void;
}

const TAKING = { title: "New order", begin: NEW, keptAs: "order" };

const changing = (order: OrderSheet) => ({
  title: `Change ${order.number}`,
  begin: draftOf(order),
  keptAs: `order ${order.id}`,
});

const copying = (order: OrderSheet) => ({
  title: `New order, copied from ${order.number}`,
  begin: copyOf(order),
  keptAs: `copy of order ${order.id}`,
});

/** A new order, or an open one changed: for whom, what, and until when. */
export function OrderDialog({ order, copied, isOpen, onClose, onSaved }: OrderDialogProps) {
  return (
    <FormDialog
      {...(order ? changing(order) : copied ? copying(copied) : TAKING)}
      isOpen={isOpen}
      onClose={onClose}
      width="1110px"
      save={order ? "Save" : "Create order"}
      route={order ? orderRoutes.changeOrder : orderRoutes.newOrder}
      params={{ id: order?.id ?? 0 }}
      version={order?.version}
      fieldOf={sentLines("lines", isFilled)}
      body={bodyOf}
      rebase={rebase}
      done={(saved) => {
        sayDone(order ? `${saved.number} saved.` : `Order ${saved.number} created. Stock is reserved.`);
        sayTaken(saved);
        onSaved?.(saved.id);
      }}
    >
      <Stack>
        <Row>
          <In.Firm
            label="Customer"
            name="customer"
            kind="customer"
            width="260px"
            autoFocus={order === null}
          />
          <In.Day label="Due on" name="due" />
          <In.Text label="Customer reference" name="reference" width="170px" />
        </Row>
        <Following order={order?.id ?? null}>
          <In.Lines name="lines" blank={BLANK} heads={HEADS} add="Add line">
            {(at, i) => <LineFields at={at} number={i + 1} />}
          </In.Lines>
          <OrderTotal />
        </Following>
        <In.Text label="Note" name="note" />
      </Stack>
    </FormDialog>
  );
}

/** Has the figures of what is typed; only what shows them is drawn again at a key. */
function Following({ order, children }: { order: number | null; children: ReactNode }) {
  const [customer, lines] = useWatch<OrderDraft, ["customer", "lines"]>({ name: ["customer", "lines"] });
  return (
    <OrderFigures order={order} customer={customer?.id ?? null} lines={lines.map(soldLine)}>
      {children}
    </OrderFigures>
  );
}

const In = fieldsOf<OrderDraft>();

const HEADS = [
  ["Item", "300px"],
  ["Quantity", "140px"],
  ["Price and what for", "242px"],
  ["Discount", "100px"],
] as const;

function LineFields({ at, number }: { at: `lines.${number}`; number: number }) {
  const { setValue } = useFormContext<OrderDraft>();
  const item = useWatch<OrderDraft, `lines.${number}.item`>({ name: `${at}.item` });
  return (
    <>
      <In.Item
        label={`Item ${number}`}
        hideLabel
        name={`${at}.item`}
        width="300px"
        choosing="selling"
        onChanged={() => {
          setValue(`${at}.price`, "");
          setValue(`${at}.pricePer`, "");
        }}
      />
      <In.Quantity
        label={`Quantity ${number}`}
        hideLabel
        name={`${at}.quantity`}
        width="140px"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      <In.Rate
        label={`Price ${number}`}
        hideLabel
        name={`${at}.price`}
        per={`${at}.pricePer`}
        perLabel={`Per, line ${number}`}
        width="146px"
        placeholder="catalog price"
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      <In.Amount label={`Discount ${number}`} hideLabel name={`${at}.discount`} width="100px" unit="%" />
      <LineFigures at={number - 1} unit={item?.unit} />
    </>
  );
}
