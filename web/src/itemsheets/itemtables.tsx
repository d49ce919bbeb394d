import { type ItemSheet, priceRoutes } from "@yosegi/contract";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Unanswered } from "../api/index.ts";
import { CustomValues } from "../customfields/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import { ItemLabels } from "../labels/index.ts";
import {
  CountDialog,
  type CountedSpot,
  MoveDialog,
  movedWords,
  ScrapDialog,
  useShownStore,
} from "../stock/index.ts";
import { TakeApartDialog } from "../takeaparts/index.ts";
import { Button, Row, Select, SheetTable, Short, Sub, sayDone, useFormat } from "../ui/index.ts";
import { useLastMovements } from "./queries.ts";

/** What lies in which bin, by lot or serial where it is tracked so. */
export function StockTable({ item }: { item: ItemSheet }) {
  const format = useFormat();
  // undefined: nothing is counted; null: the person says which bin.
  const [counting, setCounting] = useState<CountedSpot | null | undefined>(undefined);
  const [moving, setMoving] = useState<StockSpot | null>(null);
  const [scrapping, setScrapping] = useState<StockSpot | null>(null);
  const [apart, setApart] = useState<StockSpot | null>(null);
  const navigate = useNavigate();
  const [labelled, setLabelled] = useState<StockSpot | null>(null);
  const [store, setStore] = useShownStore();
  const stores = [...new Set(item.stockByBin.map((row) => row.store))];
  const shown = item.stockByBin.filter((row) => !stores.includes(store) || row.store === store);
  const placeWords = ({ kind, store: name, bin }: StockSpot) =>
    kind === "store" ? `${name} ${bin}`.trim() : [name, bin].filter(Boolean).join(" · ");
  type StockSpot = ItemSheet["stockByBin"][number];
  const expiryCell = ({ expiry, expired }: StockSpot) => {
    if (expiry === null) return "–";
    return expired ? <Short>{format.day(expiry)}, expired</Short> : format.day(expiry);
  };
  const numbers = {
    none: [],
    lot: [
      {
        header: "Lot",
        cell: ({ lot }: StockSpot) =>
          lot && <Link to={`/trace?item=${item.id}&lot=${encodeURIComponent(lot)}`}>{lot}</Link>,
      },
      { header: "Use by", cell: expiryCell },
    ],
    serial: [
      {
        header: "Serial",
        cell: ({ serial }: StockSpot) => (
          <Link to={`/trace?item=${item.id}&serial=${encodeURIComponent(serial)}`}>{serial}</Link>
        ),
      },
      { header: "Own price", end: true, cell: (row: StockSpot) => <SerialPrice item={item.id} spot={row} /> },
    ],
  };
  const owner = item.tracking === "serial" ? "serial" : "lot";
  const own = item.stockByBin.some((row) => row.custom.length > 0) && {
    header: "Custom fields",
    cell: (row: StockSpot) => (
      <CustomValues owner={owner} id={item.id} code={row.serial || row.lot} values={row.custom} />
    ),
  };
  return (
    <>
      {stores.length > 1 && (
        <Row style={{ marginBottom: 8, alignItems: "center" }}>
          <Select
            label="Store"
            hideLabel
            width="190px"
            value={stores.includes(store) ? store : ""}
            none="All locations"
            options={stores.map((name) => ({ value: name, label: name }))}
            onChange={setStore}
          />
          {shown.length < item.stockByBin.length && (
            <Sub style={{ margin: 0 }}>
              {format.count(item.stockByBin.length - shown.length, "row", "rows")} elsewhere not shown
            </Sub>
          )}
        </Row>
      )}
      {shown.length > 0 && (
        <SheetTable
          label="Locations"
          rows={shown}
          rowId={(row) => `${row.store} ${row.bin} ${row.lot} ${row.serial}`}
          columns={[
            { header: "Where", cell: placeWords },
            ...numbers[item.tracking],
            ...(own ? [own] : []),
            {
              header: "On hand",
              end: true,
              cell: (row) => `${format.quantity(row.quantity, item.decimals)} ${item.unit}`,
            },
            {
              header: "",
              end: true,
              cell: (row) => {
                const where = [row.store, row.bin, row.lot, row.serial].filter(Boolean).join(" ");
                // At a bench and packed it belongs to a document, whose own steps move it.
                if (row.kind !== "store") return null;
                return (
                  <>
                    <Button look="link" aria-label={`Count ${where}`} onPress={() => setCounting(row)}>
                      Count
                    </Button>
                    <Button look="link" aria-label={`Move ${where}`} onPress={() => setMoving(row)}>
                      Move
                    </Button>
                    <Button look="link" aria-label={`Scrap ${where}`} onPress={() => setScrapping(row)}>
                      Scrap
                    </Button>
                    {item.kind === "built" && (
                      <Button look="link" aria-label={`Take apart ${where}`} onPress={() => setApart(row)}>
                        Take apart
                      </Button>
                    )}
                    <Button look="link" aria-label={`Label ${where}`} onPress={() => setLabelled(row)}>
                      Label
                    </Button>
                  </>
                );
              },
            },
          ]}
        />
      )}
      <Button look="link" onPress={() => setCounting(null)}>
        Count another bin …
      </Button>
      {counting !== undefined && (
        <CountDialog item={item} spot={counting} isOpen onClose={() => setCounting(undefined)} />
      )}
      {moving && <MoveDialog item={item} spot={moving} onClose={() => setMoving(null)} />}
      {labelled && <ItemLabels item={item} piece={labelled} onClose={() => setLabelled(null)} />}
      {apart && (
        <TakeApartDialog
          start={{ ...apart, item, quantity: item.tracking === "serial" ? "1" : apart.quantity }}
          onClose={() => setApart(null)}
          onDone={({ id }) => void navigate(`/take-aparts/${id}`)}
        />
      )}
      {scrapping && <ScrapDialog item={item} spot={scrapping} onClose={() => setScrapping(null)} />}
    </>
  );
}

interface SerialPriceProps {
  item: number;
  spot: Pick<ItemSheet["stockByBin"][number], "serial" | "price">;
}

/** The price of one unit, and the way to set it. */
function SerialPrice({ item, spot: { serial, price } }: SerialPriceProps) {
  const format = useFormat();
  const [editing, setEditing] = useState(false);
  return (
    <>
      {price !== null && format.money(price)}{" "}
      <Button look="link" aria-label={`Price of ${serial}`} onPress={() => setEditing(true)}>
        {price === null ? "Set" : "Change"}
      </Button>
      <FormDialog
        title={`Price of ${serial}`}
        isOpen={editing}
        onClose={() => setEditing(false)}
        save="Save"
        route={priceRoutes.setSerialPrice}
        params={{ id: item, serial }}
        begin={{ price: price ?? "" }}
        body={({ price: typed }: { price: string }) => ({ price: typed === "" ? null : typed })}
        done={() => sayDone("Price saved.")}
      >
        <In.Amount
          label="Price of this unit"
          name="price"
          width="200px"
          unit={format.settings.currency}
          placeholder="as the item"
        />
      </FormDialog>
    </>
  );
}

const In = inputsOf<{ price: string }>();

/** The last few movements, and the way to all of them. */
export function LastMovements({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const { data, error } = useLastMovements(item.id);
  if (!data) return <Unanswered error={error} />;
  if (data.movements.length === 0) return <Sub>None yet.</Sub>;
  return (
    <>
      <SheetTable
        label="Last movements"
        rows={data.movements}
        rowId={(m) => m.id}
        columns={[
          {
            header: "When",
            cell: (m) => (
              <>
                {format.moment(m.moment)}
                <small>{m.person}</small>
              </>
            ),
          },
          {
            header: "Document",
            cell: (m) => (
              <Link to={m.build ? `/builds/${m.build}` : `/stock?document=${m.document}`}>{m.document}</Link>
            ),
          },
          {
            header: "From → to",
            cell: (m) => (
              <>
                {m.from || "outside"} → {m.to || "used up"}
                {(m.lot || m.serial) && <small>{m.lot ? `lot ${m.lot}` : `serial ${m.serial}`}</small>}
              </>
            ),
          },
          {
            header: "Quantity",
            end: true,
            cell: (m) => movedWords(m, format),
          },
          { header: "Value", end: true, cell: (m) => format.money(m.value) },
        ]}
      />
      {data.total > data.movements.length && (
        <p>
          <Link to={`/stock?item=${item.id}`}>All {data.total} movements</Link>
        </p>
      )}
    </>
  );
}
