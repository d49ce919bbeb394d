import { type buyingRoutes, orderRoutes, type ReorderRow } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { type Pages, Unanswered, useCommand } from "../api/index.ts";
import { BuyingNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  type Column,
  DataTable,
  type Format,
  Named,
  Notice,
  Page,
  Select,
  Short,
  ShowMore,
  type SpreadsheetOf,
  Sub,
  sayDone,
  TextField,
  useAddress,
  useFormat,
  WebLink,
} from "../ui/index.ts";
import { useReorder } from "./queries.ts";
import { ACT_WORDS } from "./words.ts";

/** All items over all open demand: what has to be ordered or built, and by when. */
export function ReorderPage() {
  const address = useAddress();
  const search = address.get("search");
  const { data, error } = useReorder(search);
  return (
    <>
      <BuyingNav />
      <Page>
        {!data && <Unanswered error={error} shape="table" />}
        {data && (
          <Reorder
            {...data}
            looked={data.first.looked}
            dueToday={data.first.dueToday}
            search={search}
            onSearch={(text) => address.set("search", text)}
          />
        )}
      </Page>
    </>
  );
}

interface ReorderProps extends Pages<typeof buyingRoutes.reorder, ReorderRow> {
  looked: number;
  dueToday: number;
  search: string;
  onSearch: (text: string) => void;
}

/** Whether there is anything to accept: what is on drafts already is not offered again. */
const acts = (row: ReorderRow) => (row.act === "order" || row.act === "build") && decimal(row.quantity).gt(0);

function Reorder({ rows, total, old, onMore, looked, dueToday, search, onSearch }: ReorderProps) {
  const format = useFormat();
  const navigate = useNavigate();
  const [left, setLeft] = useState<ReadonlySet<number>>(new Set());
  const [suppliers, setSuppliers] = useState<ReadonlyMap<number, number>>(new Map());
  const chosen = rows.filter((row) => acts(row) && !left.has(row.id));
  const taking = useCommand(orderRoutes.acceptSuggestions);
  const supplierOf = (row: ReorderRow) => suppliers.get(row.id) ?? row.supplier?.id ?? null;
  const quantityOf = (row: ReorderRow) =>
    row.offers.find((o) => o.supplier.id === supplierOf(row))?.quantity ?? row.quantity;
  const accept = async () => {
    const bought = chosen
      .filter((row) => row.act === "order")
      .map((row) => ({
        item: row.id,
        supplier: supplierOf(row),
        quantity: quantityOf(row),
        price: null,
        pricePer: "",
        expected: null,
        costTag: "",
      }));
    const built = chosen
      .filter((row) => row.act === "build")
      .map((row) => ({ item: row.id, quantity: row.quantity, day: row.firstShort }));
    const done = await taking.run({ body: { buy: bought, build: built } });
    if (!done) return;
    sayDone(`Created ${format.list([...done.purchases, ...done.builds].map((d) => d.number))}.`);
    void navigate(done.purchases.length > 0 ? "/buying" : "/builds");
  };
  const { refusal } = taking;
  const columns = columnsOf(format, {
    supplierOf,
    quantityOf,
    onSupplier: (row, supplier) => setSuppliers(new Map([...suppliers, [row.id, supplier]])),
  });
  return (
    <>
      <h1>{headline(total, dueToday, search, format)}</h1>
      <Sub>
        Stock minus open builds and orders, plus deliveries, compared with the reorder level.{" "}
        {search === "" ? "" : `${format.count(looked, "item", "items")} in all.`}
      </Sub>
      <Bar>
        <TextField
          label="Search"
          hideLabel
          placeholder="Search code or name"
          width="280px"
          value={search}
          onChange={onSearch}
        />
      </Bar>
      {refusal && <Notice>{refusal.fields[0]?.message ?? refusal.message}</Notice>}
      <DataTable
        label="Reorder"
        rows={rows}
        old={old}
        columns={columns}
        rowId={(row) => row.id}
        selection={{
          chosen: new Set(chosen.map((row) => row.id)),
          onChange: (next) =>
            setLeft(new Set(rows.filter((row) => acts(row) && !next.has(row.id)).map((row) => row.id))),
          words: (row) => row.code,
          can: acts,
        }}
        isMarked={NOT_MARKED}
        spreadsheet={SPREADSHEET}
        empty="Nothing falls short and nothing is below its level."
      />
      <ShowMore listed={rows.length} total={total} onMore={onMore} />
      {chosen.length > 0 && (
        <Actions>
          <Button look="main" isPending={taking.busy} onPress={() => void accept()}>
            Accept {format.count(chosen.length, "suggestion", "suggestions")}
          </Button>
        </Actions>
      )}
    </>
  );
}

function headline(total: number, dueToday: number, search: string, format: Format): string {
  if (total === 0)
    return search === ""
      ? "Nothing needs ordering or building."
      : "Nothing matching needs ordering or building.";
  const words = format.count(total, "item needs", "items need");
  return dueToday === 0 ? `${words} action.` : `${words} action, ${dueToday} today or overdue.`;
}

/** Nearly all are selected from the start, so that is nothing to be marked. */
const NOT_MARKED = () => false;

const SPREADSHEET: SpreadsheetOf<ReorderRow> = {
  name: "reorder",
  columns: [
    { header: "Item", value: (row) => row.code },
    { header: "Name", value: (row) => row.name },
    { header: "Unit", value: (row) => row.unit },
    { header: "Free", value: (row) => row.free },
    { header: "On order", value: (row) => row.incoming },
    { header: "Projected", value: (row) => row.projected },
    { header: "Level", value: (row) => row.level ?? "" },
    { header: "Short from", value: (row) => row.firstShort ?? "" },
    { header: "What to do", value: (row) => ACT_WORDS[row.act] },
    { header: "Quantity", value: (row) => row.quantity },
    { header: "Supplier", value: (row) => row.supplier?.name ?? "" },
  ],
};

interface Choosing {
  supplierOf: (row: ReorderRow) => number | null;
  quantityOf: (row: ReorderRow) => string;
  onSupplier: (row: ReorderRow, supplier: number) => void;
}

function columnsOf(format: Format, choosing: Choosing): Column<ReorderRow>[] {
  const { today } = format.settings;
  const amount = (text: string, row: ReorderRow) => `${format.quantity(text, row.decimals)} ${row.unit}`;
  const by = (of: (row: ReorderRow) => string) => (a: ReorderRow, b: ReorderRow) =>
    decimal(of(a)).cmp(decimal(of(b)));
  return [
    {
      id: "item",
      header: "Item",
      compare: (a, b) => a.name.localeCompare(b.name),
      cell: (row) => <Named name={row.name} to={`/catalog/${row.id}`} more={[row.code]} />,
    },
    {
      id: "free",
      header: "Free",
      end: true,
      compare: by((row) => row.free),
      cell: (row) =>
        row.free.startsWith("-") ? <Short>{amount(row.free, row)}</Short> : amount(row.free, row),
    },
    {
      id: "incoming",
      header: "On order",
      end: true,
      compare: by((row) => row.incoming),
      cell: (row) => (row.incoming === "0" ? "–" : amount(row.incoming, row)),
    },
    {
      id: "projected",
      header: "Projected",
      end: true,
      compare: by((row) => row.projected),
      cell: (row) => <b>{amount(row.projected, row)}</b>,
    },
    {
      id: "level",
      header: "Level",
      end: true,
      cell: (row) => (row.level === null ? "–" : amount(row.level, row)),
    },
    {
      id: "short",
      header: "Short from",
      end: true,
      compare: (a, b) => (a.firstShort ?? "9999").localeCompare(b.firstShort ?? "9999"),
      cell: (row) => (row.firstShort === null ? "–" : <Short>{format.day(row.firstShort)}</Short>),
    },
    {
      id: "act",
      header: "What to do",
      cell: (row) => (
        <>
          {row.act === "order" || row.act === "build" ? (
            <b>
              {decimal(choosing.quantityOf(row)).gt(0)
                ? `${ACT_WORDS[row.act]} ${amount(choosing.quantityOf(row), row)}`
                : "nothing more"}
            </b>
          ) : (
            <Short>{ACT_WORDS[row.act]}</Short>
          )}
          {row.onDrafts.map((draft) => (
            <small key={draft.document}>
              {amount(draft.quantity, row)} on draft {draft.document}
            </small>
          ))}
          {row.by && (
            <small>
              by{" "}
              {row.by <= today ? (
                <Short>{row.by < today ? `${format.day(row.by)}, late` : "today"}</Short>
              ) : (
                format.day(row.by)
              )}
            </small>
          )}
        </>
      ),
    },
    {
      id: "supplier",
      header: "Supplier",
      cell: (row) => <From row={row} choosing={choosing} format={format} />,
    },
  ];
}

/** Where several supply it, price and day of each stand side by side. */
function From({ row, choosing, format }: { row: ReorderRow; choosing: Choosing; format: Format }) {
  if (row.act !== "order") return "–";
  const termsOf = (o: ReorderRow["offers"][number]) =>
    [o.cost === null ? "no price" : format.money(o.cost), o.arrives && `arrives ${format.day(o.arrives)}`]
      .filter(Boolean)
      .join(", ");
  const [only, ...others] = row.offers;
  if (others.length === 0)
    return (
      only && (
        <>
          {only.supplier.name}
          <small>{termsOf(only)}</small>
          <WebLink address={only.web} item={row.code} />
        </>
      )
    );
  const chosen = row.offers.find((o) => o.supplier.id === choosing.supplierOf(row));
  return (
    <>
      <Select
        label={`Supplier of ${row.code}`}
        hideLabel
        width="330px"
        value={String(choosing.supplierOf(row) ?? "")}
        options={row.offers.map((o) => ({
          value: String(o.supplier.id),
          label: `${o.supplier.name}: ${termsOf(o)}`,
        }))}
        onChange={(supplier) => choosing.onSupplier(row, Number(supplier))}
      />
      <WebLink address={chosen?.web ?? ""} item={row.code} />
    </>
  );
}

const Bar = styled.div`
  margin-bottom: 10px;
`;
