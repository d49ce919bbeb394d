import type { SupplierReturnRow } from "@yosegi/contract";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { BuyingNav } from "../nav/index.ts";
import {
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { SupplierReturnDialog } from "./dialog.tsx";
import { useSupplierReturn, useSupplierReturns } from "./queries.ts";
import { SupplierReturnView } from "./view.tsx";

/** What went back to suppliers, the latest first, and the one that is open. */
export function SupplierReturnsPage() {
  const search = useAddress().get("search");
  const navigate = useNavigate();
  const [isNew, setNew] = useState(false);
  const { data, error } = useSupplierReturns(search);
  useShortcut("n", "Return to a supplier", () => setNew(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Returns to suppliers"
      path="/supplier-returns"
      nav={<BuyingNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage
          title="Nothing went back yet"
          action={<Button onPress={() => setNew(true)}>Return to a supplier</Button>}
        >
          Goods that are faulty or too many go back to their supplier: they leave stock at their value, and
          you see what you expect for them.
        </EmptyPage>
      }
      choose="Select a return."
      groupOf={({ undone }) => (undone ? "Undone" : "Sent back")}
      none="No returns match."
      onNew={() => setNew(true)}
      entry={(one, _, kept) => <Entry one={one} search={kept} />}
      sheet={(id) => <OpenSupplierReturn id={id} />}
    >
      {isNew && (
        <SupplierReturnDialog
          onClose={() => setNew(false)}
          onDone={({ id }) => void navigate(`/supplier-returns/${id}`)}
        />
      )}
    </DocumentPage>
  );
}

function OpenSupplierReturn({ id }: { id: number }) {
  const { data, error } = useSupplierReturn(id);
  return data ? <SupplierReturnView one={data} /> : <Unanswered error={error} shape="sheet" />;
}

function Entry({ one, search }: { one: SupplierReturnRow; search: string }) {
  const format = useFormat();
  const { id, number, supplier, day, lines, reason } = one;
  return (
    <EntryLink to={{ pathname: `/supplier-returns/${id}`, search }}>
      <b>{supplier.name}</b>
      <span>{[number, format.day(day), format.count(lines, "line", "lines"), reason].join(" · ")}</span>
    </EntryLink>
  );
}
