import type { OrderRow, orderRoutes } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { type Pages, Unanswered } from "../api/index.ts";
import {
  Button,
  Documents,
  EmptyPage,
  EntryLink,
  SplitPage,
  TileStrip,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { OrderDialog } from "./orderform.tsx";
import { OrderSheetView } from "./ordersheet.tsx";
import { useOrder, useOrders } from "./queries.ts";
import { groupOf, linesComing, orderWords } from "./words.ts";

/** Customers' orders, what is late first, and the one that is open. */
export function OrdersPage() {
  const { id } = useParams();
  const navigate = useNavigate();
  const [taking, setTaking] = useState(false);
  const search = useAddress().get("search");
  const { data, error } = useOrders(search);
  useShortcut("n", "New order", () => setTaking(true));
  if (!data) return <Unanswered error={error} />;
  const dialog = (
    <OrderDialog
      order={null}
      isOpen={taking}
      onClose={() => setTaking(false)}
      onSaved={(made) => void navigate(`/orders/${made}`)}
    />
  );
  if (data.total === 0 && search === "")
    return (
      <>
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
        {dialog}
      </>
    );
  return (
    <>
      <SplitPage
        list={<List {...data} onNew={() => setTaking(true)} />}
        sheet={id === undefined ? <Quiet>Select an order.</Quiet> : <OpenOrder key={id} id={Number(id)} />}
      />
      {dialog}
    </>
  );
}

function OpenOrder({ id }: { id: number }) {
  const { data, error } = useOrder(id);
  return data ? <OrderSheetView order={data} /> : <Unanswered error={error} />;
}

interface ListProps extends Pages<typeof orderRoutes.orders, OrderRow> {
  onNew: () => void;
}

function List({ onNew, ...pages }: ListProps) {
  const format = useFormat();
  return (
    <Documents
      label="Orders"
      {...pages}
      groupOf={(order) => groupOf(order, format.settings.today)}
      none="No orders match."
      onNew={onNew}
    >
      {(order, group, search) => (
        <EntryLink to={{ pathname: `/orders/${order.id}`, search }}>
          <b>{order.customer.name}</b>
          {order.stage === "open" && (
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
      )}
    </Documents>
  );
}

const Quiet = styled.p`
  color: var(--ink2);
`;
