import { type ReturnLine, type ReturnSheet, returnRoutes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { PackageCheck, Send, Undo2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useCommand, usePress } from "../api/index.ts";
import { NewReworkDialog } from "../reworks/index.ts";
import { SupplierReturnDialog } from "../supplierreturns/index.ts";
import { TakeApartDialog } from "../takeaparts/index.ts";
import {
  Actions,
  AskButton,
  Button,
  Fact,
  Facts,
  type Format,
  Large,
  MenuButton,
  Named,
  Notice,
  Section,
  SheetTable,
  Sub,
  sayDone,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { InspectDialog } from "./inspectdialog.tsx";
import { OUTCOME_WORDS, returnSentence } from "./words.ts";

/** One return: what came back, what it is credited, and what becomes of each piece. */
export function ReturnView({ one }: { one: ReturnSheet }) {
  useTitle(one.number);
  const format = useFormat();
  const navigate = useNavigate();
  const [inspecting, setInspecting] = useState<ReturnLine | null>(null);
  const [apart, setApart] = useState<ReturnLine | null>(null);
  const [rework, setRework] = useState<ReturnLine | null>(null);
  const [back, setBack] = useState<ReturnLine | null>(null);
  return (
    <article>
      <h1>{returnSentence(one, format)}</h1>
      <Sub>
        {one.number} · {one.customer.name} · received {format.moment(one.moment)} by {one.person}
        {one.undone && ` · undone ${format.moment(one.undone.moment)} by ${one.undone.person}`}
      </Sub>
      <Facts>
        <Fact name="Credit due">
          <Large>{one.undone ? "none" : format.money(one.due)}</Large>
        </Fact>
        {!one.undone && one.due !== one.credit && (
          <Fact name="Before that">
            {format.money(one.credit)}
            {one.replacement?.free
              ? ", replaced free"
              : [
                  decimal(one.fee).gt(0) && ` less ${format.money(one.fee)} fee`,
                  decimal(one.charges).gt(0) &&
                    ` less ${format.money(one.charges)} for damaged or missing parts`,
                ]
                  .filter(Boolean)
                  .join("")}
          </Fact>
        )}
        {!one.undone && one.gross !== one.due && <Fact name="With tax">{format.money(one.gross)}</Fact>}
        <Fact name="Value received">{format.money(one.value)}</Fact>
        {one.shipment && (
          <Fact name="Shipment">
            <Link to={`/shipments/${one.shipment.id}`}>{one.shipment.number}</Link>
          </Fact>
        )}
        {one.order && (
          <Fact name="Order">
            <Link to={`/orders/${one.order.id}`}>{one.order.number}</Link>
          </Fact>
        )}
        {one.replacement && (
          <Fact name="Replaced by">
            <Link to={`/orders/${one.replacement.id}`}>{one.replacement.number}</Link>
          </Fact>
        )}
        <Fact name="Why it came back">{one.reason}</Fact>
        {one.note && <Fact name="Note">{one.note}</Fact>}
      </Facts>
      {one.missing.length > 0 && (
        <Notice role="status">
          Missing:{" "}
          {format.list(
            one.missing.map(
              ({ item, sold, quantity }) =>
                `${format.amount(quantity, item.unit)} ${item.name} of ${sold.name}`,
            ),
          )}
          .
        </Notice>
      )}
      {!one.undone && <Steps one={one} />}
      <Section title="What came back">
        <SheetTable
          label="What came back"
          rows={one.returned}
          rowId={({ line }) => line}
          columns={columnsOf(format, one.undone ? null : setInspecting)}
        />
      </Section>
      <Inspections one={one} />
      {inspecting && (
        <InspectDialog
          one={one}
          line={inspecting}
          onClose={() => setInspecting(null)}
          onRework={() => setRework(inspecting)}
          onTakeApart={() => setApart(inspecting)}
          onSendBack={() => setBack(inspecting)}
        />
      )}
      {back && (
        <SupplierReturnDialog
          from={{ id: one.id, number: one.number, line: back }}
          onClose={() => setBack(null)}
          onDone={() => setBack(null)}
        />
      )}
      {rework && (
        <NewReworkDialog
          start={{
            item: rework.item,
            quantity: rework.open,
            lot: rework.lot,
            serial: rework.serial,
            returnLine: { id: one.id, line: rework.line, number: one.number },
          }}
          onClose={() => setRework(null)}
          onDone={({ id }) => void navigate(`/reworks/${id}`)}
        />
      )}
      {apart && (
        <TakeApartDialog
          start={{
            item: apart.item,
            quantity: apart.open,
            lot: apart.lot,
            serial: apart.serial,
            returnLine: { id: one.id, line: apart.line, number: one.number },
          }}
          onClose={() => setApart(null)}
          onDone={() => setApart(null)}
        />
      )}
    </article>
  );
}

function warrantyWords({ warranty, serial }: ReturnLine, format: Format): string {
  if (serial === "") return "";
  if (warranty === null) return "no warranty";
  return `warranty ${warranty.runs ? "until" : "ended"} ${format.day(warranty.until)}`;
}

const columnsOf = (format: Format, onInspect: ((line: ReturnLine) => void) | null) => [
  {
    header: "Item",
    cell: (line: ReturnLine) => (
      <Named
        name={line.item.name}
        to={`/catalog/${line.item.id}`}
        more={[
          line.item.code,
          line.serial || line.lot,
          line.sold ? `in ${line.sold.name}` : "",
          warrantyWords(line, format),
        ]}
      />
    ),
  },
  {
    header: "Received",
    end: true,
    cell: ({ quantity, item }: ReturnLine) => format.amount(quantity, item.unit),
  },
  {
    header: "To inspect",
    end: true,
    cell: (line: ReturnLine) => format.amount(line.open, line.item.unit),
  },
  { header: "Value", end: true, cell: ({ value }: ReturnLine) => format.money(value) },
  { header: "Credit", end: true, cell: ({ credit }: ReturnLine) => format.money(credit) },
  {
    header: "",
    end: true,
    cell: (line: ReturnLine) =>
      onInspect && line.open !== "0" ? (
        <Button
          look="link"
          aria-label={`Inspect ${[line.item.code, line.serial || line.lot].filter(Boolean).join(" ")}`}
          onPress={() => onInspect(line)}
        >
          Inspect …
        </Button>
      ) : null,
  },
];

function Steps({ one }: { one: ReturnSheet }) {
  const format = useFormat();
  const params = { id: one.id };
  const inspect = useCommand(returnRoutes.inspectReturn, () => sayDone("Back in stock."));
  const replace = useCommand(returnRoutes.replaceReturn, ({ replacement }) =>
    sayDone(`Ordered again as ${replacement?.number}.`),
  );
  const navigate = useNavigate();
  const send = useCommand(returnRoutes.sendReturn, (message) => {
    sayDone("The credit is in the outbox.");
    void navigate(`/outbox/${message.id}`);
  });
  const undo = useCommand(returnRoutes.undoReturn, () => sayDone(`${one.number} undone.`));
  const refusal = inspect.refusal ?? replace.refusal ?? send.refusal ?? undo.refusal;
  const open = one.returned.filter((line) => line.open !== "0");
  const begun = one.returned.some(({ inspected }) => inspected !== "0");
  return (
    <>
      {refusal && <Notice>{refusal.fields[0]?.message ?? refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        {open.length > 0 && (
          <Button
            look="main"
            isPending={inspect.busy}
            onPress={() =>
              void inspect.run({
                params,
                body: {
                  day: format.settings.today,
                  lines: open.map((line) => ({
                    line: line.line,
                    outcome: "stock" as const,
                    quantity: line.open,
                    ...line.home,
                    reason: "",
                  })),
                },
              })
            }
          >
            <PackageCheck /> All good: put {open.length === one.returned.length ? "it" : "the rest"} back
          </Button>
        )}
        <Button isPending={send.busy} onPress={() => void send.run({ params })}>
          <Send /> Credit to the outbox
        </Button>
        <a href={`/api/returns/${one.id}/paper`} target="_blank" rel="noreferrer">
          Credit (PDF)
        </a>
        {one.replacement === null && (
          <MenuButton
            label={`Replace what came back with ${one.number}`}
            items={[
              {
                id: "free",
                label: "Free, without credit",
                onAction: () => void replace.run({ params, body: { free: true } }),
              },
              {
                id: "priced",
                label: "At the normal price, with credit",
                onAction: () => void replace.run({ params, body: { free: false } }),
              },
            ]}
          >
            Order again …
          </MenuButton>
        )}
        {!begun && one.replacement === null && (
          <AskButton
            isPending={undo.busy}
            question={{
              title: `Undo ${one.number}?`,
              text: `What came back is with ${one.customer.name} again, and nothing is credited.`,
              yes: "Undo return",
            }}
            onYes={() => void undo.run({ params })}
          >
            <Undo2 /> Undo …
          </AskButton>
        )}
      </Actions>
    </>
  );
}

/** What was decided; each can be undone alone. */
function Inspections({ one }: { one: ReturnSheet }) {
  const format = useFormat();
  const undo = usePress(returnRoutes.undoInspection, () => sayDone("It is to be inspected again."));
  if (one.inspections.length === 0) return null;
  return (
    <Section title="Inspected">
      <SheetTable
        label="Inspected"
        rows={one.inspections}
        rowId={({ id }) => id}
        columns={[
          {
            header: "Item",
            cell: ({ item, lot, serial }) => <Named name={item.name} more={[item.code, serial || lot]} />,
          },
          { header: "Quantity", end: true, cell: ({ item, quantity }) => format.amount(quantity, item.unit) },
          {
            header: "Decided",
            cell: ({ outcome, place, reason }) =>
              [OUTCOME_WORDS[outcome], place && `in ${place}`, reason].filter(Boolean).join(", "),
          },
          { header: "By", cell: ({ person, moment }) => `${person}, ${format.moment(moment)}` },
          {
            header: "",
            end: true,
            cell: ({ id, item, lot, serial }) => (
              <Button
                look="link"
                isPending={undo.busy}
                aria-label={`Undo ${[item.code, serial || lot].filter(Boolean).join(" ")}`}
                onPress={() => void undo.run({ params: { id: one.id, inspection: id } })}
              >
                Undo
              </Button>
            ),
          },
        ]}
      />
    </Section>
  );
}
