import type { PurchaseRow } from "@yosegi/contract";
import { Plus } from "lucide-react";
import { useState } from "react";
import { useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { BuyingNav } from "../nav/index.ts";
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
import { PurchaseDialog } from "./purchaseform.tsx";
import { PurchaseSheetView } from "./purchasesheet.tsx";
import { usePurchase, usePurchases } from "./queries.ts";
import { groupOf } from "./words.ts";

/** Purchase orders, what is late first, and the one that is open. */
export function BuyingPage() {
  const navigate = useNavigate();
  const format = useFormat();
  const [making, setMaking] = useState(false);
  const search = useAddress().get("search");
  const { data, error } = usePurchases(search);
  useShortcut("n", "New purchase order", () => setMaking(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Purchase orders"
      path="/buying"
      nav={<BuyingNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
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
      }
      choose="Select a purchase order."
      groupOf={(purchase) => groupOf(purchase, format.settings.today)}
      none="No purchase orders match."
      onNew={() => setMaking(true)}
      entry={(purchase, _, kept) => <PurchaseEntry purchase={purchase} search={kept} />}
      sheet={(id) => <OpenPurchase id={id} />}
    >
      <PurchaseDialog
        purchase={null}
        isOpen={making}
        onClose={() => setMaking(false)}
        onSaved={(made) => void navigate(`/buying/${made}`)}
      />
    </DocumentPage>
  );
}

function OpenPurchase({ id }: { id: number }) {
  const { data, error } = usePurchase(id);
  return data ? <PurchaseSheetView purchase={data} /> : <Unanswered error={error} shape="sheet" />;
}

function PurchaseEntry({ purchase, search }: { purchase: PurchaseRow; search: string }) {
  const format = useFormat();
  const { stage, expected } = purchase;
  return (
    <EntryLink to={{ pathname: `/buying/${purchase.id}`, search }}>
      <b>{purchase.supplier.name}</b>
      {(stage === "sent" || stage === "part received") && (
        <TileStrip
          small
          most={10}
          wanted={String(purchase.lines)}
          there={String(purchase.linesDone)}
          rest="open"
          says={`${purchase.linesDone} of ${format.count(purchase.lines, "line", "lines")} received`}
        />
      )}
      <span>
        {[
          purchase.number,
          stage,
          format.money(purchase.total),
          expected && stage !== "draft" && format.day(expected),
        ]
          .filter(Boolean)
          .join(" · ")}
      </span>
    </EntryLink>
  );
}
