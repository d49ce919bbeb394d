import type { OrderRow } from "@yosegi/contract";
import { isOpenOrder } from "@yosegi/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { Unanswered } from "../api/index.ts";
import { OrdersNav } from "../nav/index.ts";
import {
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  TileStrip,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { OrderDialog } from "./orderform.tsx";
import { OrderSheetView } from "./ordersheet.tsx";
import { useOrder, useOrders } from "./queries.ts";
import { groupOf, linesComing, orderWords } from "./words.ts";

/** How an open order may stand; the rail leads here. */
const STATES = ["overdue", "short"] as const;

const Only = styled.p`
  margin: 0;
  padding: 0 16px 4px;
`;

/** Customers' orders, what is late first, and the one that is open. */
export function OrdersPage() {
  const navigate = useNavigate();
  const format = useFormat();
  const [taking, setTaking] = useState(false);
  const address = useAddress();
  const search = address.get("search");
  const state = STATES.find((one) => one === address.get("state"));
  const { data, error } = useOrders(search, state);
  useShortcut("n", "New order", () => setTaking(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Orders"
      path="/orders"
      nav={<OrdersNav />}
      pages={data}
      narrowed={search !== "" || state !== undefined}
      filters={
        state && (
          <Only>
            Only {state} ones.{" "}
            <Button look="link" onPress={() => address.set("state", "")}>
              Show all
            </Button>
          </Only>
        )
      }
      empty={
        <EmptyPage
          title="No orders yet"
          action={
            <Button look="main" onPress={() => setTaking(true)}>
              <Plus /> Create your first order
            </Button>
          }
        >
          Orders reserve stock. Build what's missing with one click.
        </EmptyPage>
      }
      choose="Select an order."
      groupOf={(order) => groupOf(order, format.settings.today)}
      none="No orders match."
      onNew={() => setTaking(true)}
      entry={(order, group, kept) => <OrderEntry order={order} group={group} search={kept} />}
      sheet={(id) => <OpenOrder id={id} />}
    >
      <OrderDialog
        order={null}
        isOpen={taking}
        onClose={() => setTaking(false)}
        onSaved={(made) => void navigate(`/orders/${made}`)}
      />
    </DocumentPage>
  );
}

function OpenOrder({ id }: { id: number }) {
  const { data, error } = useOrder(id);
  return data ? <OrderSheetView order={data} /> : <Unanswered error={error} shape="sheet" />;
}

function OrderEntry({ order, group, search }: { order: OrderRow; group: string; search: string }) {
  const format = useFormat();
  return (
    <EntryLink to={{ pathname: `/orders/${order.id}`, search }}>
      <b>{order.customer.name}</b>
      {isOpenOrder(order.stage) && (
        <TileStrip
          small
          most={10}
          wanted={String(order.lines)}
          there={String(order.linesReady)}
          coming={linesComing(order)}
          says={`${order.linesReady} of ${format.count(order.lines, "line", "lines")} ready`}
        />
      )}
      <span>
        {orderWords(order, format)}
        {order.due && ["Overdue", "Due later"].includes(group) && ` · ${format.day(order.due)}`}
      </span>
    </EntryLink>
  );
}
