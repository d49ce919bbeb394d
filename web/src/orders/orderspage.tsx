import type { OrderRow } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Failure } from "../api/index.ts";
import {
  Button,
  Dialog,
  EmptyPage,
  Entries,
  EntryGroup,
  EntryLink,
  Key,
  SplitPage,
  TextField,
  TileStrip,
  useAsked,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { NewOrder } from "./orderform.tsx";
import { OrderSheetView } from "./ordersheet.tsx";
import { useOrder, useOrders } from "./queries.ts";
import { groupOf, linesBuilt, orderWords } from "./words.ts";

/** Customers' orders, what is late first, and the one that is open. */
export function OrdersPage() {
  const { id } = useParams();
  const navigate = useNavigate();
  const [taking, setTaking] = useState(false);
  const { data, error } = useOrders();
  useShortcut("n", "New order", () => setTaking(true));
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const dialog = (
    <Dialog title="New order" isOpen={taking} onClose={() => setTaking(false)} width="820px">
      <NewOrder
        onMade={(made) => {
          setTaking(false);
          void navigate(`/orders/${made}`);
        }}
      />
    </Dialog>
  );
  if (data.orders.length === 0)
    return (
      <>
        <EmptyPage
          title="What customers asked for, and what is there for them"
          action={
            <Button look="main" onPress={() => setTaking(true)}>
              <Plus /> Take the first order
            </Button>
          }
        >
          An order reserves what it asks for. What is missing is built for it by one press, without typing it
          again.
        </EmptyPage>
        {dialog}
      </>
    );
  return (
    <>
      <SplitPage
        list={<List orders={data.orders} onNew={() => setTaking(true)} />}
        sheet={
          id === undefined ? (
            <Quiet>Choose an order on the left.</Quiet>
          ) : (
            <OpenOrder key={id} id={Number(id)} />
          )
        }
      />
      {dialog}
    </>
  );
}

function OpenOrder({ id }: { id: number }) {
  const { data, error } = useOrder(id);
  if (error) return <Failure error={error} />;
  return data ? <OrderSheetView order={data} /> : null;
}

function List({ orders, onNew }: { orders: OrderRow[]; onNew: () => void }) {
  const { id } = useParams();
  const format = useFormat();
  const asked = useAsked();
  const text = asked.get("search");
  const wanted = text.trim().toLowerCase();
  const shown = orders.filter((order) =>
    `${order.number} ${order.customer.code} ${order.customer.name} ${order.reference}`
      .toLowerCase()
      .includes(wanted),
  );
  const groups = Map.groupBy(shown, (order) => groupOf(order, format.settings.today));
  return (
    <Entries
      alone={id === undefined}
      label="Orders"
      filter={
        <>
          <TextField
            label="Filter orders"
            hideLabel
            placeholder="Filter orders"
            value={text}
            onChange={(next) => asked.set("search", next)}
          />
          <Button onPress={onNew}>
            New <Key>n</Key>
          </Button>
        </>
      }
    >
      {[...groups].map(([group, members]) => (
        <EntryGroup key={group} title={group} late={group === "Overdue"}>
          {members.map((order) => (
            <EntryLink key={order.id} to={{ pathname: `/orders/${order.id}`, search: asked.text }}>
              <b>{order.customer.name}</b>
              {order.stage === "open" && (
                <TileStrip
                  small
                  most={10}
                  wanted={String(order.lines)}
                  there={String(order.linesReady)}
                  coming={linesBuilt(order)}
                  says={`${order.linesReady} of ${format.count(order.lines, "line", "lines")} there`}
                />
              )}
              <span>
                {orderWords(order, format)}
                {order.due && ["Overdue", "Due later"].includes(group) && ` · ${format.day(order.due)}`}
              </span>
            </EntryLink>
          ))}
        </EntryGroup>
      ))}
      {shown.length === 0 && <p>No order has this in its number, customer or reference.</p>}
    </Entries>
  );
}

const Quiet = styled.p`
  color: var(--ink2);
`;
