import { type Trace, type TraceStep, traceRoutes } from "@yosegi/contract";
import { Fragment } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { Unanswered, usePress } from "../api/index.ts";
import { useItem } from "../fields/index.ts";
import { PieceFacts, usePiece } from "../pieces/index.ts";
import { useMovementPages } from "../stock/index.ts";
import {
  Actions,
  AskButton,
  color,
  EmptyPage,
  type Format,
  Named,
  Page,
  Section,
  SheetTable,
  Sub,
  sayDone,
  TOUCH,
  useAddress,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { useTrace } from "./queries.ts";

/** One lot, or one unit by its serial number: where it is, what went into it, and where it went. */
export function TracePage() {
  const address = useAddress();
  const piece = { item: Number(address.get("item")), lot: address.get("lot"), serial: address.get("serial") };
  const code = piece.serial || piece.lot;
  useTitle(code);
  const item = useItem(piece.item);
  const card = usePiece(piece);
  if (piece.item === 0 || code === "")
    return (
      <EmptyPage title="Trace">
        Scan a lot or a serial number to see where it came from and where it went.
      </EmptyPage>
    );
  if (!item.data || !card.data) return <Unanswered error={item.error ?? card.error} shape="sheet" />;
  const { name, code: itemCode, unit, stockByBin, decimals } = item.data;
  return (
    <Page>
      <h1>
        {piece.serial === "" ? "Lot" : "Serial number"} {code}
      </h1>
      <Sub>
        <Link to={`/catalog/${piece.item}`}>{name}</Link> · {itemCode}
      </Sub>
      <PieceFacts card={card.data} />
      <Section title="In stock">
        <InStock
          rows={stockByBin.filter((row) => row.lot === piece.lot && row.serial === piece.serial)}
          unit={unit}
          decimals={decimals}
        />
      </Section>
      <Branches title="Where it went" piece={piece} direction="forward" />
      <Branches title="Where it came from" piece={piece} direction="backward" />
      <Movements piece={piece} />
    </Page>
  );
}

/** Who moved it, on which device, when, from where and for what. */
function Movements({ piece }: { piece: BranchesProps["piece"] }) {
  const format = useFormat();
  const { data } = useMovementPages(piece);
  const rows = data?.pages.flatMap((page) => page.movements) ?? [];
  if (rows.length === 0) return null;
  return (
    <Section title="Movements">
      <SheetTable
        label="Movements"
        rows={rows}
        rowId={(m) => m.id}
        columns={[
          {
            header: "When",
            cell: (m) => (
              <Named name={format.moment(m.moment)} more={[m.person, m.device && `on ${m.device}`]} />
            ),
          },
          { header: "From", cell: (m) => m.from || "outside" },
          { header: "To", cell: (m) => m.to || "gone" },
          {
            header: "Quantity",
            end: true,
            cell: (m) => format.amount(m.quantity, m.item.unit),
          },
          {
            header: "Document",
            cell: (m) => <Named name={m.document} to={`/stock?document=${m.document}`} more={[m.reason]} />,
          },
        ]}
      />
    </Section>
  );
}

interface InStockProps {
  rows: readonly { store: string; bin: string; quantity: string; expiry: string | null }[];
  unit: string;
  decimals: number;
}

function InStock({ rows, unit, decimals }: InStockProps) {
  const format = useFormat();
  if (rows.length === 0) return <Sub>None of it is in a store.</Sub>;
  return (
    <SheetTable
      label="In stock"
      rows={rows}
      rowId={(row) => `${row.store} ${row.bin}`}
      columns={[
        { header: "Store and bin", cell: (row) => `${row.store} ${row.bin}` },
        { header: "Use by", cell: (row) => (row.expiry === null ? "–" : format.day(row.expiry)) },
        {
          header: "On hand",
          end: true,
          cell: (row) => `${format.quantity(row.quantity, decimals)} ${unit}`,
        },
      ]}
    />
  );
}

interface BranchesProps {
  title: string;
  piece: { item: number; lot: string; serial: string };
  direction: "forward" | "backward";
}

function Branches({ title, piece, direction }: BranchesProps) {
  const { data, error } = useTrace(piece, direction);
  if (!data)
    return (
      <Section title={title}>
        <Unanswered error={error} />
      </Section>
    );
  const customers = new Set(
    data.steps.flatMap(({ end, firm }) => (end === "with a customer" && firm ? [firm.id] : [])),
  );
  return (
    <Section title={title}>
      {data.steps.length === 0 ? (
        <Sub>
          {direction === "forward" ? "Nothing of it was used or shipped yet." : "Nothing is known of it."}
        </Sub>
      ) : (
        <Tree trace={data} piece={0} direction={direction} />
      )}
      {direction === "forward" && customers.size > 0 && <Receivers piece={piece} count={customers.size} />}
    </Section>
  );
}

/** Who received anything of it: as a list to take along, or a message to each. */
function Receivers({ piece, count }: { piece: BranchesProps["piece"]; count: number }) {
  const format = useFormat();
  const tell = usePress(traceRoutes.traceMessages, ({ messages }) =>
    sayDone(`${format.count(messages, "message", "messages")} added to the outbox.`),
  );
  const query = new URLSearchParams({ item: String(piece.item), lot: piece.lot, serial: piece.serial });
  return (
    <Actions>
      <a href={`/api/trace/receivers?${query}&format=xlsx`}>
        {format.count(count, "customer", "customers")} as a spreadsheet
      </a>
      <AskButton
        isPending={tell.busy}
        question={{
          title: "Write to all of them?",
          text: `${format.count(count, "message is", "messages are")} put into the outbox, to be read and sent from there.`,
          yes: "Put into the outbox",
        }}
        onYes={() => void tell.run({ body: piece })}
      >
        Messages to the outbox …
      </AskButton>
    </Actions>
  );
}

/** The steps of a piece, each with what it leads to under it. */
function Tree({
  trace,
  piece,
  direction,
}: {
  trace: Trace;
  piece: number;
  direction: "forward" | "backward";
}) {
  const format = useFormat();
  const own = trace.steps.filter(({ from }) => from === piece);
  const builds = new Map<string, TraceStep[]>();
  for (const step of own) builds.set(step.document, [...(builds.get(step.document) ?? []), step]);
  return (
    <List>
      {[...builds].map(([document, steps]) => {
        const [first] = steps;
        return (
          <li key={document}>
            {first && (
              <StepWords step={first} unit={trace.pieces[piece]?.item.unit ?? ""} direction={direction} />
            )}
            {steps.some(({ to }) => to !== null) && (
              <List>
                {steps.map((step) => (
                  <Fragment key={step.to}>
                    {step.to !== null && (
                      <li>
                        <PieceWords trace={trace} piece={step.to} step={step} format={format} />
                        {step.end === null && <Tree trace={trace} piece={step.to} direction={direction} />}
                      </li>
                    )}
                  </Fragment>
                ))}
              </List>
            )}
          </li>
        );
      })}
    </List>
  );
}

function StepWords({
  step,
  unit,
  direction,
}: {
  step: TraceStep;
  unit: string;
  direction: "forward" | "backward";
}) {
  const format = useFormat();
  const { build, order, shipment, purchase, return: returned, takeApart, rework, firm, document, end } = step;
  const isBack = direction === "backward";
  const amount = format.amount(step.quantity, unit);
  return (
    <>
      <b>
        {build && <Link to={`/builds/${build.id}`}>{build.number}</Link>}
        {shipment && <Link to={`/shipments/${shipment.id}`}>{shipment.number}</Link>}
        {purchase && <Link to={`/buying/${purchase.id}`}>{purchase.number}</Link>}
        {returned && <Link to={`/returns/${returned.id}`}>{returned.number}</Link>}
        {takeApart && <Link to={`/take-aparts/${takeApart.id}`}>{takeApart.number}</Link>}
        {rework && <Link to={`/reworks/${rework.id}`}>{rework.number}</Link>}
        {!build && !shipment && !purchase && !returned && !takeApart && !rework && document}
      </b>{" "}
      {build && `${isBack ? "made" : "used"} ${amount}`}
      {takeApart && end === null && (isBack ? `${amount} came out of a take-apart` : `${amount} taken apart`)}
      {rework && step.to !== null && `${amount} ${isBack ? "came out of a rework" : "went into a rework"}`}
      {firm && step.to === null && `${amount} ${isBack ? "from" : "to"} ${firm.name}`}
      {order && (
        <>
          {" "}
          (<Link to={`/orders/${order.id}`}>{order.number}</Link>)
        </>
      )}
      {!build && !firm && step.to === null && `${amount} ${end}`}
      <small> {[format.day(step.day), step.person, step.place].filter(Boolean).join(" · ")}</small>
    </>
  );
}

interface PieceWordsProps {
  trace: Trace;
  piece: number;
  step: TraceStep;
  format: Format;
}

function PieceWords({ trace, piece, step }: PieceWordsProps) {
  const own = trace.pieces[piece];
  if (!own) return null;
  const { item, lot, serial } = own;
  const query = new URLSearchParams({ item: String(item.id), lot, serial });
  return (
    <>
      {item.name}{" "}
      {lot || serial ? (
        <Link to={`/trace?${query}`}>
          {serial ? "serial" : "lot"} {serial || lot}
        </Link>
      ) : (
        <small>not tracked: the trace ends here</small>
      )}
      {step.end === "seen already" && <small> · see above</small>}
    </>
  );
}

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0 0 0 16px;
  border-left: 1px solid ${color.line};
  li {
    padding: 5px 0;
  }
  small {
    color: ${color.ink2};
  }
  ${TOUCH} {
    a {
      display: inline-block;
      padding-block: 12px;
    }
  }
`;
