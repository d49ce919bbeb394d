import type { ItemRow } from "@yosegi/contract";
import { decimal, type ItemKind } from "@yosegi/core";
import { FileUp, Plus } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Failure } from "../api/index.ts";
import {
  Button,
  type Column,
  DataTable,
  EmptyPage,
  type Format,
  Key,
  Select,
  Short,
  SplitPage,
  TextField,
  Unseen,
  useAsked,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { NewItemDialog } from "./itemdialog.tsx";
import { ItemSheetView } from "./itemsheet.tsx";
import { ListEditor } from "./listeditor.tsx";
import { useItem, useItems } from "./queries.ts";
import { KIND_CHOICES, KIND_WORDS } from "./words.ts";

const KINDS: { value: ItemKind | "all"; label: string }[] = [
  { value: "all", label: "All kinds" },
  ...KIND_CHOICES,
];

/** The catalog: a list that is searched as one types, and the item that is open. */
export function CatalogPage({ view = "item" }: { view?: "item" | "list" }) {
  const navigate = useNavigate();
  const { id } = useParams();
  const asked = useAsked();
  const search = asked.get("search");
  const kind = KINDS.find((k) => k.value === asked.get("kind"))?.value ?? "all";
  const [making, setMaking] = useState(false);
  const { data, error } = useItems({ search, ...(kind !== "all" && { kind }) });
  useShortcut("n", "New item", () => setMaking(true));
  const open = (item: Pick<ItemRow, "id">) =>
    navigate({ pathname: `/catalog/${item.id}`, search: asked.text });
  const dialog = (
    <NewItemDialog
      code={making ? search : null}
      onClose={() => setMaking(false)}
      onMade={(item) => void open(item)}
    />
  );
  if (error) return <Failure error={error} />;
  if (!data) return null;
  if (data.total === 0 && search === "" && kind === "all")
    return (
      <>
        <EmptyPage
          title="What you buy, build and sell"
          action={
            <Buttons>
              <Button look="main" onPress={() => void navigate("/import")}>
                <FileUp /> Bring in a spreadsheet
              </Button>
              <Button onPress={() => setMaking(true)}>
                <Plus /> Make the first item
              </Button>
            </Buttons>
          }
        >
          The catalog has every part, every product and every kind of work, each with its unit. Bring them in
          from a spreadsheet as CSV, or make the first one by hand.
        </EmptyPage>
        {dialog}
      </>
    );
  // Writing a list needs the width; the catalog is one press away.
  if (id !== undefined && view === "list")
    return <SplitPage list={null} sheet={<OpenItem id={Number(id)} view={view} />} />;
  return (
    <>
      <SplitPage
        listWidth="372px"
        list={
          <List>
            {id === undefined && <Unseen as="h1">Catalog</Unseen>}
            <Bar>
              <TextField
                label="Search"
                hideLabel
                placeholder="Search code or name"
                value={search}
                onChange={(text) => asked.set("search", text)}
              />
              <Select
                label="Kind"
                hideLabel
                width="128px"
                value={kind}
                options={KINDS}
                onChange={(next) => asked.set("kind", next === "all" ? "" : next)}
              />
              <Button onPress={() => setMaking(true)}>
                New <Key>n</Key>
              </Button>
              {id === undefined && (
                <Button onPress={() => void navigate("/import")}>
                  <FileUp /> Import
                </Button>
              )}
            </Bar>
            <ItemsTable
              items={data.items}
              open={id === undefined ? null : Number(id)}
              onOpen={(item) => void open(item)}
            />
          </List>
        }
        sheet={id === undefined ? null : <OpenItem key={id} id={Number(id)} view={view} />}
      />
      {dialog}
    </>
  );
}

function OpenItem({ id, view }: { id: number; view: "item" | "list" }): ReactNode {
  const { data, error } = useItem(id);
  if (error) return <Failure error={error} />;
  if (!data) return null;
  return view === "list" ? <ListEditor item={data} /> : <ItemSheetView item={data} />;
}

function ItemsTable({
  items,
  open,
  onOpen,
}: {
  items: ItemRow[];
  open: number | null;
  onOpen: (item: ItemRow) => void;
}) {
  const format = useFormat();
  const columns = useMemo(
    () => (open === null ? wideColumns(format, items.length) : narrowColumns(format)),
    [open, format, items.length],
  );
  return (
    <DataTable
      label="Items"
      rows={items}
      columns={columns}
      rowId={(item) => item.id}
      onOpen={onOpen}
      isCurrent={(item) => item.id === open}
      empty="Nothing has this in its code or name."
    />
  );
}

const byText = (of: (item: ItemRow) => string) => (a: ItemRow, b: ItemRow) => of(a).localeCompare(of(b));
/** What is not known stands first, where it asks to be filled in. */
const byFigure = (of: (item: ItemRow) => string | null) => (a: ItemRow, b: ItemRow) => {
  const [x, y] = [of(a), of(b)];
  if (x === null || y === null) return Number(x !== null) - Number(y !== null);
  return decimal(x).cmp(decimal(y));
};

function freeCell(item: ItemRow, format: Format): ReactNode {
  if (item.kind === "service") return "–";
  const figure = `${format.quantity(item.free, item.decimals)} ${item.unit}`;
  return item.free.startsWith("-") ? <Short>{figure}</Short> : <b>{figure}</b>;
}

function narrowColumns(format: Format): Column<ItemRow>[] {
  return [
    {
      id: "item",
      header: "Item",
      compare: byText((i) => i.name),
      cell: (i) => (
        <>
          {i.name}
          <small>{i.code}</small>
        </>
      ),
    },
    {
      id: "free",
      header: "Free",
      end: true,
      compare: byFigure((i) => i.free),
      cell: (i) => freeCell(i, format),
    },
  ];
}

function wideColumns(format: Format, count: number): Column<ItemRow>[] {
  const money = (text: string | null, show: (text: string) => string) => (text === null ? "–" : show(text));
  const stocked = (item: ItemRow, figure: string) => (item.kind === "service" ? "–" : figure);
  return [
    {
      id: "code",
      header: "Code",
      compare: byText((i) => i.code),
      cell: (i) => i.code,
      total: format.count(count, "item", "items"),
    },
    { id: "name", header: "Name", compare: byText((i) => i.name), cell: (i) => i.name },
    {
      id: "kind",
      header: "Kind",
      compare: byText((i) => i.kind),
      cell: (i) => (
        <>
          {KIND_WORDS[i.kind]}
          {i.kind === "built" && !i.hasList && <small>no parts list yet</small>}
        </>
      ),
    },
    {
      id: "free",
      header: "Free",
      end: true,
      compare: byFigure((i) => i.free),
      cell: (i) => freeCell(i, format),
    },
    {
      id: "onHand",
      header: "On hand",
      end: true,
      compare: byFigure((i) => i.onHand),
      cell: (i) => stocked(i, `${format.quantity(i.onHand, i.decimals)} ${i.unit}`),
    },
    {
      id: "unitCost",
      header: "Unit cost",
      end: true,
      compare: byFigure((i) => i.unitCost),
      cell: (i) => (i.unitCost === null ? <Short>none yet</Short> : format.unitCost(i.unitCost)),
    },
    {
      id: "price",
      header: "Price",
      end: true,
      compare: byFigure((i) => i.price),
      cell: (i) => money(i.price, (t) => format.money(t)),
    },
  ];
}

const List = styled.div`
  display: flex;
  flex-direction: column;
  gap: 12px;
  padding: 14px 16px 16px;
  min-height: 0;
  flex: 1;
`;
const Bar = styled.div`
  display: flex;
  flex-wrap: wrap;
  gap: 8px;
  > :first-child {
    flex: 1 1 240px;
    max-width: 420px;
  }
`;
const Buttons = styled.div`
  display: flex;
  gap: 10px;
`;
