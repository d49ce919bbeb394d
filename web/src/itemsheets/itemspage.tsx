import type { ItemRow } from "@yosegi/contract";
import { FileUp, Plus } from "lucide-react";
import { type ReactNode, useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Unanswered } from "../api/index.ts";
import { NewItemDialog } from "../items/index.ts";
import { CatalogNav } from "../nav/index.ts";
import { Button, EmptyPage, SplitPage, Unseen, useShortcut } from "../ui/index.ts";
import { Filters, useFilter } from "./itemfilters.tsx";
import { ItemsTable } from "./itemstable.tsx";
import { OpenItem, type SheetView } from "./openitem.tsx";
import { useItemPages } from "./queries.ts";
import { SelectedItems } from "./selecteditems.tsx";

/** How the views of an item are called in its address. */
const VIEWS: Record<string, SheetView> = {
  "parts-list": "list",
  lists: "lists",
  compare: "compare",
  kit: "kit",
};

/** The catalog: a list that is searched as one types, and the item that is open. */
export function CatalogPage() {
  const navigate = useNavigate();
  const { id, view: named = "" } = useParams();
  const view = VIEWS[named] ?? "item";
  const filter = useFilter();
  const [making, setMaking] = useState(false);
  const [chosen, setChosen] = useState<ReadonlySet<string | number>>(new Set());
  const { data, error } = useItemPages(filter.query);
  useShortcut("n", "New item", () => setMaking(true));
  const open = (item: Pick<ItemRow, "id">) =>
    navigate({ pathname: `/catalog/${item.id}`, search: filter.address.text });
  const dialog = (
    <NewItemDialog
      code={making ? (filter.query.search ?? "") : null}
      onClose={() => setMaking(false)}
      onMade={(item) => void open(item)}
    />
  );
  if (!data) return <Unanswered error={error} shape="table" />;
  const { total } = data;
  if (total === 0 && !filter.narrowed)
    return <EmptyCatalog onMake={() => setMaking(true)}>{dialog}</EmptyCatalog>;
  // What is written in a grid needs the width; the catalog is one press away.
  if (id !== undefined && view !== "item")
    return (
      <SplitPage
        list={null}
        back={{ to: `/catalog/${id}`, name: "The item" }}
        sheet={<OpenItem key={id} id={Number(id)} view={view} />}
      />
    );
  return (
    <>
      <CatalogNav />
      <SplitPage
        listWidth="372px"
        back={id === undefined ? null : { to: "/catalog", name: "Catalog" }}
        list={
          <List>
            {id === undefined && <Unseen as="h1">Catalog</Unseen>}
            <Filters filter={filter} wide={id === undefined} onNew={() => setMaking(true)} />
            {id === undefined && (
              <SelectedItems
                chosen={data.rows.filter((item) => chosen.has(item.id)).map((item) => item.id)}
                archived={filter.state !== "now"}
                onDone={(refused) => setChosen(new Set(refused))}
              />
            )}
            <ItemsTable
              chosen={chosen}
              onChoose={setChosen}
              items={data.rows}
              old={data.old}
              total={total}
              filter={filter}
              open={id === undefined ? null : Number(id)}
              onEnd={() => data.onMore?.()}
            />
          </List>
        }
        sheet={id === undefined ? null : <OpenItem key={id} id={Number(id)} view={view} />}
      />
      {dialog}
    </>
  );
}

function EmptyCatalog({ onMake, children }: { onMake: () => void; children: ReactNode }) {
  const navigate = useNavigate();
  return (
    <>
      <CatalogNav />
      <EmptyPage
        title="What you buy, build and sell"
        action={
          <Buttons>
            <Button look="main" onPress={() => void navigate("/import")}>
              <FileUp /> Import a spreadsheet
            </Button>
            <Button onPress={onMake}>
              <Plus /> Add your first item
            </Button>
          </Buttons>
        }
      >
        The catalog has every part, every product, every set and every kind of work, each with its unit. Bring
        them in from a spreadsheet, or make the first one by hand.
      </EmptyPage>
      {children}
    </>
  );
}

const List = styled.div`
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 14px 16px 16px;
  min-height: 0;
  flex: 1;
`;

const Buttons = styled.div`
  display: flex;
  gap: 10px;
`;
