import type { AnswerOf, stockRoutes } from "@yosegi/contract";
import { isDay } from "@yosegi/core";
import { Link } from "react-router";
import { Unanswered } from "../api/index.ts";
import { StockNav } from "../nav/index.ts";
import {
  type Column,
  DataTable,
  DateField,
  Fact,
  Facts,
  type Format,
  Page,
  Row,
  ShowMore,
  type SpreadsheetOf,
  Sub,
  TextField,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { useStockPlaces } from "./queries.ts";

type ItemAt = AnswerOf<typeof stockRoutes.stockPlaces>["items"][number];
interface PlaceRow {
  item: ItemAt["item"];
  place: string;
  quantity: string;
  value: string;
}

/** Where everything is: stores, benches, subcontractors and what is packed, by item, with its value, on any day. */
export function PlacesPage() {
  const address = useAddress();
  const format = useFormat();
  const day = address.get("day");
  const { data, error } = useStockPlaces(address.get("search"), day);
  if (!data) return <Unanswered error={error} shape="table" />;
  const { first, total, onMore } = data;
  const rows = data.rows.flatMap(({ item, places }) => places.map((at): PlaceRow => ({ item, ...at })));
  return (
    <>
      <StockNav />
      <Page>
        <h1>Where everything is</h1>
        <Sub>
          {day === "" || day === format.settings.today ? "As of today" : `At the end of ${format.day(day)}`}
          {": "}
          {format.count(first.total, "item", "items")} worth {format.money(first.value)}.
        </Sub>
        <Row>
          <DateField
            label="Day"
            width="190px"
            value={day || format.settings.today}
            onChange={(next) => isDay(next) && address.set("day", next)}
          />
          <TextField
            label="Search"
            width="240px"
            value={address.get("search")}
            onChange={(text) => address.set("search", text)}
          />
        </Row>
        <Facts>
          {first.totals.map(({ place, value }) => (
            <Fact key={place} name={place}>
              {format.money(value)}
            </Fact>
          ))}
        </Facts>
        <DataTable
          label="Items and where they are"
          rows={rows}
          rowId={(row) => `${row.item.id} ${row.place}`}
          spreadsheet={SPREADSHEET}
          empty="Nothing was there on that day."
          columns={columnsOf(format)}
        />
        <ShowMore listed={data.rows.length} total={total} onMore={onMore} />
      </Page>
    </>
  );
}

const columnsOf = (format: Format): Column<PlaceRow>[] => [
  {
    id: "item",
    header: "Item",
    compare: (a, b) => a.item.name.localeCompare(b.item.name),
    cell: ({ item }) => (
      <>
        <Link to={`/catalog/${item.id}`}>{item.name}</Link>
        <small>{item.code}</small>
      </>
    ),
  },
  {
    id: "place",
    header: "Where",
    compare: (a, b) => a.place.localeCompare(b.place),
    cell: ({ place }) => place,
  },
  {
    id: "quantity",
    header: "Quantity",
    end: true,
    cell: ({ quantity, item }) => `${format.quantity(quantity, item.decimals)} ${item.unit}`,
  },
  {
    id: "value",
    header: "Value",
    end: true,
    cell: ({ value, place }) => (place === "With customers" ? "–" : format.money(value)),
  },
];

const SPREADSHEET: SpreadsheetOf<PlaceRow> = {
  name: "where-everything-is",
  columns: [
    { header: "Item", value: ({ item }) => item.code },
    { header: "Name", value: ({ item }) => item.name },
    { header: "Where", value: ({ place }) => place },
    { header: "Quantity", value: ({ quantity }) => quantity },
    { header: "Unit", value: ({ item }) => item.unit },
    { header: "Value", value: ({ value }) => value },
  ],
};
