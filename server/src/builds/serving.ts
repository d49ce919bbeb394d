import type { OrderLink } from "@yosegi/contract";
import { type Decimal, isOpen, quantityFromWhole, serve } from "@yosegi/core";
import { asJson, type BuildTableRow, groupBy, type Reading } from "../db/index.ts";

/** How much a build is good for, as its orders are shared out by it. */
export const yieldOf = (build: Pick<BuildTableRow, "wanted" | "good" | "stage">) => ({
  wanted: quantityFromWhole(build.wanted),
  good: quantityFromWhole(build.good),
  ended: !isOpen(build.stage),
});

/** A build, what it makes, and what each line that it works for has of it. */
export interface Serving {
  line: number;
  product: number;
  build: Pick<BuildTableRow, "id" | "number" | "stage" | "due">;
  made: Decimal;
  coming: Decimal;
}

/** What builds give the order lines named: all that work for one of them are shared out in turn. */
export async function servings(ctx: Reading, lines: Iterable<number>): Promise<Serving[]> {
  const rows = await ctx.sql.all<
    { line: number; linked: number } & Pick<
      BuildTableRow,
      "id" | "number" | "stage" | "due" | "wanted" | "good" | "product_id"
    >
  >(
    `SELECT k.line_id AS line, k.quantity AS linked, b.id, b.number, b.stage, b.due, b.wanted, b.good, b.product_id
       FROM build_order k JOIN build b ON b.id = k.build_id
      WHERE k.build_id IN (SELECT o.build_id FROM json_each($lines) ids JOIN build_order o ON o.line_id = ids.value)
      ORDER BY k.id`,
    { lines: asJson(new Set(lines)) },
  );
  return [...groupBy(rows, (row) => row.id).values()].flatMap((links) => {
    const [build] = links;
    if (!build) return [];
    const shares = serve(
      yieldOf(build),
      links.map((link) => quantityFromWhole(link.linked)),
    );
    return links.map(({ line, product_id, id, number, stage, due }, i) => {
      const share = shares[i];
      if (!share) throw new Error("Each link has its share");
      return { line, product: product_id, build: { id, number, stage, due }, ...share };
    });
  });
}

/** The customers' orders that builds work for, by build. */
export async function ordersOf(
  ctx: Reading,
  builds: Iterable<number>,
): Promise<(build: number) => OrderLink[]> {
  const rows = await ctx.sql.all<
    Omit<OrderLink, "customer" | "quantity"> &
      Record<"build" | "quantity" | "firm", number> &
      Record<"code" | "name", string>
  >(
    `SELECT k.build_id AS build, o.id AS "order", o.number, l.id AS line, o.due, k.quantity, f.id AS firm, f.code, f.name
       FROM json_each($ids) ids JOIN build_order k ON k.build_id = ids.value JOIN sales_line l ON l.id = k.line_id
       JOIN sales_order o ON o.id = l.order_id JOIN firm f ON f.id = o.customer_id ORDER BY k.id`,
    { ids: asJson(builds) },
  );
  const found = groupBy(rows, (row) => row.build);
  return (build) =>
    (found.get(build) ?? []).map(({ order, number, line, due, quantity, firm, code, name }) => ({
      ...{ order, number, line, due, customer: { id: firm, code, name } },
      quantity: quantityFromWhole(quantity).toFixed(),
    }));
}
