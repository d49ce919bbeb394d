import type { buyingRoutes, PurchaseRow } from "@yosegi/contract";
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
  SubNav,
  TileStrip,
  useAddress,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { PurchaseDialog } from "./purchaseform.tsx";
import { PurchaseSheetView } from "./purchasesheet.tsx";
import { usePurchase, usePurchases } from "./queries.ts";
import { groupOf } from "./words.ts";

/** The pages of buying, side by side. */
export function BuyingNav() {
  return (
    <SubNav
      label="Buying"
      pages={[
        { to: "/buying", name: "Purchase orders" },
        { to: "/reorder", name: "Reorder" },
        { to: "/outbox", name: "Outbox" },
      ]}
    />
  );
}

/** Purchase orders, what is late first, and the one that is open. */
export function BuyingPage() {
  const { id } = useParams();
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const search = useAddress().get("search");
  const { data, error } = usePurchases(search);
  useShortcut("n", "New purchase order", () => setMaking(true));
  if (!data) return <Unanswered error={error} />;
  const dialog = (
    <PurchaseDialog
      purchase={null}
      isOpen={making}
      onClose={() => setMaking(false)}
      onSaved={(made) => void navigate(`/buying/${made}`)}
    />
  );
  if (data.total === 0 && search === "")
    return (
      <>
        <BuyingNav />
        <EmptyPage
          title="No purchase orders yet"
          action={
            <Button look="main" onPress={() => setMaking(true)}>
              <Plus /> Create your first purchase order
            </Button>
          }
        >
          Create orders from a check, from Reorder, or here.
        </EmptyPage>
        {dialog}
      </>
    );
  return (
    <>
      <BuyingNav />
      <SplitPage
        list={<List {...data} onNew={() => setMaking(true)} />}
        sheet={id === undefined ? <Choose /> : <OpenPurchase key={id} id={Number(id)} />}
      />
      {dialog}
    </>
  );
}

function Choose() {
  return <Quiet>Select a purchase order.</Quiet>;
}

function OpenPurchase({ id }: { id: number }) {
  const { data, error } = usePurchase(id);
  return data ? <PurchaseSheetView purchase={data} /> : <Unanswered error={error} />;
}

interface ListProps extends Pages<typeof buyingRoutes.purchases, PurchaseRow> {
  onNew: () => void;
}

function List({ onNew, ...pages }: ListProps) {
  const format = useFormat();
  return (
    <Documents
      label="Purchase orders"
      {...pages}
      groupOf={(p) => groupOf(p, format.settings.today)}
      none="No purchase orders match."
      onNew={onNew}
    >
      {(p, _, search) => (
        <EntryLink to={{ pathname: `/buying/${p.id}`, search }}>
          <b>{p.supplier.name}</b>
          {(p.stage === "sent" || p.stage === "part received") && (
            <TileStrip
              small
              most={10}
              wanted={String(p.lines)}
              there={String(p.linesDone)}
              rest="open"
              says={`${p.linesDone} of ${format.count(p.lines, "line", "lines")} received`}
            />
          )}
          <span>
            {[
              p.number,
              p.stage,
              format.money(p.total),
              p.expected && p.stage !== "draft" && format.day(p.expected),
            ]
              .filter(Boolean)
              .join(" · ")}
          </span>
        </EntryLink>
      )}
    </Documents>
  );
}

const Quiet = styled.p`
  color: var(--ink2);
`;
