import { type ItemRow, type OrderSheet, orderRoutes } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import type { ReactNode } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import { fieldsOf, rateBody } from "../fields/index.ts";
import { FormDialog, sentLines } from "../forms/index.ts";
import { Row, Stack, sayDone } from "../ui/index.ts";
import { LineFigures, OrderFigures, OrderPromise, OrderTotal } from "./orderfigures.tsx";

/** A line as it is typed. */
interface LineDraft {
  id: number | null;
  item: Pick<ItemRow, "id" | "code" | "name" | "unit" | "packs"> | null;
  quantity: string;
  price: string;
  pricePer: string;
  /** Percent; empty for none. */
  discount: string;
  /** The day promised for this line alone; empty: as the order says. */
  promised: string;
}

/** An order as it stands in the form. */
interface OrderDraft {
  customer: { id: number; name: string } | null;
  due: string;
  /** The day promised for all lines without one of their own. */
  promised: string;
  reference: string;
  note: string;
  lines: LineDraft[];
}

const BLANK: LineDraft = {
  id: null,
  item: null,
  quantity: "",
  price: "",
  pricePer: "",
  discount: "",
  promised: "",
};

const NEW: OrderDraft = { customer: null, due: "", promised: "", reference: "", note: "", lines: [BLANK] };

function draftOf(order: OrderSheet): OrderDraft {
  // One day for all lines stands once.
  const same = order.orderLines.every((line) => line.promised === order.promised);
  return {
    customer: order.customer,
    due: order.due ?? "",
    promised: same ? (order.promised ?? "") : "",
    reference: order.reference,
    note: order.note,
    lines: order.orderLines.map(({ price, id, item, quantity, pricePer, discount, promised }) => ({
      id,
      item,
      quantity,
      price: price ?? "",
      pricePer,
      discount: discount === "0" ? "" : discount,
      promised: same ? "" : (promised ?? ""),
    })),
  };
}

/** The same goods for the same customer once more, at today's prices and on a day that is still to be said. */
function copyOf(order: OrderSheet): OrderDraft {
  const draft = draftOf(order);
  const lines = draft.lines.map((line) => ({ ...line, id: null, price: "", pricePer: "", promised: "" }));
  return { ...draft, due: "", promised: "", reference: "", lines };
}

/** Lines that are still empty are room to go on. */
const isFilled = (line: LineDraft): boolean => line.item !== null || line.quantity !== "";

const soldLine = ({ id, item, quantity, price, pricePer, discount }: LineDraft) => ({
  id,
  item: item?.id ?? 0,
  quantity,
  ...rateBody(price, pricePer),
  discount: discount === "" ? "0" : discount,
});

const dayOrNull = (typed: string): string | null => (typed === "" ? null : typed);

const bodyOf = ({ customer, due, promised, lines, ...draft }: OrderDraft) => ({
  ...draft,
  customer: customer?.id ?? 0,
  due: dayOrNull(due),
  lines: lines
    .filter(isFilled)
    .map((line) => ({ ...soldLine(line), promised: dayOrNull(line.promised || promised) })),
});

/** Lines that the other person took away are new ones, where this order is to have them. */
function rebase(mine: OrderDraft, saved: OrderDraft): OrderDraft {
  const there = new Set(saved.lines.map((line) => line.id));
  return { ...mine, lines: mine.lines.map((line) => (there.has(line.id) ? line : { ...line, id: null })) };
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
          <In.Day label="Promised for" name="promised" />
          <In.Text label="Customer reference" name="reference" width="170px" />
        </Row>
        <Following order={order?.id ?? null}>
          <In.Lines name="lines" blank={BLANK} heads={HEADS} add="Add line">
            {(at, i) => <LineFields at={at} number={i + 1} />}
          </In.Lines>
          <WholeOrder />
        </Following>
        <In.Text label="Note" name="note" />
      </Stack>
    </FormDialog>
  );
}

/** What the order comes to, and when all of it could leave. */
function WholeOrder() {
  const { setValue } = useFormContext<OrderDraft>();
  return (
    <Row style={{ justifyContent: "space-between" }}>
      <OrderPromise onPromise={(day) => setValue("promised", day, { shouldDirty: true })} />
      <OrderTotal />
    </Row>
  );
}

/** Has the figures of what is typed; only what shows them is drawn again at a key. */
function Following({ order, children }: { order: number | null; children: ReactNode }) {
  const [customer, due, lines] = useWatch<OrderDraft, ["customer", "due", "lines"]>({
    name: ["customer", "due", "lines"],
  });
  return (
    <OrderFigures
      order={order}
      customer={customer?.id ?? null}
      due={isDay(due) ? due : null}
      lines={lines.map(soldLine)}
    >
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
  const [item, promised] = useWatch<OrderDraft, [`lines.${number}.item`, `lines.${number}.promised`]>({
    name: [`${at}.item`, `${at}.promised`],
  });
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
      <LineFigures
        at={number - 1}
        unit={item?.unit}
        promised={promised}
        onPromise={(day) => setValue(`${at}.promised`, day, { shouldDirty: true })}
      />
    </>
  );
}
