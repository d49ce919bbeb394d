import { type ItemRow, SORTS } from "@yosegi/contract";
import { isStocked } from "@yosegi/core";
import { type ReactNode, useMemo } from "react";
import { WithPicture } from "../files/index.ts";
import { KIND_WORDS, LACK_WORDS } from "../items/index.ts";
import {
  type Column,
  DataTable,
  type Format,
  Named,
  Short,
  type SpreadsheetOf,
  useFormat,
  useNarrow,
} from "../ui/index.ts";
import type { useFilter } from "./itemfilters.tsx";

interface ItemsTableProps {
  items: ItemRow[];
  /** They were asked for before. */
  old: boolean;
  total: number;
  filter: ReturnType<typeof useFilter>;
  open: number | null;
  onEnd: () => void;
  /** What is selected, to do something with all of it. */
  chosen: ReadonlySet<string | number>;
  onChoose: (chosen: ReadonlySet<string | number>) => void;
}

export function ItemsTable({ items, old, total, filter, open, onEnd, chosen, onChoose }: ItemsTableProps) {
  const format = useFormat();
  const narrow = useNarrow() || open !== null;
  const columns = useMemo(
    () => (narrow ? narrowColumns(format) : wideColumns(format, total)),
    [narrow, format, total],
  );
  const { address, sort, query } = filter;
  return (
    <DataTable
      label="Items"
      rows={items}
      old={old}
      columns={columns}
      {...(!narrow && {
        columnsKeptAs: "items",
        spreadsheet: SPREADSHEET,
        selection: { chosen, onChange: onChoose, words: (item: ItemRow) => item.code },
      })}
      rowId={(item) => item.id}
      linkTo={(item) => ({ pathname: `/catalog/${item.id}`, search: address.text })}
      isCurrent={(item) => item.id === open}
      empty="No items match."
      onEnd={onEnd}
      sorted={{
        by: sort,
        descending: query.descending ?? false,
        columns: SORTS,
        // The address takes both at once.
        onSort: (column, descending) =>
          address.setAll({ sort: column === "code" ? "" : column, descending: descending ? "yes" : "" }),
      }}
    />
  );
}

const SPREADSHEET: SpreadsheetOf<ItemRow> = {
  name: "items",
  columns: [
    { header: "Code", value: (item) => item.code },
    { header: "Name", value: (item) => item.name },
    { header: "Kind", value: (item) => KIND_WORDS[item.kind] },
    { header: "State", value: (item) => item.state },
    { header: "Unit", value: (item) => item.unit },
    { header: "Free", value: (item) => item.free },
    { header: "On hand", value: (item) => item.onHand },
    { header: "Unit cost", value: (item) => item.unitCost ?? "" },
    { header: "Price", value: (item) => item.price ?? "" },
  ],
};

function freeCell(item: ItemRow, format: Format): ReactNode {
  if (item.kind === "service" || item.notStockTracked) return "–";
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
