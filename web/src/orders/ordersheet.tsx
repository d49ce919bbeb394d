import { type OrderLine, type OrderSheet, orderRoutes } from "@yosegi/contract";
import { Copy, Hammer, Pencil, ShoppingCart } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { RecordDialog, type RecordDialogProps } from "../builds/index.ts";
import { checkAddress } from "../cover/index.ts";
import {
  Actions,
  Button,
  Dialog,
  DueDay,
  Fact,
  Facts,
  type Format,
  Large,
  MenuButton,
  Named,
  Notice,
  Section,
  SheetTable,
  Short,
  Sub,
  sayDone,
  TileStrip,
  useFormat,
  useShortcut,
  useTitle,
} from "../ui/index.ts";
import { type Offer, OffersForm } from "./offersform.tsx";
import { OrderDialog } from "./orderform.tsx";
import { PrecedenceForm } from "./precedenceform.tsx";
import { holdingWords, leavesWords, promiseWords } from "./promisewords.ts";
import {
  buildable,
  changeWords,
  farWords,
  leftOut,
  linesComing,
  rowsOf,
  type SheetRow,
  stateWords,
  suppliedWords,
  type Take,
} from "./words.ts";

type Doing = "changing" | "copying" | "cancelling" | "preceding" | null;

/** One order: what was asked for, what is there for it, what is being built, and what can be done now. */
export function OrderSheetView({ order }: { order: OrderSheet }) {
  useTitle(order.number);
  const format = useFormat();
  const navigate = useNavigate();
  const [doing, setDoing] = useState<Doing>(null);
  const [offers, setOffers] = useState<Offer[]>([]);
  const close = () => setDoing(null);
  const open = order.stage === "open";
  useShortcut("e", "Edit what is open", () => open && setDoing("changing"));
  return (
    <article>
      <h1>{order.customer.name}</h1>
      <Sub>
        {order.number} ·{" "}
        {order.history.map((h) => `${h.what} ${format.moment(h.moment)} by ${h.person}`).join(" · ")}
      </Sub>
      <OrderPromise order={order} />
      <Facts>
        <Fact name={open ? "Lines ready" : "Stage"}>
          {open ? (
            <>
              <TileStrip
                small
                wanted={String(order.lines)}
                there={String(order.linesReady)}
                coming={linesComing(order)}
                says={`${order.linesReady} of ${order.lines} lines ready`}
              />
              {order.linesReady} of {order.lines}, {stateWords(order, format)}
            </>
          ) : (
            order.stage
          )}
        </Fact>
        <Fact name="Due">
          <DueDay day={order.due} late={order.overdue} />
        </Fact>
        {order.promised && (
          <Fact name="Promised">
            <DueDay day={order.promised} late={order.late} />
          </Fact>
        )}
        <Fact name="Total">
          {order.total === null ? "price missing" : <Large>{format.money(order.total)}</Large>}
        </Fact>
        <Fact name="Customer">
          <Link to={`/customers/${order.customer.id}`}>{order.customer.code}</Link>
        </Fact>
        {order.precedence !== null && open && (
          <Fact name="Precedence">{order.precedence === 1 ? "1, first" : order.precedence}</Fact>
        )}
        {order.reference && <Fact name="Customer reference">{order.reference}</Fact>}
        {order.address && <Fact name="Deliver to">{order.address}</Fact>}
        {order.terms && <Fact name="Terms">{order.terms}</Fact>}
        {order.costTag && <Fact name="Cost tag">{order.costTag}</Fact>}
        {order.note && <Fact name="Note">{order.note}</Fact>}
      </Facts>
      <Steps order={order} onDo={setDoing} />
      <Lines order={order} />
      <OrderDialog
        order={order}
        isOpen={doing === "changing"}
        onClose={close}
        onOffers={({ offers: found }) => setOffers(found)}
      />
      <Dialog
        title={`Builds for ${order.number}`}
        isOpen={offers.length > 0}
        onClose={() => setOffers([])}
        width="560px"
      >
        <OffersForm
          order={order}
          offers={offers}
          onDone={(build) => setOffers(offers.filter((offer) => offer.id !== build))}
          onClose={() => setOffers([])}
        />
      </Dialog>
      <OrderDialog
        order={null}
        copied={order}
        isOpen={doing === "copying"}
        onClose={close}
        onSaved={(id) => void navigate(`/orders/${id}`)}
      />
      <Dialog
        title={`Precedence of ${order.number}`}
        isOpen={doing === "preceding"}
        onClose={close}
        width="560px"
      >
        <PrecedenceForm order={order} onDone={close} />
      </Dialog>
      <Dialog title={`Cancel ${order.number}?`} isOpen={doing === "cancelling"} onClose={close} width="460px">
        <CancelForm order={order} onDone={close} />
      </Dialog>
    </article>
  );
}

/** When all of the order could leave, and what holds it; one press promises the day. */
function OrderPromise({ order }: { order: OrderSheet }) {
  const format = useFormat();
  const promise = useCommand(orderRoutes.promiseOrder, (saved) =>
    sayDone(`${saved.number} promised for ${format.day(saved.promised ?? "")}.`),
  );
  if (!order.promise) return null;
  const { day, heldBy } = order.promise;
  const held = heldBy && order.orderLines[heldBy.line];
  return (
    <>
      <p>
        {promiseWords(order.promise, format)} {heldBy && held && holdingWords(heldBy, held.item.code, format)}{" "}
        {day !== null && unpromised(order).length > 0 && (
          <Button
            look="link"
            isPending={promise.busy}
            onPress={() =>
              void promise.run({
                params: { id: order.id },
                body: { day, lines: unpromised(order) },
                version: order.version,
              })
            }
          >
            Promise {format.day(day)}
          </Button>
        )}
      </p>
      {promise.refusal && <Notice>{promise.refusal.message}</Notice>}
    </>
  );
}

/** Lines for which no day was promised yet. */
const unpromised = (order: OrderSheet): number[] =>
  order.orderLines.flatMap((line) => (line.promised === null ? line.id : []));

function Steps({ order, onDo }: { order: OrderSheet; onDo: (doing: Doing) => void }) {
  const format = useFormat();
  const navigate = useNavigate();
  const open = order.stage === "open";
  const toBuild = open ? buildable(order) : [];
  const build = useCommand(orderRoutes.buildForOrder, ({ builds }) => {
    sayDone(
      builds.length === 0
        ? `What is being built is linked to ${order.number}.`
        : `${format.list(builds.map((b) => b.number))} created for ${order.number}.`,
    );
    const [only, ...others] = builds;
    if (only && others.length === 0) void navigate(`/builds/${only.id}`);
  });
  const supply = useCommand(orderRoutes.supplyOrder, (made) => sayDone(suppliedWords(made, format)));
  const demands = toBuild.map(({ item, quantity }) => ({ item, quantity, day: order.due }));
  const words =
    toBuild.length === 1 ? `the missing ${format.amount(toBuild[0]?.quantity ?? "")}` : "all that is missing";
  return (
    <>
      {build.refusal && <Notice>{build.refusal.message}</Notice>}
      {supply.refusal && <Notice>{supply.refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        {order.toBuy.length > 0 && (
          <Button
            look={toBuild.length > 0 ? "quiet" : "main"}
            isPending={supply.busy}
            onPress={() => void supply.run({ params: { id: order.id } })}
          >
            <ShoppingCart /> {toBuild.length > 0 ? "Build and buy what's missing" : "Buy what's missing"}
          </Button>
        )}
        {toBuild.length > 0 && (
          <>
            <Button
              look="main"
              isPending={build.busy}
              onPress={() => void build.run({ params: { id: order.id }, body: { lines: [] } })}
            >
              <Hammer /> Build {words}
            </Button>
            <Button onPress={() => void navigate(checkAddress(demands))}>Check the parts first</Button>
          </>
        )}
        {open && (
          <Button onPress={() => onDo("changing")}>
            <Pencil /> Change
          </Button>
        )}
        <Button onPress={() => onDo("copying")}>
          <Copy /> Copy
        </Button>
        {open && (
          <MenuButton
            label={`More actions for ${order.number}`}
            items={[
              { id: "preceding", label: "Precedence …", onAction: () => onDo("preceding") },
              { id: "cancelling", label: "Cancel order …", onAction: () => onDo("cancelling") },
            ]}
          >
            More …
          </MenuButton>
        )}
      </Actions>
    </>
  );
}

function Lines({ order }: { order: OrderSheet }) {
  const format = useFormat();
  const [recording, setRecording] = useState<NonNullable<RecordDialogProps["line"]> | null>(null);
  const open = order.stage === "open";
  const toBuild = open ? buildable(order) : [];
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
              own || take === null
                ? format.amount(line.quantity, line.item.unit)
                : format.amount(take.open, take.item.unit),
          },
          {
            header: "Progress",
            cell: ({ line, take, own }) =>
              open &&
              (take !== null || own) && (
                <>
                  <TileStrip
                    small
                    most={10}
                    wanted={take?.open ?? line.quantity}
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
  return (
    <>
      {named}
      {line.set && <SetState order={order} line={line} set={line.set} />}
    </>
  );
}

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
  return (
    <div>
      <small>{line.item.code} was changed since; this line keeps what it had.</small>
      {order.stage === "open" && (
        <Button
          look="link"
          isPending={take.busy}
          onPress={() => void take.run({ params: { id: order.id, line: line.id }, version: order.version })}
        >
          Take the new contents
        </Button>
      )}
      {take.refusal && <Notice>{take.refusal.message}</Notice>}
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

/** What is being bought for a line, itself or parts of what is built for it, each purchase order a way to go there. */
function Purchases({ take }: { take: Take }) {
  const format = useFormat();
  const ids = [...new Set(take.purchases.map((purchase) => purchase.id))];
  return ids.map((id) => {
    const own = take.purchases.filter((purchase) => purchase.id === id);
    return (
      <div key={id}>
        <Link to={`/buying/${id}`}>{own[0]?.number}</Link> {own[0]?.stage}
        <small style={{ whiteSpace: "normal" }}>
          {own
            .map(({ item, quantity, expected }) =>
              [
                item.id !== take.item.id && item.code,
                format.amount(quantity, item.unit),
                expected && format.day(expected),
              ]
                .filter(Boolean)
                .join(" "),
            )
            .join(", ")}
        </small>
      </div>
    );
  });
}

function CancelForm({ order, onDone }: { order: OrderSheet; onDone: () => void }) {
  const cancel = useCommand(orderRoutes.cancelOrder, () => {
    sayDone(`${order.number} cancelled. Its stock is released.`);
    onDone();
  });
  const builds = new Set(
    order.orderLines.flatMap((line) => line.takes.flatMap((take) => take.builds.map((b) => b.number))),
  );
  return (
    <>
      {cancel.refusal && <Notice>{cancel.refusal.message}</Notice>}
      <p>
        Reserved stock is released.
        {builds.size > 0 && ` ${[...builds].join(", ")} will go into stock instead.`} You can't reopen a
        cancelled order.
      </p>
      <Actions>
        <Button
          look="main"
          isPending={cancel.busy}
          onPress={() => void cancel.run({ params: { id: order.id } })}
        >
          Cancel {order.number}
        </Button>
        <Button onPress={onDone}>Keep</Button>
      </Actions>
    </>
  );
}
