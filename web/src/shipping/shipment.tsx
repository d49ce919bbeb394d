import { type ShipmentLine, type ShipmentSheet, shippingRoutes } from "@yosegi/contract";
import { Send, Undo2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Command, useCommand } from "../api/index.ts";
import { ReturnDialog } from "../returns/index.ts";
import {
  Actions,
  AskButton,
  Button,
  Fact,
  Facts,
  type Format,
  Large,
  Named,
  Notice,
  Section,
  SheetTable,
  Sub,
  sayDone,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { takenWords } from "./shipdraft.ts";

/** One shipment: what left, from where, and what it earned. */
export function ShipmentView({ shipment }: { shipment: ShipmentSheet }) {
  useTitle(shipment.number);
  const format = useFormat();
  return (
    <article>
      <h1>{shipment.customer.name}</h1>
      <Sub>
        {shipment.number} · shipped {format.moment(shipment.moment)} by {shipment.person}
        {shipment.undone && ` · undone ${format.moment(shipment.undone.moment)} by ${shipment.undone.person}`}
      </Sub>
      <Facts>
        <Fact name="Order">
          <Link to={`/orders/${shipment.order.id}`}>{shipment.order.number}</Link>
        </Fact>
        <Fact name="Shipped on">{format.day(shipment.day)}</Fact>
        <Fact name="Revenue">
          <Large>{format.money(shipment.revenue)}</Large>
        </Fact>
        <Fact name="Margin">
          {format.money(shipment.margin)}
          {shipment.marginPercent !== null && ` (${format.percent(shipment.marginPercent)})`}
        </Fact>
        {shipment.parcels !== null && <Fact name="Parcels">{shipment.parcels}</Fact>}
        {shipment.weight !== null && <Fact name="Weight">{format.amount(shipment.weight, "kg")}</Fact>}
        {shipment.order.reference && <Fact name="Customer reference">{shipment.order.reference}</Fact>}
        {shipment.address && <Fact name="Delivered to">{shipment.address}</Fact>}
        {shipment.wentOn && <Fact name="Shipped though">{shipment.wentOn}</Fact>}
        {shipment.finished.length > 0 && (
          <Fact name="Finished with it">
            {shipment.finished.map(({ id, number }) => (
              <Link key={id} to={`/builds/${id}`}>
                {number}
              </Link>
            ))}
          </Fact>
        )}
        {shipment.note && <Fact name="Note">{shipment.note}</Fact>}
      </Facts>
      <Steps shipment={shipment} />
      <Section title="Lines">
        <SheetTable
          label="Shipped"
          rows={shipment.shipped.flatMap(rowsOf)}
          rowId={(row) => row.key}
          columns={columnsOf(format)}
        />
      </Section>
    </article>
  );
}

/** A line, or a content of its set under it. */
interface ShippedRow {
  key: string;
  item: ShipmentLine["item"];
  own: boolean;
  quantity: string;
  money: Pick<ShipmentLine, "revenue" | "cost" | "margin">;
  taken: ShipmentLine["components"][number]["taken"];
}

/** The contents of a set stand under its line; an item alone is one row. */
function rowsOf(line: ShipmentLine): ShippedRow[] {
  const { item, units, components, contentsShown } = line;
  const row = { key: `${line.line}`, item, own: true, money: line };
  if (contentsShown === null)
    return [{ ...row, quantity: components[0]?.quantity ?? units, taken: components[0]?.taken ?? [] }];
  return [
    { ...row, quantity: units, taken: [] },
    ...components.map((own) => ({
      key: `${line.line} ${own.item.id}`,
      item: own.item,
      own: false,
      quantity: own.quantity,
      money: own,
      taken: own.taken,
    })),
  ];
}

const columnsOf = (format: Format) => [
  {
    header: "Item",
    cell: ({ item, own }: ShippedRow) => (
      <div style={{ paddingLeft: own ? 0 : 18 }}>
        <Named name={item.name} to={`/catalog/${item.id}`} more={[item.code]} />
      </div>
    ),
  },
  {
    header: "Quantity",
    end: true,
    cell: ({ quantity, item, own }: ShippedRow) =>
      own && quantity === "0" ? "single pieces" : format.amount(quantity, item.unit),
  },
  { header: "Taken from", cell: (row: ShippedRow) => takenWords(row, format) },
  { header: "Revenue", end: true, cell: ({ money }: ShippedRow) => format.money(money.revenue) },
  { header: "Cost", end: true, cell: ({ money }: ShippedRow) => format.money(money.cost) },
  { header: "Margin", end: true, cell: ({ money }: ShippedRow) => format.money(money.margin) },
];

function Steps({ shipment }: { shipment: ShipmentSheet }) {
  const undo = useCommand(shippingRoutes.undoShipment, () =>
    sayDone(`${shipment.number} undone. What left is in stock again.`),
  );
  const navigate = useNavigate();
  const send = useCommand(shippingRoutes.sendShipment, (message) => {
    sayDone("The papers are in the outbox.");
    void navigate(`/outbox/${message.id}`);
  });
  const [isReturning, setReturning] = useState(false);
  if (shipment.undone) return null;
  const paper = (kind: "delivery note" | "bill") =>
    `/api/shipments/${shipment.id}/paper?kind=${encodeURIComponent(kind)}`;
  return (
    <>
      {undo.refusal && <Notice>{undo.refusal.message}</Notice>}
      {send.refusal && <Notice>{send.refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        <Button
          look="main"
          isPending={send.busy}
          onPress={() =>
            void send.run({ params: { id: shipment.id }, body: { papers: ["delivery note", "bill"] } })
          }
        >
          <Send /> Papers to the outbox
        </Button>
        <a href={paper("delivery note")} target="_blank" rel="noreferrer">
          Delivery note
        </a>
        <a href={paper("bill")} target="_blank" rel="noreferrer">
          Pro forma bill
        </a>
        <Button onPress={() => setReturning(true)}>Return …</Button>
        <UndoButton shipment={shipment} finishes={false} undo={undo} />
        {shipment.finished.length > 0 && <UndoButton shipment={shipment} finishes undo={undo} />}
      </Actions>
      {isReturning && (
        <ReturnDialog
          shipment={shipment}
          onClose={() => setReturning(false)}
          onDone={({ id }) => void navigate(`/returns/${id}`)}
        />
      )}
    </>
  );
}

interface UndoProps {
  shipment: ShipmentSheet;
  /** What was finished with it is undone too. */
  finishes: boolean;
  undo: Command<typeof shippingRoutes.undoShipment>;
}

function UndoButton({ shipment, finishes, undo }: UndoProps) {
  const format = useFormat();
  const builds = finishes ? format.list(shipment.finished.map(({ number }) => number)) : "";
  return (
    <AskButton
      isPending={undo.busy}
      question={{
        title: `Undo ${shipment.number}${finishes ? ` and the finish of ${builds}` : ""}?`,
        text: finishes
          ? `It is open on ${shipment.order.number} again, the parts are in stock again, and ${builds} is to be finished again.`
          : `What left goes back into the bins that it came from, and is open on ${shipment.order.number} again.`,
        yes: "Undo shipment",
      }}
      onYes={() => void undo.run({ params: { id: shipment.id }, body: { finishes } })}
    >
      <Undo2 /> {finishes ? "Undo, and the finish …" : "Undo …"}
    </AskButton>
  );
}
