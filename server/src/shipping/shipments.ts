import { Refusal, type ShipmentLine, type ShipmentRow, type ShipmentSheet } from "@yosegi/contract";
import { type CreditStop, type Day, moneyFromScaled, quantityFromScaled } from "@yosegi/core";
import { asJson, findPage, groupBy, type PageQuery, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";
import { orderById, savedSets } from "../orders/index.ts";
import { messagesAbout } from "../outbox/index.ts";
import { finishesOf } from "./finishing.ts";
import { moneyAnswer } from "./plan.ts";

interface Row {
  id: number;
  number: string;
  order: number;
  order_number: string;
  reference: string;
  customer: number;
  code: string;
  name: string;
  posting: number | null;
  day: Day;
  person: string;
  moment: string;
  note: string;
  address: string;
  parcels: number | null;
  weight: number | null;
  accepted: CreditStop | null;
  lines: number;
  undone_by: string | null;
  undone_at: string | null;
}

const COLUMNS = `s.id, s.number, s.order_id AS "order", o.number AS order_number, o.reference, f.id AS customer, f.code, f.name,
  s.posting_id AS posting, s.day, n.name AS person, s.moment, s.note, s.address, s.parcels, s.weight, s.accepted,
  (SELECT COUNT(*) FROM shipment_line l WHERE l.shipment_id = s.id) AS lines, u.name AS undone_by, s.undone_at`;
const FROM = `shipment s JOIN order_head o ON o.id = s.order_id JOIN firm_head f ON f.id = o.customer_id
  JOIN person_name n ON n.id = s.person_id LEFT JOIN person_name u ON u.id = s.undone_by`;

const rowOf = (row: Row): ShipmentRow => ({
  id: row.id,
  number: row.number,
  order: { id: row.order, number: row.order_number, reference: row.reference },
  customer: { id: row.customer, code: row.code, name: row.name },
  day: row.day,
  person: row.person,
  moment: row.moment,
  lines: row.lines,
  parcels: row.parcels,
  weight: row.weight === null ? null : quantityFromScaled(row.weight).toFixed(),
  undone: row.undone_at === null ? null : { person: row.undone_by ?? "", moment: row.undone_at },
});

/** A page of shipments, the latest first. */
export async function findShipments(
  ctx: Reading,
  query: PageQuery,
): Promise<{ shipments: ShipmentRow[]; total: number; next: string | null }> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "s.id",
    text: "s.number || ' ' || o.number || ' ' || f.code || ' ' || f.name || ' ' || o.reference",
    from: `${FROM} ORDER BY s.id DESC`,
  });
  const shipments = await ctx.sql.all<Row>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE s.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  return { shipments: shipments.map(rowOf), total, next };
}

/** One shipment: what left, from where, and what it brought. */
export async function shipmentSheet(ctx: Reading, id: number): Promise<ShipmentSheet> {
  const row = await ctx.sql.one<Row>(`SELECT ${COLUMNS} FROM ${FROM} WHERE s.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "shipment", id });
  return sheetOf(ctx, row);
}

/** The shipments of an order, the earliest first, and what those that stand brought in all. */
export async function orderShipments(ctx: Reading, id: number) {
  const order = await orderById(ctx, id);
  const rows = await ctx.sql.all<Row>(
    `SELECT ${COLUMNS} FROM ${FROM} WHERE s.order_id = $order ORDER BY s.id`,
    {
      order: order.id,
    },
  );
  const shipments: ShipmentSheet[] = [];
  for (const row of rows) shipments.push(await sheetOf(ctx, row));
  const totals = await ctx.sql.one<{ revenue: number; cost: number }>(
    `SELECT COALESCE(SUM(l.revenue), 0) AS revenue, COALESCE(SUM(l.cost), 0) AS cost
       FROM shipment s JOIN shipment_line l ON l.shipment_id = s.id WHERE s.order_id = $order AND s.undone_at IS NULL`,
    { order: order.id },
  );
  const messages = await messagesAbout(ctx, "order", order.id);
  return { shipments, messages, ...known(ctx, totals?.revenue ?? 0, totals?.cost ?? 0) };
}

function known(ctx: Reading, revenue: number, cost: number) {
  const { margin, cost: shown, ...money } = moneyAnswer(ctx, moneyFromScaled(revenue), moneyFromScaled(cost));
  return { ...money, cost: shown ?? "", margin: margin ?? "" };
}

interface ComponentRow {
  line: number;
  item: number;
  quantity: number;
  revenue: number;
  cost: number;
}

interface TakenRow {
  line: number;
  item: number;
  location: number;
  bin: string;
  lot: string;
  serial: string;
  quantity: number;
}

async function sheetOf(ctx: Reading, row: Row): Promise<ShipmentSheet> {
  const bind = { id: row.id };
  const lines = await ctx.sql.all<{
    line: number;
    item: number;
    units: number;
    revenue: number;
    cost: number;
  }>(
    `SELECT l.line_id AS line, h.item_id AS item, l.units, l.revenue, l.cost
       FROM shipment_line l JOIN order_line_head h ON h.line_id = l.line_id WHERE l.shipment_id = $id ORDER BY h.position`,
    bind,
  );
  const components = await ctx.sql.all<ComponentRow>(
    `SELECT line_id AS line, item_id AS item, quantity, revenue, cost FROM shipment_component
      WHERE shipment_id = $id ORDER BY line_id, position`,
    bind,
  );
  const taken = await ctx.sql.all<TakenRow>(
    `SELECT source_line AS line, item_id AS item, from_location AS location, from_bin AS bin, lot, serial, quantity
       FROM stock_movement WHERE posting_id = $posting ORDER BY id`,
    { posting: row.posting },
  );
  const names = await locationNames(ctx);
  const brief = await briefs(
    ctx,
    [...lines, ...components].map(({ item }) => item),
  );
  const sets = await savedSets(
    ctx,
    lines.map(({ line }) => line),
  );
  const key = ({ line, item }: { line: number; item: number }) => `${line} ${item}`;
  const takenOf = groupBy(taken, key);
  const componentsOf = groupBy(components, ({ line }) => line);
  const shipped = lines.map(
    ({ line, item, units, revenue, cost }): ShipmentLine => ({
      line,
      item: brief(item),
      units: quantityFromScaled(units).toFixed(),
      contentsShown: sets.get(line)?.kit.contentsShown ?? null,
      ...known(ctx, revenue, cost),
      components: (componentsOf.get(line) ?? []).map((own) => {
        const { marginPercent: _, ...money } = known(ctx, own.revenue, own.cost);
        return {
          item: brief(own.item),
          quantity: quantityFromScaled(own.quantity).toFixed(),
          ...money,
          taken: (takenOf.get(key(own)) ?? []).map(({ location, bin, lot, serial, quantity }) => ({
            store: names.get(location) ?? "",
            bin,
            lot,
            serial,
            quantity: quantityFromScaled(quantity).toFixed(),
          })),
        };
      }),
    }),
  );
  const total = (of: "revenue" | "cost") => lines.reduce((all, line) => all + line[of], 0);
  return {
    ...rowOf(row),
    note: row.note,
    address: row.address,
    finished: (await finishesOf(ctx, row.id)).map(({ build, number }) => ({ id: build, number })),
    wentOn: row.accepted ?? "",
    shipped,
    ...known(ctx, total("revenue"), total("cost")),
  };
}
