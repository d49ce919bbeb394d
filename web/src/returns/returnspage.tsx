import type { ReturnRow } from "@yosegi/contract";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { OrdersNav } from "../nav/index.ts";
import {
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { NewReturn } from "./newreturn.tsx";
import { useReturn, useReturns } from "./queries.ts";
import { ReturnView } from "./returnview.tsx";
import { returnGroup } from "./words.ts";

/** What customers sent back, what is still to be inspected first, and the return that is open. */
export function ReturnsPage() {
  const search = useAddress().get("search");
  const navigate = useNavigate();
  const [isNew, setNew] = useState(false);
  const { data, error } = useReturns(search);
  useShortcut("n", "Return without a shipment", () => setNew(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Returns"
      path="/returns"
      nav={<OrdersNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage
          title="No returns yet"
          action={<Button onPress={() => setNew(true)}>Return without a shipment</Button>}
        >
          Open the shipment that goods come back from and press Return: the credit follows from what was paid.
        </EmptyPage>
      }
      choose="Select a return."
      groupOf={returnGroup}
      none="No returns match."
      onNew={() => setNew(true)}
      entry={(one, _, kept) => <ReturnEntry one={one} search={kept} />}
      sheet={(id) => <OpenReturn id={id} />}
    >
      {isNew && (
        <NewReturn onClose={() => setNew(false)} onDone={({ id }) => void navigate(`/returns/${id}`)} />
      )}
    </DocumentPage>
  );
}

function OpenReturn({ id }: { id: number }) {
  const { data, error } = useReturn(id);
  return data ? <ReturnView one={data} /> : <Unanswered error={error} shape="sheet" />;
}

function ReturnEntry({ one, search }: { one: ReturnRow; search: string }) {
  const format = useFormat();
  const { id, number, customer, day, lines, shipment, reason } = one;
  return (
    <EntryLink to={{ pathname: `/returns/${id}`, search }}>
      <b>{customer.name}</b>
      <span>
        {[number, shipment?.number, format.day(day), format.count(lines, "line", "lines"), reason]
          .filter(Boolean)
          .join(" · ")}
      </span>
    </EntryLink>
  );
}
