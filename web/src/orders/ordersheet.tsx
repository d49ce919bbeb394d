import { type OrderSheet, orderRoutes, shippingRoutes } from "@yosegi/contract";
import { isOpenOrder } from "@yosegi/core";
import { Check, Copy, Hammer, PackageCheck, Pencil, ShoppingCart, Truck } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { type Command, useCommand } from "../api/index.ts";
import { checkAddress } from "../cover/index.ts";
import { OrderShipments, ShipDialog } from "../shipping/index.ts";
import {
  Actions,
  Button,
  Dialog,
  DueDay,
  Fact,
  Facts,
  Large,
  MenuButton,
  Notice,
  Sub,
  sayDone,
  TileStrip,
  useFormat,
  useShortcut,
  useTitle,
} from "../ui/index.ts";
import { type Offer, OffersForm } from "./offersform.tsx";
import { TaxLines } from "./orderfigures.tsx";
import { OrderDialog } from "./orderform.tsx";
import { OrderLines } from "./orderlines.tsx";
import { PrecedenceForm } from "./precedenceform.tsx";
import { holdingWords, promiseWords } from "./promisewords.ts";
import {
  buildable,
  isPacked,
  isShippable,
  isToBeDelivered,
  linesComing,
  mayGoOn,
  savedWords,
  stageWords,
  stateWords,
  suppliedWords,
} from "./words.ts";

type Doing = "changing" | "copying" | "cancelling" | "closing" | "preceding" | "shipping" | null;

/** One order: what was asked for, what is there for it, what is being built, and what can be done now. */
export function OrderSheetView({ order }: { order: OrderSheet }) {
  useTitle(order.number);
  const format = useFormat();
  const navigate = useNavigate();
  const [doing, setDoing] = useState<Doing>(null);
  const [offers, setOffers] = useState<Offer[]>([]);
  const close = () => setDoing(null);
  const open = isOpenOrder(order.stage);
  const changes = open || order.stage === "quote";
  useShortcut("e", "Edit what is open", () => changes && setDoing("changing"));
  useShortcut("s", "Ship the order", () => open && setDoing("shipping"));
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
            stageWords(order, format)
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
          <TaxLines taxes={order.taxes} gross={order.gross} />
        </Fact>
        <Fact name="Customer">
          <Link to={`/customers/${order.customer.id}`}>{order.customer.code}</Link>
        </Fact>
        {order.precedence !== null && open && (
          <Fact name="Precedence">{order.precedence === 1 ? "1, first" : order.precedence}</Fact>
        )}
        {order.quote && <Fact name="From quote">{order.quote}</Fact>}
        {order.reference && <Fact name="Customer reference">{order.reference}</Fact>}
        {order.address && <Fact name="Deliver to">{order.address}</Fact>}
        {order.terms && <Fact name="Terms">{order.terms}</Fact>}
        {order.costTag && <Fact name="Cost tag">{order.costTag}</Fact>}
        {order.note && <Fact name="Note">{order.note}</Fact>}
      </Facts>
      <Steps order={order} onDo={setDoing} />
      <OrderLines order={order} />
      <OrderShipments order={order} />
      <ShipDialog order={order} isOpen={doing === "shipping"} onClose={close} />
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
      <Dialog
        title={`Close the rest of ${order.number}?`}
        isOpen={doing === "closing"}
        onClose={close}
        width="460px"
      >
        <CloseForm order={order} onDone={close} />
      </Dialog>
    </article>
  );
}

/** When all of the order could leave, and what holds it; one press promises the day. */
function OrderPromise({ order }: { order: OrderSheet }) {
  const format = useFormat();
  const promise = useCommand(orderRoutes.promiseOrder, (saved) =>
    sayDone(format.sentence(`${saved.number} promised for ${format.day(saved.promised ?? "")}`)),
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

/** One press makes a quote an order; what stands against it is said, and one more goes on anyway. */
function OrderQuote({ order, quote }: { order: OrderSheet; quote: QuoteCommand }) {
  const run = (goOn: boolean) => void quote.run({ params: { id: order.id }, body: { goOn } });
  return (
    <>
      <Button look="main" isPending={quote.busy} onPress={() => run(false)}>
        <Check /> Make it an order
      </Button>
      {mayGoOn(quote.refusal) && (
        <Button isPending={quote.busy} onPress={() => run(true)}>
          Go on anyway
        </Button>
      )}
    </>
  );
}

type QuoteCommand = Command<typeof orderRoutes.orderQuote>;

/** Lines for which no day was promised yet. */
const unpromised = (order: OrderSheet): number[] =>
  order.orderLines.flatMap((line) => (line.promised === null ? line.id : []));

function Steps({ order, onDo }: { order: OrderSheet; onDo: (doing: Doing) => void }) {
  const format = useFormat();
  const navigate = useNavigate();
  const open = isOpenOrder(order.stage);
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
  const direct = useCommand(orderRoutes.deliverBySupplier, ({ purchases }) => {
    sayDone(
      `${format.list(purchases.map((purchase) => purchase.number))} created, with the delivery address.`,
    );
    const [only, ...others] = purchases;
    if (only && others.length === 0) void navigate(`/buying/${only.id}`);
  });
  const quote = useCommand(orderRoutes.orderQuote, (saved) => sayDone(savedWords(saved, true, format)));
  const reopen = useCommand(orderRoutes.reopenRest, () => sayDone("What was closed is open again."));
  const supply = useCommand(orderRoutes.supplyOrder, (made) => sayDone(suppliedWords(made, format)));
  const send = useCommand(shippingRoutes.sendOrder, (message) => {
    sayDone(`${message.document} is in the outbox.`);
    void navigate(`/outbox/${message.id}`);
  });
  const what = order.stage === "quote" ? "quote" : "confirmation";
  const papers = [
    {
      id: "paper",
      label: `Open ${what} (PDF)`,
      onAction: () => void window.open(`/api/orders/${order.id}/paper`, "_blank", "noopener"),
    },
    {
      id: "send",
      label: `Put ${what} into the outbox`,
      onAction: () => void send.run({ params: { id: order.id } }),
    },
  ];
  const exports = ["xlsx", "csv"].map((kind) => ({
    id: kind,
    label: `Export lines (${kind.toUpperCase()})`,
    onAction: () => window.location.assign(`/api/orders/${order.id}/export?format=${kind}`),
  }));
  const demands = toBuild.map(({ item, quantity }) => ({ item, quantity, day: order.due }));
  const words =
    toBuild.length === 1 ? `the missing ${format.amount(toBuild[0]?.quantity ?? "")}` : "all that is missing";
  return (
    <>
      {build.refusal && <Notice>{build.refusal.message}</Notice>}
      {direct.refusal && <Notice>{direct.refusal.message}</Notice>}
      {supply.refusal && <Notice>{supply.refusal.message}</Notice>}
      {quote.refusal && <Notice>{quote.refusal.message}</Notice>}
      {reopen.refusal && <Notice>{reopen.refusal.message}</Notice>}
      {send.refusal && <Notice>{send.refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        {order.stage === "quote" && <OrderQuote order={order} quote={quote} />}
        {open && (
          <Button look={isShippable(order) ? "main" : "quiet"} onPress={() => onDo("shipping")}>
            <Truck /> Ship …
          </Button>
        )}
        {isPacked(order) && (
          <Button onPress={() => void navigate(`/orders/${order.id}/packed`)}>
            <PackageCheck /> Check packing
          </Button>
        )}
        {isToBeDelivered(order) && (
          <Button isPending={direct.busy} onPress={() => void direct.run({ params: { id: order.id } })}>
            <Truck /> Order for direct delivery
          </Button>
        )}
        {order.toBuy.length > 0 && (
          <Button
            look={toBuild.length > 0 || isShippable(order) ? "quiet" : "main"}
            isPending={supply.busy}
            onPress={() => void supply.run({ params: { id: order.id } })}
          >
            <ShoppingCart /> {toBuild.length > 0 ? "Build and buy what's missing" : "Buy what's missing"}
          </Button>
        )}
        {toBuild.length > 0 && (
          <>
            <Button
              look={isShippable(order) ? "quiet" : "main"}
              isPending={build.busy}
              onPress={() => void build.run({ params: { id: order.id }, body: { lines: [] } })}
            >
              <Hammer /> Build {words}
            </Button>
            <Button onPress={() => void navigate(checkAddress(demands))}>Check the parts first</Button>
          </>
        )}
        {(open || order.stage === "quote") && (
          <Button onPress={() => onDo("changing")}>
            <Pencil /> Change
          </Button>
        )}
        <Button onPress={() => onDo("copying")}>
          <Copy /> Copy
        </Button>
        {order.stage !== "cancelled" && (
          <MenuButton
            label={`More actions for ${order.number}`}
            items={[
              ...(open
                ? [{ id: "preceding", label: "Precedence …", onAction: () => onDo("preceding") }]
                : []),
              ...papers,
              ...exports,
              ...(open
                ? [{ id: "closing", label: "Close the rest …", onAction: () => onDo("closing") }]
                : []),
              ...(order.orderLines.some((line) => line.closed !== "0")
                ? [
                    {
                      id: "reopening",
                      label: "Reopen what was closed",
                      onAction: () => void reopen.run({ params: { id: order.id } }),
                    },
                  ]
                : []),
              ...(order.stage === "open" || order.stage === "quote"
                ? [
                    {
                      id: "cancelling",
                      label: open ? "Cancel order …" : "Cancel quote …",
                      onAction: () => onDo("cancelling"),
                    },
                  ]
                : []),
            ]}
          >
            More …
          </MenuButton>
        )}
      </Actions>
    </>
  );
}

function CloseForm({ order, onDone }: { order: OrderSheet; onDone: () => void }) {
  const close = useCommand(orderRoutes.closeRest, () => {
    sayDone(`The rest of ${order.number} is closed. Its stock is released.`);
    onDone();
  });
  const open = order.orderLines.filter((line) => line.open !== "0");
  const format = useFormat();
  return (
    <>
      {close.refusal && <Notice>{close.refusal.message}</Notice>}
      <p>
        Not shipped any more:{" "}
        {format.list(open.map((line) => `${format.amount(line.open)} ${line.item.code}`))}. What it reserves
        is released; you can reopen it.
      </p>
      <Actions>
        <Button
          look="main"
          isPending={close.busy}
          onPress={() =>
            void close.run({ params: { id: order.id }, body: { lines: [] }, version: order.version })
          }
        >
          Close the rest
        </Button>
        <Button onPress={onDone}>Keep</Button>
      </Actions>
    </>
  );
}

function CancelForm({ order, onDone }: { order: OrderSheet; onDone: () => void }) {
  const cancel = useCommand(orderRoutes.cancelOrder, () => {
    sayDone(`${order.number} cancelled.${order.stage === "open" ? " Its stock is released." : ""}`);
    onDone();
  });
  const builds = new Set(
    order.orderLines.flatMap((line) => line.takes.flatMap((take) => take.builds.map((b) => b.number))),
  );
  return (
    <>
      {cancel.refusal && <Notice>{cancel.refusal.message}</Notice>}
      <p>
        {order.stage === "open" && "Reserved stock is released."}
        {builds.size > 0 && ` ${[...builds].join(", ")} will go into stock instead.`} You can't reopen it; you
        can copy it.
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
