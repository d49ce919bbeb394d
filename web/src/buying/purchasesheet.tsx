import { buyingRoutes, type PurchaseLine, type PurchaseSheet, type ReceiptRecord } from "@yosegi/contract";
import { FileText, PackageOpen, Pencil, Send, Undo2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { useCommand } from "../api/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import {
  Actions,
  AskButton,
  Button,
  Dialog,
  DueDay,
  Fact,
  Facts,
  type Format,
  Large,
  Named,
  Notice,
  Section,
  SheetTable,
  Short,
  Stack,
  Sub,
  sayDone,
  TileStrip,
  useFormat,
  useShortcut,
  useTitle,
} from "../ui/index.ts";
import { ReceivedPrice } from "./pricedialog.tsx";
import { PurchaseDialog } from "./purchaseform.tsx";
import { ReceiveDialog } from "./receiveform.tsx";
import { orderedWords } from "./words.ts";

type Doing = "changing" | "receiving" | "days" | "cancelling" | null;

/** One purchase order: what is ordered and for what, what came, and what can be done with it now. */
export function PurchaseSheetView({ purchase }: { purchase: PurchaseSheet }) {
  useTitle(purchase.number);
  const format = useFormat();
  const [doing, setDoing] = useState<Doing>(null);
  const close = () => setDoing(null);
  const coming = purchase.stage === "sent" || purchase.stage === "part received";
  const late = coming && purchase.expected !== null && purchase.expected < format.settings.today;
  useShortcut("e", "Edit what is open", () => purchase.stage === "draft" && setDoing("changing"));
  return (
    <article>
      <h1>{purchase.supplier.name}</h1>
      <Sub>
        {purchase.number} ·{" "}
        {purchase.history.map((h) => `${h.what} ${format.moment(h.moment)} by ${h.person}`).join(" · ")}
      </Sub>
      <Facts>
        <Fact name="Stage">{purchase.stage}</Fact>
        <Fact name="Total">
          <Large>{format.money(purchase.total)}</Large>
        </Fact>
        <Fact name="Expected">
          <DueDay day={purchase.expected} late={late} />
        </Fact>
        {purchase.stage !== "draft" && (
          <Fact name="Lines received">
            <TileStrip
              small
              wanted={String(purchase.lines)}
              there={String(purchase.linesDone)}
              rest="open"
              says={`${purchase.linesDone} of ${purchase.lines} lines received`}
            />
            {purchase.linesDone} of {purchase.lines}
          </Fact>
        )}
        {purchase.deliverTo && (
          <Fact name="Delivered straight to">
            <Link to={`/orders/${purchase.deliverTo.order.id}`}>{purchase.deliverTo.order.number}</Link>,{" "}
            {purchase.deliverTo.address}
          </Fact>
        )}
        {purchase.contact && <Fact name="Contact">{purchase.contact}</Fact>}
        {purchase.note && <Fact name="Note">{purchase.note}</Fact>}
      </Facts>
      <Steps purchase={purchase} onDo={setDoing} />
      <OrderLines purchase={purchase} />
      {purchase.receipts.map((receipt) => (
        <Receipt key={receipt.id} purchase={purchase} receipt={receipt} />
      ))}
      <PurchaseDialog purchase={purchase} isOpen={doing === "changing"} onClose={close} />
      <ReceiveDialog purchase={purchase} isOpen={doing === "receiving"} onClose={close} />
      <ExpectedDialog purchase={purchase} isOpen={doing === "days"} onClose={close} />
      <Dialog
        title={`Cancel ${purchase.number}?`}
        isOpen={doing === "cancelling"}
        onClose={close}
        width="460px"
      >
        <CancelForm purchase={purchase} onDone={close} />
      </Dialog>
    </article>
  );
}

function Steps({ purchase, onDo }: { purchase: PurchaseSheet; onDo: (doing: Doing) => void }) {
  const send = useCommand(buyingRoutes.sendPurchase, () =>
    sayDone(`${purchase.number} is on order. Send it from the outbox.`),
  );
  const coming = purchase.stage === "sent" || purchase.stage === "part received";
  const paper = (format: string) => `/api/purchases/${purchase.id}/paper?format=${format}`;
  const [message] = purchase.messages;
  return (
    <>
      {send.refusal && <Notice>{send.refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        {purchase.stage === "draft" && (
          <>
            <Button
              look="main"
              isPending={send.busy}
              onPress={() => void send.run({ params: { id: purchase.id } })}
            >
              <Send /> Place order
            </Button>
            <Button onPress={() => onDo("changing")}>
              <Pencil /> Change
            </Button>
          </>
        )}
        {coming && (
          <>
            <Button look="main" onPress={() => onDo("receiving")}>
              <PackageOpen /> {purchase.deliverTo ? "Confirm delivery" : "Receive"}
            </Button>
            <Button onPress={() => onDo("days")}>Change dates</Button>
          </>
        )}
        {(purchase.stage === "draft" || coming) && (
          <Button onPress={() => onDo("cancelling")}>
            Cancel {purchase.stage === "part received" ? "the rest" : "order"}
          </Button>
        )}
        <a href={paper("pdf")} target="_blank" rel="noreferrer">
          PDF
        </a>
        <a href={paper("csv")}>CSV</a>
        {message && (
          <Link to={`/outbox/${message.id}`}>
            <FileText size={15} aria-hidden /> {message.sent ? "sent" : "in the outbox, not marked sent"}
          </Link>
        )}
      </Actions>
    </>
  );
}

function OrderLines({ purchase }: { purchase: PurchaseSheet }) {
  const format = useFormat();
  const { today } = format.settings;
  return (
    <Section title="Ordered">
      <SheetTable
        label="Ordered"
        rows={purchase.orderLines}
        rowId={(line) => line.id}
        columns={[
          {
            header: "Item",
            cell: (line) => (
              <Named
                name={line.item.name}
                to={`/catalog/${line.item.id}`}
                more={[line.item.code, line.theirCode, line.costTag && `tag ${line.costTag}`, line.note]}
              />
            ),
          },
          { header: "For", cell: (line) => <For line={line} format={format} /> },
          { header: "Ordered", end: true, cell: (line) => orderedWords(line, format) },
          { header: "Received", end: true, cell: (line) => cameWords(line, format) },
          {
            header: "Expected",
            end: true,
            cell: (line) => {
              if (line.expected === null) return "no date";
              const words = format.day(line.expected);
              return line.open !== "0" && line.expected < today ? <Short>{words}</Short> : words;
            },
          },
          {
            header: "Price",
            end: true,
            cell: (line) => (
              <>
                {format.unitCost(line.price, line.pricePer)}
                <AgreePrice purchase={purchase} of={line} agreed={line.agreed} />
              </>
            ),
          },
          { header: "Total", end: true, cell: (line) => format.money(line.total) },
        ]}
        sum={{ words: "Total", figure: format.money(purchase.total) }}
      />
    </Section>
  );
}

interface AgreePriceProps {
  purchase: PurchaseSheet;
  /** What was ordered or received at another price than the one that was agreed. */
  of: Pick<PurchaseLine, "item" | "price" | "pricePer">;
  agreed: PurchaseLine["agreed"];
}

/** Takes another price than the agreed one over, so that the next order begins with it. */
function AgreePrice({ purchase, of: { item, price, pricePer }, agreed }: AgreePriceProps) {
  const format = useFormat();
  const agree = useCommand(buyingRoutes.agreePrice, () =>
    sayDone(`${format.unitCost(price, pricePer)} is the agreed price of ${item.code} now.`),
  );
  if (agreed?.price === price && agreed.pricePer === pricePer) return null;
  return (
    <small>
      {agreed ? `agreed: ${format.unitCost(agreed.price, agreed.pricePer)}` : "no agreed price"}
      <Button
        look="link"
        isPending={agree.busy}
        aria-label={`Agree the price of ${item.code}`}
        onPress={() =>
          void agree.run({ params: { id: purchase.id }, body: { item: item.id, price, pricePer } })
        }
      >
        Agree this price
      </Button>
      {agree.refusal && <Notice>{agree.refusal.message}</Notice>}
    </small>
  );
}

function cameWords(line: PurchaseLine, format: Format): string {
  if (line.received === "0" && !line.closed) return "–";
  return `${format.amount(line.received, line.item.unit)}${line.closed ? ", rest cancelled" : ""}`;
}

/** What a line is for: each need by itself. */
function For({ line, format }: { line: PurchaseLine; format: Format }) {
  const needs = line.for.map((need, place) => ({ ...need, place }));
  return needs.map((need) => (
    <div key={need.place}>
      {need.order && (
        <>
          <Link to={`/orders/${need.order.id}`}>{need.order.number}</Link> ({need.order.customer}),{" "}
        </>
      )}
      {need.build ? (
        <Link to={`/builds/${need.build.id}`}>{need.build.number}</Link>
      ) : (
        need.product && <Link to={`/catalog/${need.product.id}`}>{need.product.code}</Link>
      )}{" "}
      {format.amount(need.quantity)}
    </div>
  ));
}

function Receipt({ purchase, receipt }: { purchase: PurchaseSheet; receipt: ReceiptRecord }) {
  const format = useFormat();
  const undo = useCommand(buyingRoutes.undoReceipt, () => sayDone(`${receipt.number} is undone.`));
  const more = receipt.undone ? (
    <span>
      undone {format.moment(receipt.undone.moment)} by {receipt.undone.person}
    </span>
  ) : (
    <AskButton
      look="link"
      isPending={undo.busy}
      question={{
        title: `Undo ${receipt.number}?`,
        text: "The goods leave stock at the same value and are expected again. Both records are kept.",
        yes: "Undo",
      }}
      onYes={() => void undo.run({ params: { id: receipt.id } })}
    >
      <Undo2 /> Undo
    </AskButton>
  );
  return (
    <Section title={`Received as ${receipt.number}`} more={more}>
      <Sub>
        {format.day(receipt.day)} by {receipt.person}, recorded {format.moment(receipt.moment)}
        {receipt.note && ` · ${receipt.note}`}
      </Sub>
      {undo.refusal && <Notice>{undo.refusal.message}</Notice>}
      <SheetTable
        label={`Received as ${receipt.number}`}
        rows={receipt.lines}
        rowId={(line) => line.line}
        columns={[
          { header: "Item", cell: (line) => line.item.name },
          { header: "Lot or serial", cell: (line) => line.lot || line.serial || "–" },
          {
            header: "Where",
            cell: (line) => [line.store, line.bin].filter(Boolean).join(" ") || "not stocked",
          },
          { header: "Quantity", end: true, cell: (line) => format.amount(line.quantity, line.item.unit) },
          {
            header: "Price",
            end: true,
            cell: (line) => {
              const ordered = purchase.orderLines.find(({ item }) => item.id === line.item.id);
              const isOther = ordered?.price !== line.price || ordered.pricePer !== line.pricePer;
              return (
                <>
                  <ReceivedPrice receipt={receipt} line={line} />
                  {ordered && isOther && <AgreePrice purchase={purchase} of={line} agreed={ordered.agreed} />}
                </>
              );
            },
          },
        ]}
        sum={{ words: "Value", figure: format.money(receipt.value) }}
      />
    </Section>
  );
}

interface FormProps {
  purchase: PurchaseSheet;
  onDone: () => void;
}

interface ExpectedDraft {
  lines: { line: number; expected: string }[];
}

const In = inputsOf<ExpectedDraft>();

function ExpectedDialog({
  purchase,
  isOpen,
  onClose,
}: {
  purchase: PurchaseSheet;
  isOpen: boolean;
  onClose: () => void;
}) {
  const open = purchase.orderLines.filter((line) => line.open !== "0");
  return (
    <FormDialog
      title="Change delivery dates"
      isOpen={isOpen}
      onClose={onClose}
      save="Save"
      route={buyingRoutes.changeExpected}
      params={{ id: purchase.id }}
      begin={{ lines: open.map(({ id, expected }) => ({ line: id, expected: expected ?? "" })) }}
      version={purchase.version}
      body={({ lines }: ExpectedDraft) => ({
        lines: lines.map(({ line, expected }) => ({ line, expected: expected === "" ? null : expected })),
      })}
      done={() => sayDone("Delivery dates updated.")}
    >
      <Stack>
        {open.map((line, i) => (
          <In.Day
            key={line.id}
            label={`${line.item.name}, ${line.open} ${line.item.unit}`}
            name={`lines.${i}.expected`}
            width="260px"
          />
        ))}
      </Stack>
    </FormDialog>
  );
}

function CancelForm({ purchase, onDone }: FormProps) {
  const format = useFormat();
  const cancel = useCommand(buyingRoutes.cancelPurchase, () => {
    sayDone(`${purchase.number} closed. Nothing more is expected.`);
    onDone();
  });
  const open = purchase.orderLines.filter((line) => line.open !== "0").length;
  return (
    <>
      {cancel.refusal && <Notice>{cancel.refusal.message}</Notice>}
      <p>
        {purchase.stage === "draft"
          ? "This order was never sent."
          : `${format.count(open, "line", "lines")} will no longer be expected. Goods already received stay in stock.`}
      </p>
      <Actions>
        <Button
          look="main"
          isPending={cancel.busy}
          onPress={() => void cancel.run({ params: { id: purchase.id } })}
        >
          Cancel {purchase.stage === "part received" ? "the rest" : purchase.number}
        </Button>
        <Button onPress={onDone}>Keep</Button>
      </Actions>
    </>
  );
}
