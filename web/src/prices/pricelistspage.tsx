import { type PriceListSheet, priceRoutes } from "@yosegi/contract";
import { Pencil, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Unanswered, usePress } from "../api/index.ts";
import { CatalogNav } from "../nav/index.ts";
import {
  AskButton,
  Button,
  DocumentPage,
  EmptyPage,
  EntryLink,
  Named,
  Section,
  SheetTable,
  Sub,
  sayDone,
  useAddress,
  useFormat,
  useShortcut,
  useTitle,
} from "../ui/index.ts";
import { EditPriceListDialog, NewPriceListDialog } from "./pricelistform.tsx";
import { usePriceList, usePriceLists } from "./queries.ts";
import { ownerWords } from "./words.ts";

/** What customers, or groups of customers, pay from which quantity on. */
export function PriceListsPage() {
  const format = useFormat();
  const navigate = useNavigate();
  const [making, setMaking] = useState(false);
  const search = useAddress().get("search");
  const { data, error } = usePriceLists(search);
  useShortcut("n", "New price list", () => setMaking(true));
  if (!data) return <Unanswered error={error} shape="list" />;
  return (
    <DocumentPage
      label="Price lists"
      path="/price-lists"
      nav={<CatalogNav />}
      pages={data}
      narrowed={search !== ""}
      empty={
        <EmptyPage
          title="No price lists yet"
          action={
            <Button look="main" onPress={() => setMaking(true)}>
              <Plus /> Create your first price list
            </Button>
          }
        >
          A customer, or a group of customers, can have prices of their own, with steps by quantity. Orders
          take them by themselves. <Link to="/import">Price lists can also be imported.</Link>
        </EmptyPage>
      }
      choose="Select a price list."
      groupOf={(list) => (list.customer ? "Customers" : "Groups of customers")}
      none="No price lists match."
      onNew={() => setMaking(true)}
      entry={(list, _, kept) => (
        <EntryLink to={{ pathname: `/price-lists/${list.id}`, search: kept }}>
          <b>{ownerWords(list)}</b>
          <span>{format.count(list.prices, "price", "prices")}</span>
        </EntryLink>
      )}
      sheet={(id) => <OpenPriceList id={id} />}
    >
      <NewPriceListDialog
        isOpen={making}
        onClose={() => setMaking(false)}
        onMade={(id) => void navigate(`/price-lists/${id}`)}
      />
    </DocumentPage>
  );
}

function OpenPriceList({ id }: { id: number }) {
  const { data, error } = usePriceList(id);
  return data ? <PriceListView list={data} /> : <Unanswered error={error} shape="sheet" />;
}

function PriceListView({ list }: { list: PriceListSheet }) {
  const who = ownerWords(list);
  useTitle(`Price list for ${who}`);
  const format = useFormat();
  const navigate = useNavigate();
  const [editing, setEditing] = useState(false);
  const remove = usePress(priceRoutes.removePriceList, () => {
    sayDone(`Price list for ${who} removed.`);
    void navigate("/price-lists");
  });
  useShortcut("e", "Edit what is open", () => setEditing(true));
  return (
    <article>
      <h1>{who}</h1>
      <Sub>
        {list.customer ? (
          <Link to={`/customers/${list.customer.id}`}>{list.customer.code}</Link>
        ) : (
          "Group of customers"
        )}{" "}
        · net prices in {format.settings.currency}
      </Sub>
      <Button onPress={() => setEditing(true)}>
        <Pencil /> Change
      </Button>{" "}
      <AskButton
        isPending={remove.busy}
        question={{
          title: `Remove the price list for ${who}?`,
          text: "Orders keep the prices that they have.",
          yes: "Remove",
        }}
        onYes={() => void remove.run({ params: { id: list.id } })}
      >
        <Trash2 /> Remove
      </AskButton>
      <Section title="Prices">
        <SheetTable
          label="Prices"
          rows={list.steps}
          rowId={(step) => `${step.item.id} ${step.from}`}
          columns={[
            {
              header: "Item",
              cell: ({ item }) => <Named name={item.name} to={`/catalog/${item.id}`} more={[item.code]} />,
            },
            {
              header: "From",
              end: true,
              cell: ({ from, item }) => (from === "0" ? "any quantity" : format.amount(from, item.unit)),
            },
            { header: "Price", end: true, cell: ({ price, pricePer }) => format.unitCost(price, pricePer) },
          ]}
        />
      </Section>
      <EditPriceListDialog list={list} isOpen={editing} onClose={() => setEditing(false)} />
    </article>
  );
}
