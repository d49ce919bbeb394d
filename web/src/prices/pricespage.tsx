import { type PriceRow, routes, share } from "@yosegi/contract";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { Failure, type Pages, useCommand } from "../api/index.ts";
import { CatalogNav } from "../nav/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  Form,
  Named,
  Page,
  Row,
  Short,
  ShowMore,
  Sub,
  sayDone,
  Table,
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
              ? `${format.count(data.total, "product or kit leaves", "products and kits leave")} less than ${format.percent(data.first.wish)}.`
              : search === ""
                ? `Every product and kit leaves at least ${format.percent(data.first.wish)}.`
                : `Nothing of this leaves less than ${format.percent(data.first.wish)}.`}
        </h1>
        <Sub>What a sale leaves over the cost of today, in percent of the price. The worst stand first.</Sub>
        <Row>
          <AmountField
            label="Margin wished for"
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

interface RowsProps extends Pages<typeof routes.prices, PriceRow> {
  wish: string;
}

function Rows({ wish, rows, total, onMore }: RowsProps) {
  const format = useFormat();
  const [typed, setTyped] = useState<Record<number, string>>({});
  const priceOf = (row: PriceRow) => typed[row.id] ?? row.suggested ?? row.price;
  const [out, setOut] = useState<ReadonlySet<number>>(new Set());
  const chosen = rows.filter((row) => row.ownPrice && !out.has(row.id));
  const reprice = useCommand(routes.reprice, ({ changed }) =>
    sayDone(`${format.count(changed, "price is", "prices are")} changed.`),
  );
  const body = { wish, prices: chosen.map((row) => ({ item: row.id, price: priceOf(row) })) };
  const toggle = (id: number, on: boolean) => {
    const next = new Set(out);
    if (on) next.delete(id);
    else next.add(id);
    setOut(next);
  };
  return (
    <Form refusal={reprice.refusal} onSubmit={() => void reprice.run({ body })}>
      <Grid aria-label="Prices">
        <thead>
          <tr>
            <td style={{ width: "1%" }} />
            <th scope="col">Product or kit</th>
            <th scope="col" className="end">
              Cost
            </th>
            <th scope="col" className="end">
              Price
            </th>
            <th scope="col" className="end">
              Leaves
            </th>
            <th scope="col">New price</th>
          </tr>
        </thead>
        <tbody>
          {rows.map((row) => (
            <tr key={row.id}>
              <td>
                {row.ownPrice && (
                  <Checkbox
                    aria-label={`Reprice ${row.code}`}
                    isSelected={!out.has(row.id)}
                    onChange={(on) => toggle(row.id, on)}
                  />
                )}
              </td>
              <td>
                <Named name={row.name} to={`/catalog/${row.id}`} more={[row.code]} />
              </td>
              <td className="end">{format.unitCost(row.unitCost)}</td>
              <td className="end">{format.money(row.price)}</td>
              <td className="end">
                <Short>{row.percent === null ? "nothing" : format.percent(row.percent)}</Short>
                <small>{format.money(row.margin)}</small>
              </td>
              <td>
                {row.ownPrice ? (
                  <AmountField
                    label={`New price of ${row.code}`}
                    hideLabel
                    width="150px"
                    unit={format.settings.currency}
                    name={`prices.${chosen.indexOf(row)}.price`}
                    value={priceOf(row)}
                    onChange={(price) => setTyped({ ...typed, [row.id]: price })}
                  />
                ) : (
                  <small>
                    follows from its contents;{" "}
                    <Link to={`/catalog/${row.id}/kit`}>change the percentage</Link>
                  </small>
                )}
              </td>
            </tr>
          ))}
        </tbody>
      </Grid>
      <ShowMore listed={rows.length} total={total} onMore={onMore} />
      <Actions>
        <Button look="main" type="submit" isPending={reprice.busy} isDisabled={chosen.length === 0}>
          Change {format.count(chosen.length, "price", "prices")}
        </Button>
      </Actions>
    </Form>
  );
}

const Grid = styled(Table)`
  margin-top: 16px;
  border: 1px solid var(--line);
`;
