import { type OrderLine, type OrderSheet, orderRoutes } from "@yosegi/contract";
import { isOpenOrder } from "@yosegi/core";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { RecordDialog, type RecordDialogProps } from "../builds/index.ts";
import {
  Button,
  type Format,
  Named,
  Notice,
  OnOrder,
  Section,
  SheetTable,
  Short,
  sayDone,
  TileStrip,
  useFormat,
} from "../ui/index.ts";
import { leavesWords } from "./promisewords.ts";
import {
  buildable,
  changeWords,
  farWords,
  leftOut,
  mayGoOn,
  orderedOf,
  rowsOf,
  type SheetRow,
  type Take,
} from "./words.ts";

/** What left of a line or a content, and what was closed. */
function LeftWords({
  of: { shipped, closed },
}: {
  of: Pick<OrderSheet["orderLines"][number], "shipped" | "closed">;
}) {
  const format = useFormat();
  const said = [
    shipped !== "0" && `${format.amount(shipped)} shipped`,
    closed !== "0" && `${format.amount(closed)} closed`,
  ].filter(Boolean);
  return said.length === 0 ? null : <small>{said.join(", ")}</small>;
}

/** The lines of an order: what each has in stock, what is on its way, what is short, and what it comes to. */
export function OrderLines({ order }: { order: OrderSheet }) {
  const format = useFormat();
  const [recording, setRecording] = useState<NonNullable<RecordDialogProps["line"]> | null>(null);
  // A quote says how it would stand if it were ordered now.
  const open = order.stage === "quote" || isOpenOrder(order.stage);
  const toBuild = isOpenOrder(order.stage) ? buildable(order) : [];
  const figure = (take: Take | null, of: "ready" | "coming" | "missing") => {
    if (take === null || !open || take[of] === "0") return "–";
    const words = format.amount(take[of], take.item.unit);
    return of === "missing" ? <Short>{words}</Short> : words;
  };
  return (
    <Section title="Lines">
      <SheetTable
        label="Lines"
        rows={rowsOf(order)}
        rowId={(row) => row.key}
        columns={[
          { header: "Item", cell: (row) => <Asked order={order} row={row} format={format} /> },
          {
            header: "Quantity",
            end: true,
            cell: ({ own, line, take }) =>
              own || take === null ? (
                <>
                  {format.amount(line.quantity, line.item.unit)}
                  <LeftWords of={line} />
                </>
              ) : (
                <>
                  {format.amount(orderedOf(take), take.item.unit)}
                  <LeftWords of={take} />
                </>
              ),
          },
          {
            header: "Progress",
            cell: ({ line, take, own }) =>
              open &&
              line.open !== "0" &&
              (take !== null || own) && (
                <>
                  <TileStrip
                    small
                    most={10}
                    wanted={take?.open ?? line.open}
                    there={take?.ready ?? line.ready}
                    coming={take?.coming ?? "0"}
                    says={farWords(line, take, format)}
                  />
                  {own && <LinePromise line={line} />}
                </>
              ),
          },
          {
            header: "Ready",
            end: true,
            cell: ({ own, line, take }) =>
              own && take === null && open
                ? format.amount(line.ready, line.item.unit)
                : figure(take, "ready"),
          },
          {
            header: "Incoming",
            end: true,
            cell: ({ take }) => (
              <>
                {figure(take, "coming")}
                {take && <Builds take={take} />}
                {take && <Purchases take={take} />}
              </>
            ),
          },
          {
            header: "Short",
            end: true,
            cell: ({ take, line }) => (
              <>
                {figure(take, "missing")}
                {take && open && take.planned !== "0" && (
                  <small>{format.amount(take.planned, take.item.unit)} on drafts</small>
                )}
                {take && (
                  <Recording
                    item={take.item}
                    found={toBuild.find((b) => b.line === line.id && b.item === take.item.id)}
                    onRecord={(quantity) =>
                      setRecording({ id: line.id, order: order.number, product: take.item, quantity })
                    }
                  />
                )}
              </>
            ),
          },
          {
            header: "Price",
            end: true,
            cell: ({ own, line }) =>
              own && (
                <>
                  {line.price === null ? "none" : format.unitCost(line.price, line.pricePer)}
                  {line.discount !== "0" && <small>less {format.percent(line.discount)}</small>}
                </>
              ),
          },
          {
            header: "Total",
            end: true,
            cell: ({ own, line }) => (own && line.total !== null ? format.money(line.total) : ""),
          },
        ]}
        {...(order.total !== null && { sum: { words: "Total", figure: format.money(order.total) } })}
      />
      <RecordDialog
        key={recording?.id}
        isOpen={recording !== null}
        line={recording}
        onClose={() => setRecording(null)}
      />
    </Section>
  );
}

/** When a line could leave, and the day that was promised for it. */
function LinePromise({ line }: { line: OrderLine }) {
  const format = useFormat();
  const day = line.promise?.day ?? null;
  const promised = line.promised && `promised ${format.day(line.promised)}`;
  return (
    <>
      <small>{leavesWords(day, format)}</small>
      {promised && <small>{line.late ? <Short>{promised}</Short> : promised}</small>}
    </>
  );
}

interface RecordingProps {
  item: Take["item"];
  /** What of it is to be built for the line; undefined where nothing is. */
  found: ReturnType<typeof buildable>[number] | undefined;
  onRecord: (quantity: string) => void;
}

/** Records a build that is done, of what can be built and neither is coming nor stands on a draft. */
function Recording({ item, found, onRecord }: RecordingProps) {
  if (!found) return null;
  return (
    <div>
      <Button
        look="link"
        aria-label={`Record a build of ${item.code}`}
        onPress={() => onRecord(found.quantity)}
      >
        Record build
      </Button>
    </div>
  );
}

interface AskedProps {
  order: OrderSheet;
  row: SheetRow;
  format: Format;
}

function Asked({ order, row: { line, take, own }, format }: AskedProps) {
  const item = own || take === null ? line.item : take.item;
  const kind = own && take === null && (item.kind === "kit" ? "kit" : item.kind === "service" && "work");
  const named = (
    <Named
      name={item.name}
      to={`/catalog/${item.id}`}
      more={[
        item.code,
        kind,
        !own && `in ${format.amount(line.quantity)} × ${line.item.code}`,
        !own && changeWords(line, item.id, format),
      ]}
    />
  );
  if (!own) return <Content>{named}</Content>;
  const at = order.orderLines.indexOf(line);
  return (
    <>
      <Texts order={order} isHere={(before) => before === at} />
      {named}
      {line.serial && <small>serial {line.serial}</small>}
      {line.bySupplier && <small>delivered by the supplier</small>}
      {line.set && <SetState order={order} line={line} set={line.set} />}
      {at === order.orderLines.length - 1 && <Texts order={order} isHere={(before) => before > at} />}
    </>
  );
}

/** Lines of text that stand before or after a line. */
function Texts({ order, isHere }: { order: OrderSheet; isHere: (before: number) => boolean }) {
  const texts = order.texts.filter(({ before }) => isHere(before));
  return texts.length > 0 && <Text>{texts.map(({ text }) => text).join("\n")}</Text>;
}

const Text = styled.p`
  margin: 2px 0;
  white-space: pre-line;
  font-style: italic;
`;

interface SetStateProps {
  order: OrderSheet;
  line: OrderLine;
  set: NonNullable<OrderLine["set"]>;
}

/** Whether the customer sees what is in a set, what was left out, and whether its kit has been changed since. */
function SetState({ order, line, set }: SetStateProps) {
  const format = useFormat();
  const left = leftOut(set);
  return (
    <>
      <small>{set.contentsShown ? "contents shown to the customer" : "one line for the customer"}</small>
      {left.length > 0 && <small>without {format.list(left)}</small>}
      {set.movedOn && <MovedOn order={order} line={line} />}
    </>
  );
}

/** The kit was changed since: the line keeps what it had, and takes the new definition by one press. */
function MovedOn({ order, line }: { order: OrderSheet; line: OrderLine }) {
  const take = useCommand(orderRoutes.takeDefinition, (saved) =>
    sayDone(`${saved.number} has ${line.item.code} as it is defined now.`),
  );
  const run = (goOn: boolean) =>
    void take.run({ params: { id: order.id, line: line.id }, version: order.version, body: { goOn } });
  return (
    <div>
      <small>{line.item.code} was changed since; this line keeps what it had.</small>
      {order.stage !== "cancelled" && (
        <Button look="link" isPending={take.busy} onPress={() => run(false)}>
          Take the new contents
        </Button>
      )}
      {take.refusal && <Notice>{take.refusal.message}</Notice>}
      {mayGoOn(take.refusal) && (
        <Button isPending={take.busy} onPress={() => run(true)}>
          Go on anyway
        </Button>
      )}
    </div>
  );
}

const Content = styled.div`
  padding-left: 18px;
`;

/** The builds that work for a line, each a way to go there. */
function Builds({ take }: { take: Take }) {
  return take.builds.map((build) => (
    <div key={build.id}>
      <Link to={`/builds/${build.id}`}>{build.number}</Link> {build.stage}
    </div>
  ));
}

/** What is being bought for a line, itself or parts of what is built for it. */
function Purchases({ take }: { take: Take }) {
  const format = useFormat();
  return (
    <OnOrder
      purchases={take.purchases.map(({ item, quantity, expected, ...purchase }) => ({
        ...purchase,
        words: [
          item.id !== take.item.id && item.code,
          format.amount(quantity, item.unit),
          expected && format.day(expected),
        ]
          .filter(Boolean)
          .join(" "),
      }))}
    />
  );
}
