import { type ItemRow, SORTS } from "@yosegi/contract";
import { type ItemKind, isStocked } from "@yosegi/core";
import { FileUp, Plus } from "lucide-react";
import { type ReactNode, useMemo, useState } from "react";
import { useNavigate, useParams } from "react-router";
import styled from "styled-components";
import { Failure } from "../api/index.ts";
import {
  Button,
  Checkbox,
  type Column,
  DataTable,
  EmptyPage,
  type Format,
  Key,
  Named,
  Select,
  Short,
  SplitPage,
  SubNav,
  TextField,
  Unseen,
  useAsked,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { CompareView } from "./compareview.tsx";
import { NewItemDialog } from "./itemdialog.tsx";
import { ItemSheetView } from "./itemsheet.tsx";
import { KitEditor } from "./kiteditor.tsx";
import { ListEditorPage } from "./listeditor.tsx";
import { ListsView } from "./listsview.tsx";
import { WithPicture } from "./picture.tsx";
import { type ItemsQuery, useGroups, useItem, useItemPages } from "./queries.ts";
import { KIND_CHOICES, KIND_WORDS, LACK_WORDS } from "./words.ts";

const KINDS: { value: ItemKind | "all"; label: string }[] = [
  { value: "all", label: "All kinds" },
  ...KIND_CHOICES,
];

const STATES = [
  { value: "now", label: "In use" },
  { value: "all", label: "All" },
  { value: "archived", label: "Archived" },
] as const;

/** What of the catalog is in view, as the address says it. */
function useFilter() {
  const asked = useAsked();
  const kind = KINDS.find((k) => k.value === asked.get("kind"))?.value ?? "all";
  const state = STATES.find((s) => s.value === asked.get("state"))?.value ?? "now";
  const sort = SORTS.find((s) => s === asked.get("sort")) ?? "code";
  const query: ItemsQuery = {
    search: asked.get("search"),
    ...(kind !== "all" && { kind }),
    ...(state !== "now" && { state }),
    ...(asked.get("group") !== "" && { group: asked.get("group") }),
    ...(asked.get("lacking") === "yes" && { lacking: true }),
    sort,
    ...(asked.get("descending") === "yes" && { descending: true }),
  };
  const narrowed = asked.text !== "";
  return { asked, kind, state, sort, query, narrowed };
}

/** The catalog: a list that is searched as one types, and the item that is open. */
export function CatalogPage({ view = "item" }: { view?: SheetView }) {
  const navigate = useNavigate();
  const { id } = useParams();
  const filter = useFilter();
  const [making, setMaking] = useState(false);
  const pages = useItemPages(filter.query);
  useShortcut("n", "New item", () => setMaking(true));
  const open = (item: Pick<ItemRow, "id">) =>
    navigate({ pathname: `/catalog/${item.id}`, search: filter.asked.text });
  const dialog = (
    <NewItemDialog
      code={making ? (filter.query.search ?? "") : null}
      onClose={() => setMaking(false)}
      onMade={(item) => void open(item)}
    />
  );
  if (pages.error) return <Failure error={pages.error} />;
  if (!pages.data) return null;
  const total = pages.data.pages[0]?.total ?? 0;
  if (total === 0 && !filter.narrowed)
    return <EmptyCatalog onMake={() => setMaking(true)}>{dialog}</EmptyCatalog>;
  // What is written in a grid needs the width; the catalog is one press away.
  if (id !== undefined && view !== "item")
    return <SplitPage list={null} sheet={<OpenItem key={id} id={Number(id)} view={view} />} />;
  return (
    <>
      {id === undefined && <CatalogNav />}
      <SplitPage
        listWidth="372px"
        list={
          <List>
            {id === undefined && <Unseen as="h1">Catalog</Unseen>}
            <Filters filter={filter} wide={id === undefined} onNew={() => setMaking(true)} />
            <ItemsTable
              items={pages.data.pages.flatMap((page) => page.items)}
              total={total}
              filter={filter}
              open={id === undefined ? null : Number(id)}
              onOpen={(item) => void open(item)}
              onEnd={() => {
                if (pages.hasNextPage && !pages.isFetchingNextPage) void pages.fetchNextPage();
              }}
            />
          </List>
        }
        sheet={id === undefined ? null : <OpenItem key={id} id={Number(id)} view={view} />}
      />
      {dialog}
    </>
  );
}

/** The pages of the catalog, side by side. */
export function CatalogNav() {
  return (
    <SubNav
      label="Catalog"
      pages={[
        { to: "/catalog", name: "Items" },
        { to: "/prices", name: "Prices" },
        { to: "/replace", name: "Replace a part" },
        { to: "/suppliers", name: "Suppliers" },
        { to: "/customers", name: "Customers" },
        { to: "/import", name: "Spreadsheets" },
      ]}
    />
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
              <FileUp /> Bring in a spreadsheet
            </Button>
            <Button onPress={onMake}>
              <Plus /> Make the first item
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

interface FiltersProps {
  filter: ReturnType<typeof useFilter>;
  wide: boolean;
  onNew: () => void;
}

function Filters({ filter, wide, onNew }: FiltersProps) {
  const { asked, kind, state } = filter;
  const groups = useGroups().data?.groups ?? [];
  return (
    <Bar>
      <TextField
        label="Search"
        hideLabel
        placeholder="Search code, name or barcode"
        value={asked.get("search")}
        onChange={(text) => asked.set("search", text)}
      />
      <Select
        label="Kind"
        hideLabel
        width="140px"
        value={kind}
        options={KINDS}
        onChange={(next) => asked.set("kind", next === "all" ? "" : next)}
      />
      {(wide || asked.get("group") !== "") && groups.length > 0 && (
        <Select
          label="Group"
          hideLabel
          width="150px"
          value={asked.get("group") === "" ? ALL : asked.get("group")}
          options={[
            { value: ALL, label: "All groups" },
            ...groups.map((g) => ({ value: g.name, label: g.name })),
          ]}
          onChange={(next) => asked.set("group", next === ALL ? "" : next)}
        />
      )}
      {wide && (
        <>
          <Select
            label="State"
            hideLabel
            width="112px"
            value={state}
            options={STATES}
            onChange={(next) => asked.set("state", next === "now" ? "" : next)}
          />
          <Checkbox
            isSelected={asked.get("lacking") === "yes"}
            onChange={(on) => asked.set("lacking", on ? "yes" : "")}
          >
            Something missing
          </Checkbox>
        </>
      )}
      <Button onPress={onNew}>
        New <Key>n</Key>
      </Button>
    </Bar>
  );
}

const ALL = "–";

export type SheetView = "item" | "list" | "lists" | "kit" | "compare";

function OpenItem({ id, view }: { id: number; view: SheetView }): ReactNode {
  const { data, error } = useItem(id);
  if (error) return <Failure error={error} />;
  if (!data) return null;
  switch (view) {
    case "list":
      return <ListEditorPage item={data} />;
    case "lists":
      return <ListsView item={data} />;
    case "compare":
      return <CompareView item={data} />;
    case "kit":
      return <KitEditor item={data} />;
    case "item":
      return <ItemSheetView item={data} />;
  }
}

interface ItemsTableProps {
  items: ItemRow[];
  total: number;
  filter: ReturnType<typeof useFilter>;
  open: number | null;
  onOpen: (item: ItemRow) => void;
  onEnd: () => void;
}

function ItemsTable({ items, total, filter, open, onOpen, onEnd }: ItemsTableProps) {
  const format = useFormat();
  const columns = useMemo(
    () => (open === null ? wideColumns(format, total) : narrowColumns(format)),
    [open, format, total],
  );
  const { asked, sort, query } = filter;
  return (
    <DataTable
      label="Items"
      rows={items}
      columns={columns}
      rowId={(item) => item.id}
      onOpen={onOpen}
      isCurrent={(item) => item.id === open}
      empty="Nothing has this in its code or name."
      onEnd={onEnd}
      sorted={{
        by: sort,
        descending: query.descending ?? false,
        columns: SORTS,
        onSort: (column) => {
          // A second press turns the order round; the address takes both at once.
          const again = column === sort && !query.descending;
          asked.setAll({ sort: column === "code" ? "" : column, descending: again ? "yes" : "" });
        },
      }}
    />
  );
}

function freeCell(item: ItemRow, format: Format): ReactNode {
  if (item.kind === "service" || item.notCounted) return "–";
  const figure =
    item.kind === "kit"
      ? format.count(Number(item.free), "set", "sets")
      : `${format.quantity(item.free, item.decimals)} ${item.unit}`;
  return item.free.startsWith("-") ? <Short>{figure}</Short> : <b>{figure}</b>;
}

function narrowColumns(format: Format): Column<ItemRow>[] {
  return [
    {
      id: "code",
      header: "Item",
      cell: (i) => (
        <WithPicture item={i}>
          <Named name={i.name} more={[i.code]} />
        </WithPicture>
      ),
    },
    {
      id: "free",
      header: "Free",
      end: true,
      cell: (i) => freeCell(i, format),
    },
  ];
}

function wideColumns(format: Format, count: number): Column<ItemRow>[] {
  const money = (text: string | null, show: (text: string) => string) => (text === null ? "–" : show(text));
  const stocked = (item: ItemRow, figure: string) => (isStocked(item) ? figure : "–");
  return [
    {
      id: "code",
      header: "Code",
      cell: (i) => i.code,
      total: format.count(count, "item", "items"),
    },
    { id: "name", header: "Name", cell: (i) => <WithPicture item={i}>{i.name}</WithPicture> },
    {
      id: "kind",
      header: "Kind",
      cell: (i) => (
        <>
          {KIND_WORDS[i.kind]}
          {i.state !== "active" && <small>{i.state}</small>}
        </>
      ),
    },
    {
      id: "free",
      header: "Free",
      end: true,
      cell: (i) => freeCell(i, format),
    },
    {
      id: "onHand",
      header: "On hand",
      end: true,
      cell: (i) => stocked(i, `${format.quantity(i.onHand, i.decimals)} ${i.unit}`),
    },
    {
      id: "unitCost",
      header: "Unit cost",
      end: true,
      cell: (i) => (i.unitCost === null ? "–" : format.unitCost(i.unitCost)),
    },
    {
      id: "price",
      header: "Price",
      end: true,
      cell: (i) => money(i.price, (t) => format.money(t)),
    },
    {
      id: "lacks",
      header: "Missing",
      cell: (i) => i.lacks.length > 0 && <Short>{format.list(i.lacks.map((l) => LACK_WORDS[l]))}</Short>,
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
