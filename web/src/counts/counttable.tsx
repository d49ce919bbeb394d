import type { CountLine, CountSheet } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useMemo } from "react";
import { Link } from "react-router";
import { type Column, DataTable, type Format, Short, type SpreadsheetOf, useFormat } from "../ui/index.ts";
import { binOf } from "./words.ts";

/** All lines of a count: counted against the books, with what the difference is worth. */
export function CountTable({ count }: { count: CountSheet }) {
  const format = useFormat();
  const columns = useMemo(() => columnsOf(format), [format]);
  return (
    <DataTable
      label="Counted"
      rows={count.sheet}
      rowId={(line) => line.id}
      columns={columns}
      spreadsheet={SPREADSHEET}
      empty="Nothing is on this sheet."
    />
  );
}

const columnsOf = (format: Format): Column<CountLine>[] => [
  {
    id: "bin",
    header: "Bin",
    compare: (a, b) => binOf(a).localeCompare(binOf(b)),
    cell: (line) => binOf(line),
  },
  {
    id: "item",
    header: "Item",
    compare: (a, b) => a.item.name.localeCompare(b.item.name),
    cell: ({ item, lot, serial, person, reason }) => (
      <>
        <Link to={`/catalog/${item.id}`}>{item.name}</Link>
        <small>
          {[item.code, serial || lot, person && `by ${person}`, reason].filter(Boolean).join(" · ")}
        </small>
      </>
    ),
  },
  {
    id: "books",
    header: "Books",
    end: true,
    cell: ({ books, item }) =>
      books === null ? "hidden" : `${format.quantity(books, item.decimals)} ${item.unit}`,
  },
  {
    id: "counted",
    header: "Counted",
    end: true,
    cell: ({ counted, item }) =>
      counted === null ? "–" : `${format.quantity(counted, item.decimals)} ${item.unit}`,
  },
  {
    id: "difference",
    header: "Difference",
    end: true,
    compare: (a, b) => decimal(a.difference ?? "0").cmp(b.difference ?? "0"),
    cell: ({ difference, item }) => {
      if (difference === null || difference === "0") return difference === null ? "" : "–";
      const words = `${format.difference(difference, item.decimals)} ${item.unit}`;
      return difference.startsWith("-") ? <Short>{words}</Short> : words;
    },
  },
  {
    id: "value",
    header: "Value",
    end: true,
    compare: (a, b) => decimal(a.value ?? "0").cmp(b.value ?? "0"),
    cell: ({ value, difference }) => (value === null || difference === "0" ? "" : format.money(value)),
  },
];

const SPREADSHEET: SpreadsheetOf<CountLine> = {
  name: "count",
  columns: [
    { header: "Store", value: ({ store }) => store },
    { header: "Bin", value: ({ bin }) => bin },
    { header: "Item", value: ({ item }) => item.code },
    { header: "Name", value: ({ item }) => item.name },
    { header: "Lot", value: ({ lot }) => lot },
    { header: "Serial", value: ({ serial }) => serial },
    { header: "Unit", value: ({ item }) => item.unit },
    { header: "Books", value: ({ books }) => books ?? "" },
    { header: "Counted", value: ({ counted }) => counted ?? "" },
    { header: "Difference", value: ({ difference }) => difference ?? "" },
    { header: "Value", value: ({ value }) => value ?? "" },
    { header: "Reason", value: ({ reason }) => reason },
  ],
};
