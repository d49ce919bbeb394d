import { type PriceRow, priceRoutes, share } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { Link } from "react-router";
import { Failure, type Pages } from "../api/index.ts";
import { FormOf, Save, useCommandForm } from "../forms/index.ts";
import { CatalogNav } from "../nav/index.ts";
import {
  Actions,
  AmountField,
  Checkbox,
  Named,
  Page,
  Row,
  SheetTable,
  Short,
  ShowMore,
  Sub,
  sayDone,
  TextField,
  useAddress,
  useFormat,
} from "../ui/index.ts";
import { usePrices } from "./queries.ts";

/** Products and kits whose margin fell below a wish, each with the price that would bring it back; repriced together. */
export function PricesPage() {
  const format = useFormat();
  const address = useAddress();
  const wish = address.get("wish");
  const valid = wish === "" || share.safeParse(wish).success;
  const search = address.get("search");
  const { data, error } = usePrices(valid ? wish : "", search);
  if (!data && error) return <Failure error={error} />;
  return (
    <>
      <CatalogNav />
      <Page>
        <h1>
          {!data
            ? "Prices"
            : data.total > 0
              ? `${format.count(data.total, "product or kit makes", "products and kits make")} less than ${format.percent(data.first.wish)}.`
              : search === ""
                ? `Every product and kit makes at least ${format.percent(data.first.wish)}.`
                : `Nothing matching makes less than ${format.percent(data.first.wish)}.`}
        </h1>
        <Sub>Margin at today's cost as a percentage of price, lowest first.</Sub>
        <Row>
          <AmountField
            label="Target margin"
            width="160px"
            unit="%"
            value={wish === "" ? (data?.first.wish ?? "") : wish}
            onChange={(text) => address.set("wish", text)}
            error={valid ? undefined : (share.safeParse(wish).error?.issues[0]?.message ?? undefined)}
          />
          <TextField
            label="Search"
            width="280px"
            placeholder="Search code or name"
            value={search}
            onChange={(text) => address.set("search", text)}
          />
        </Row>
        {data && data.rows.length > 0 && <Rows key={data.first.wish} wish={data.first.wish} {...data} />}
      </Page>
    </>
  );
}

interface RowsProps extends Pages<typeof priceRoutes.prices, PriceRow> {
  wish: string;
}

/** By the id of the item: the price that was typed, and whether it is left as it is. */
interface RepriceDraft {
  typed: Record<number, string>;
  out: Record<number, boolean>;
}

const priceOf = (row: PriceRow, { typed }: RepriceDraft): string =>
  typed[row.id] ?? row.suggested ?? row.price;
const chosenOf = (rows: readonly PriceRow[], { out }: RepriceDraft): PriceRow[] =>
  rows.filter((row) => row.ownPrice && !out[row.id]);

function Rows({ wish, rows, total, onMore }: RowsProps) {
  const format = useFormat();
  const form = useCommandForm({
    route: priceRoutes.reprice,
    begin: { typed: {}, out: {} },
    body: (draft: RepriceDraft) => ({
      wish,
      prices: chosenOf(rows, draft).map((row) => ({ item: row.id, price: priceOf(row, draft) })),
    }),
    done: ({ changed }) => sayDone(`${format.count(changed, "price is", "prices are")} changed.`),
  });
  const draft = useWatch({ control: form.methods.control }) as RepriceDraft;
  const { setValue } = form.methods;
  const chosen = chosenOf(rows, draft);
  return (
    <FormOf form={form}>
      <SheetTable
        label="Prices"
        rows={rows}
        rowId={(row) => row.id}
        columns={[
          {
            header: "",
            cell: (row) =>
              row.ownPrice && (
                <Checkbox
                  aria-label={`Reprice ${row.code}`}
                  isSelected={!draft.out[row.id]}
                  onChange={(on) => setValue("out", { ...draft.out, [row.id]: !on })}
                />
              ),
          },
          {
            header: "Product or kit",
            cell: (row) => <Named name={row.name} to={`/catalog/${row.id}`} more={[row.code]} />,
          },
          { header: "Cost", end: true, cell: (row) => format.unitCost(row.unitCost) },
          { header: "Price", end: true, cell: (row) => format.money(row.price) },
          {
            header: "Margin",
            end: true,
            cell: (row) => (
              <>
                <Short>{row.percent === null ? "nothing" : format.percent(row.percent)}</Short>
                <small>{format.money(row.margin)}</small>
              </>
            ),
          },
          {
            header: "New price",
            isField: true,
            cell: (row) =>
              row.ownPrice ? (
                <AmountField
                  label={`New price of ${row.code}`}
                  hideLabel
                  width="150px"
                  unit={format.settings.currency}
                  name={`prices.${chosen.indexOf(row)}.price`}
                  value={priceOf(row, draft)}
                  onChange={(price) => setValue("typed", { ...draft.typed, [row.id]: price })}
                />
              ) : (
                <small>
                  follows from its contents; <Link to={`/catalog/${row.id}/kit`}>change the percentage</Link>
                </small>
              ),
          },
        ]}
      />
      <ShowMore listed={rows.length} total={total} onMore={onMore} />
      <Actions>
        <Save isDisabled={chosen.length === 0}>Change {format.count(chosen.length, "price", "prices")}</Save>
      </Actions>
    </FormOf>
  );
}
