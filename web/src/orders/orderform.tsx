import { type AnswerOf, type OrderSheet, orderRoutes } from "@yosegi/contract";
import { addDays, isDay } from "@yosegi/core";
import { ClipboardPaste } from "lucide-react";
import { type ReactNode, useDeferredValue, useMemo, useState } from "react";
import { useFormContext, useWatch } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog } from "../forms/index.ts";
import { MessageDialog } from "../messages/index.ts";
import { Button, Details, Row, Short, Stack, sayDone, useFormat } from "../ui/index.ts";
import { useLineFigures, useOrderCustomer } from "./orderanswer.ts";
import {
  BLANK,
  bodyOf,
  copyOf,
  draftOf,
  fieldOfOrder,
  NEW,
  type OrderDraft,
  rebase,
  soldLine,
  TEXT,
  withTaken,
} from "./orderdraft.ts";
import { LineFigures, OrderFigures, OrderPromise, OrderTotal, useOfferedPrice } from "./orderfigures.tsx";
import { BelowLine, SetContents } from "./setcontents.tsx";
import { customerWords, savedWords } from "./words.ts";

interface OrderDialogProps {
  /** The order that is changed; null for a new one. */
  order: OrderSheet | null;
  /** The order that a new one begins as. */
  copied?: OrderSheet;
  isOpen: boolean;
  onClose: () => void;
  onSaved?: (id: number) => void;
  /** Builds could follow the change. */
  onOffers?: (saved: AnswerOf<typeof orderRoutes.changeOrder>) => void;
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
export function OrderDialog({ order, copied, isOpen, onClose, onSaved, onOffers }: OrderDialogProps) {
  const format = useFormat();
  return (
    <FormDialog
      {...(order ? changing(order) : copied ? copying(copied) : TAKING)}
      isOpen={isOpen}
      onClose={onClose}
      width="1140px"
      save={order ? "Save" : <CreateWords />}
      route={order ? orderRoutes.changeOrder : orderRoutes.newOrder}
      params={{ id: order?.id ?? 0 }}
      version={order?.version}
      fieldOf={fieldOfOrder}
      body={bodyOf}
      rebase={rebase}
      done={(saved) => {
        if (saved.offers.length > 0) onOffers?.(saved);
        sayDone(savedWords(saved, order === null, format));
        onSaved?.(saved.id);
      }}
    >
      <Stack>
        <Row>
          <CustomerField isNew={order === null} />
          <In.Day label="Due on" name="due" />
          <In.Day label="Promised for" name="promised" />
          <In.Text label="Customer reference" name="reference" width="150px" />
          <QuoteFields kind={order?.stage ?? null} />
        </Row>
        <Following order={order?.id ?? null}>
          <CustomerNotice />
          <In.Lines
            name="lines"
            blank={BLANK}
            heads={HEADS}
            add="Add line"
            other={{ words: "Add text", blank: TEXT }}
          >
            {(at, i) => <Line at={at} number={i + 1} />}
          </In.Lines>
          <FromMessage />
          <WholeOrder />
        </Following>
        <In.Text label="Note" name="note" />
        <MoreFields />
      </Stack>
    </FormDialog>
  );
}

/** What the button says that saves a new order, or a quote. */
function CreateWords() {
  return useWatch<OrderDraft, "isQuote">({ name: "isQuote" }) ? "Create quote" : "Create order";
}

/** So many days a quote is valid, unless another day is chosen. */
const VALID_DAYS = 30;

interface QuoteFieldsProps {
  /** What is changed; null: it is new, and may be either. */
  kind: OrderSheet["stage"] | null;
}

/** Whether it is a quote, and until when that is valid. */
function QuoteFields({ kind }: QuoteFieldsProps) {
  const { today } = useFormat().settings;
  const { setValue } = useFormContext<OrderDraft>();
  const isQuote = useWatch<OrderDraft, "isQuote">({ name: "isQuote" });
  if (kind === "open") return null;
  return (
    <>
      {isQuote && <In.Day label="Valid until" name="validUntil" />}
      {kind === null && (
        <AlignedTick>
          <In.Tick
            name="isQuote"
            onChanged={(on) => setValue("validUntil", on ? addDays(today, VALID_DAYS) : "")}
          >
            Quote
          </In.Tick>
        </AlignedTick>
      )}
    </>
  );
}

/** Stands on the line of the fields beside it, below their labels. */
const AlignedTick = styled.div`
  align-self: end;
  padding-bottom: 8px;
`;

/** Whom the order is for; where it goes and the terms begin as the customer has them. */
function CustomerField({ isNew }: { isNew: boolean }) {
  const { setValue } = useFormContext<OrderDraft>();
  return (
    <In.Firm
      label="Customer"
      name="customer"
      kind="customer"
      width="240px"
      autoFocus={isNew}
      onChanged={(firm) => {
        setValue("address", firm?.address ?? "");
        setValue("terms", firm?.terms ?? "");
        setValue("goOn", false);
      }}
    />
  );
}

/** What is to be known of the customer before the order is taken, and whether to go on anyway. */
function CustomerNotice() {
  const format = useFormat();
  const customer = useOrderCustomer();
  const goOn = useWatch<OrderDraft, "goOn">({ name: "goOn" });
  if (!customer) return goOn ? <In.Tick name="goOn">Go on anyway</In.Tick> : null;
  const { note, stop } = customer;
  const words = customerWords(customer, format);
  if (words === "" && stop === null) return null;
  return (
    <Row style={{ alignItems: "center" }}>
      {stop === null ? <span>{words}</span> : <Short>{words}</Short>}
      {note !== "" && <span>{note}</span>}
      {stop !== null && <In.Tick name="goOn">Go on anyway</In.Tick>}
    </Row>
  );
}

/** Where it is delivered, on what terms, and under which cost tag: mostly as the customer has it. */
function MoreFields() {
  return (
    <Details>
      <summary>Delivery address, terms, cost tag</summary>
      <Stack>
        <In.Text label="Delivery address" name="address" lines />
        <Row>
          <In.Text label="Terms" name="terms" width="420px" />
          <In.Text label="Cost tag" name="costTag" width="190px" />
        </Row>
      </Stack>
    </Details>
  );
}

/** Lines from what the customer wrote. */
function FromMessage() {
  const { getValues, setValue } = useFormContext<OrderDraft>();
  const [reading, setReading] = useState(false);
  const customer = useWatch<OrderDraft, "customer">({ name: "customer" });
  return (
    <div>
      <Button look="link" onPress={() => setReading(true)}>
        <ClipboardPaste /> Lines from a message or list
      </Button>
      <MessageDialog
        customer={customer}
        isOpen={reading}
        onClose={() => setReading(false)}
        onTake={(lines) => setValue("lines", withTaken(getValues("lines"), lines), { shouldDirty: true })}
      />
    </div>
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
  // What is typed is painted first: there may be 500 lines.
  const later = useDeferredValue(lines);
  const sold = useMemo(() => later.map(soldLine), [later]);
  return (
    <OrderFigures order={order} customer={customer?.id ?? null} due={isDay(due) ? due : null} lines={sold}>
      {children}
    </OrderFigures>
  );
}

interface LineCoverProps {
  at: `lines.${number}`;
  number: number;
  unit: string;
}

/** How much of a line is from stock, and how much is to be built for it; as proposed until something is typed. */
function LineCover({ at, number, unit }: LineCoverProps) {
  const format = useFormat();
  const cover = useLineFigures(number - 1)?.cover;
  const typed = useWatch<OrderDraft, `lines.${number}.toBuild`>({ name: `${at}.toBuild` });
  // What was typed stays to be mended when it is why there is no answer.
  if (!cover && typed === "") return null;
  return (
    <BelowLine aria-label={`Cover of line ${number}`} role="group">
      <Row style={{ alignItems: "center", gap: 8 }}>
        {cover && `From stock ${format.amount(cover.fromStock, unit)}, `}to build
        <In.Amount
          label={`To build ${number}`}
          hideLabel
          name={`${at}.toBuild`}
          width="120px"
          unit={unit}
          placeholder={cover ? format.amount(cover.toBuild) : undefined}
        />
        , finished when shipped
        <In.Choice
          label={`Finish when shipped ${number}`}
          hideLabel
          name={`${at}.finish`}
          width="130px"
          options={FINISH_CHOICES}
        />
      </Row>
    </BelowLine>
  );
}

const FINISH_CHOICES = (["as the item", "yes", "no"] as const).map((value) => ({ value, label: value }));

/** Whether its supplier delivers a bought line straight to the customer. */
function BySupplier({ at, number }: { at: `lines.${number}`; number: number }) {
  return (
    <BelowLine aria-label={`Delivery of line ${number}`} role="group">
      <In.Tick name={`${at}.bySupplier`} aria-label={`Delivered by the supplier ${number}`}>
        Delivered by the supplier straight to the customer
      </In.Tick>
    </BelowLine>
  );
}

/** Units with a price of their own: one press asks for that one. */
function LineSerial({ at, number }: { at: `lines.${number}`; number: number }) {
  const format = useFormat();
  const { setValue } = useFormContext<OrderDraft>();
  const serials = useLineFigures(number - 1)?.serials ?? [];
  const serial = useWatch<OrderDraft, `lines.${number}.serial`>({ name: `${at}.serial` });
  const take = (one: string) => {
    setValue(`${at}.serial`, one, { shouldDirty: true });
    setValue(`${at}.price`, "");
    setValue(`${at}.pricePer`, "");
    if (one !== "") setValue(`${at}.quantity`, "1");
  };
  if (serials.length === 0 && serial === "") return null;
  return (
    <BelowLine aria-label={`Serial numbers of line ${number}`} role="group">
      {serial !== "" && <In.Text label={`Serial ${number}`} name={`${at}.serial`} width="190px" />}
      {serials
        .filter((one) => one.serial !== serial)
        .map((one) => (
          <Button key={one.serial} look="link" onPress={() => take(one.serial)}>
            Take {one.serial} at {format.money(one.price)}
          </Button>
        ))}
      {serial !== "" && (
        <Button look="link" onPress={() => take("")}>
          Any unit
        </Button>
      )}
    </BelowLine>
  );
}

const In = fieldsOf<OrderDraft>();

const HEADS = [
  ["Item", "300px"],
  ["Quantity", "140px"],
  ["Price and what for", "242px"],
  ["Discount", "100px"],
] as const;

interface LineProps {
  at: `lines.${number}`;
  number: number;
}

function Line({ at, number }: LineProps) {
  const isText = useWatch<OrderDraft, `lines.${number}.isText`>({ name: `${at}.isText` });
  if (isText) return <In.Text label={`Text ${number}`} hideLabel name={`${at}.text`} width="812px" />;
  return <LineFields at={at} number={number} />;
}

function LineFields({ at, number }: LineProps) {
  const { setValue } = useFormContext<OrderDraft>();
  const offered = useOfferedPrice(number - 1);
  const [item, promised, price] = useWatch<
    OrderDraft,
    [`lines.${number}.item`, `lines.${number}.promised`, `lines.${number}.price`]
  >({
    name: [`${at}.item`, `${at}.promised`, `${at}.price`],
  });
  const takeOffered = () => {
    setValue(`${at}.price`, "", { shouldDirty: true });
    setValue(`${at}.pricePer`, "");
  };
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
          setValue(`${at}.contents`, null);
          setValue(`${at}.serial`, "");
          setValue(`${at}.bySupplier`, false);
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
        placeholder={offered}
        unit={item?.unit}
        packs={item?.packs ?? []}
      />
      <In.Amount label={`Discount ${number}`} hideLabel name={`${at}.discount`} width="100px" unit="%" />
      <LineFigures
        at={number - 1}
        unit={item?.unit}
        price={price}
        onOffered={takeOffered}
        promised={promised}
        onPromise={(day) => setValue(`${at}.promised`, day, { shouldDirty: true })}
      />
      {item?.tracking === "serial" && <LineSerial at={at} number={number} />}
      {item?.kind === "kit" && <SetContents at={at} number={number} />}
      {item?.kind === "bought" && <BySupplier at={at} number={number} />}
      {item?.kind === "built" && <LineCover at={at} number={number} unit={item.unit} />}
    </>
  );
}
