import { type FirmSheet, firmRoutes } from "@yosegi/contract";
import { Pencil, Trash2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link, useNavigate } from "react-router";
import { Unanswered, usePress } from "../api/index.ts";
import { CustomerWords } from "../messages/index.ts";
import { HeldUnits } from "../reworks/index.ts";
import {
  AskButton,
  Button,
  Facts,
  type Format,
  Named,
  Section,
  SheetTable,
  Sub,
  sayDone,
  useFormat,
  useShortcut,
  useTitle,
} from "../ui/index.ts";
import { EditFirmDialog } from "./firmform.tsx";
import { useFirm } from "./queries.ts";
import { WORDS } from "./words.ts";

export function OpenFirm({ id }: { id: number }): ReactNode {
  const { data, error } = useFirm(id);
  return data ? <FirmSheetView firm={data} /> : <Unanswered error={error} shape="sheet" />;
}

function FirmSheetView({ firm }: { firm: FirmSheet }) {
  useTitle(firm.name);
  const format = useFormat();
  const [editing, setEditing] = useState(false);
  const navigate = useNavigate();
  const remove = usePress(firmRoutes.removeFirm, () => {
    sayDone(`${firm.name} is removed.`);
    void navigate(`/${WORDS[firm.kind].many}`);
  });
  useShortcut("e", "Edit what is open", () => setEditing(true));
  const facts = [
    ["Address", firm.address],
    ["Contact", firm.contact],
    ["E-mail", firm.email],
    ["Phone", firm.phone],
    ["Terms", firm.terms],
    ["Note", firm.note],
    ["Credit limit", firm.creditLimit === null ? "" : format.money(firm.creditLimit)],
    ["Group", firm.group],
    ["Tax", firm.taxExempt ? "exempt" : ""],
    ["On hold", firm.onHold ? "orders only by going on anyway" : ""],
  ].filter(([, text]) => text !== "");
  return (
    <article>
      <h1>{firm.name}</h1>
      <Sub>
        {firm.code} · {WORDS[firm.kind].one} · in {format.settings.currency}
        {firm.archived && " · archived"}
      </Sub>
      <Facts>
        {facts.map(([what, text]) => (
          <div key={what}>
            <dt>{what}</dt>
            <dd style={{ whiteSpace: "pre-line" }}>{text}</dd>
          </div>
        ))}
        {firm.priceLists.length > 0 && (
          <div>
            <dt>Price lists</dt>
            <dd>
              {firm.priceLists.map((list) => (
                <div key={list.id}>
                  <Link to={`/price-lists/${list.id}`}>{list.of === "customer" ? "own" : firm.group}</Link>,{" "}
                  {format.count(list.prices, "price", "prices")}
                </div>
              ))}
            </dd>
          </div>
        )}
      </Facts>
      <Button onPress={() => setEditing(true)}>
        <Pencil /> Change
      </Button>{" "}
      <AskButton
        isPending={remove.busy}
        question={{
          title: `Remove ${firm.name}?`,
          text: `A ${WORDS[firm.kind].one} that documents or items use can only be archived.`,
          yes: "Remove",
        }}
        onYes={() => void remove.run({ params: { id: firm.id } })}
      >
        <Trash2 /> Remove
      </AskButton>
      {firm.supplies.length > 0 && <Supplies firm={firm} format={format} />}
      {firm.kind === "customer" && <CustomerWords customer={firm.id} />}
      {firm.kind === "customer" && <HeldUnits customer={firm} />}
      {firm.orders.length > 0 && <Ordered firm={firm} format={format} />}
      <EditFirmDialog firm={firm} isOpen={editing} onClose={() => setEditing(false)} />
    </article>
  );
}

function Supplies({ firm, format }: { firm: FirmSheet; format: Format }) {
  return (
    <Section title="Items supplied">
      <SheetTable
        label="Items supplied"
        rows={firm.supplies}
        rowId={(item) => item.id}
        columns={[
          {
            header: "Item",
            cell: (item) => (
              <Named
                name={item.name}
                to={`/catalog/${item.id}`}
                more={[item.code, item.preferred && "preferred"]}
              />
            ),
          },
          { header: "Supplier code", cell: (item) => item.theirCode },
          {
            header: "Price",
            end: true,
            cell: (item) => (item.price ? format.unitCost(item.price, item.pricePer) : "–"),
          },
          {
            header: "Lead time",
            end: true,
            cell: (item) => (item.leadDays === null ? "–" : format.count(item.leadDays, "day", "days")),
          },
        ]}
      />
    </Section>
  );
}

function Ordered({ firm, format }: { firm: FirmSheet; format: Format }) {
  return (
    <Section title="Orders">
      <SheetTable
        label="Orders"
        rows={firm.orders}
        rowId={(order) => order.id}
        columns={[
          { header: "Order", cell: (order) => <Link to={`/orders/${order.id}`}>{order.number}</Link> },
          { header: "Stage", cell: (order) => order.stage },
          { header: "Lines", end: true, cell: (order) => format.amount(String(order.lines)) },
          {
            header: "Due",
            end: true,
            cell: (order) => (order.due === null ? "no date" : format.day(order.due)),
          },
        ]}
      />
    </Section>
  );
}
