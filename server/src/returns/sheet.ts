import type {
  AnswerOf,
  QueryOf,
  ReturnLine,
  ReturnOutcome,
  ReturnRow,
  ReturnSheet,
  routes,
} from "@yosegi/contract";
import {
  addMonths,
  type Day,
  type Decimal,
  missingOfSets,
  moneyFromScaled,
  quantityFromScaled,
  sum,
  ZERO,
} from "@yosegi/core";
import { homes } from "../builds/index.ts";
import { asJson, findPage, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";
import { orderedLines } from "../orders/index.ts";
import { moneyOf } from "./plan.ts";
import { returnById } from "./service.ts";
import { RETURN_LINE, type ReturnLineRow, type ReturnTableRow } from "./tables.ts";

interface ListedRow {
  id: number;
  number: string;
  customer: number;
  code: string;
  name: string;
  shipment: number | null;
  shipment_number: string | null;
  order: number | null;
  order_number: string | null;
  day: Day;
  reason: string;
  person: string;
  moment: string;
  lines: number;
  open: number;
  undone_by: string | null;
  undone_at: string | null;
}

const COLUMNS = `r.id, r.number, f.id AS customer, f.code, f.name, s.id AS shipment, s.number AS shipment_number, o.id AS "order",
  o.number AS order_number, r.day, r.reason, n.name AS person, r.moment,
  (SELECT COUNT(*) FROM return_line l WHERE l.return_id = r.id) AS lines,
  (SELECT COUNT(*) FROM return_line l WHERE l.return_id = r.id AND l.inspected < l.quantity AND r.undone_at IS NULL) AS open,
  u.name AS undone_by, r.undone_at`;
const FROM = `customer_return r JOIN firm_head f ON f.id = r.customer_id JOIN person_name n ON n.id = r.person_id
  LEFT JOIN shipment_head s ON s.id = r.shipment_id LEFT JOIN order_head o ON o.id = s.order_id LEFT JOIN person_name u ON u.id = r.undone_by`;
const IS_OPEN =
  "r.undone_at IS NULL AND EXISTS (SELECT 1 FROM return_line l WHERE l.return_id = r.id AND l.inspected < l.quantity)";

const documentOf = (id: number | null, number: string | null) =>
  id === null || number === null ? null : { id, number };

const rowOf = (row: ListedRow): ReturnRow => ({
  id: row.id,
  number: row.number,
  customer: { id: row.customer, code: row.code, name: row.name },
  shipment: documentOf(row.shipment, row.shipment_number),
  order: documentOf(row.order, row.order_number),
  day: row.day,
  reason: row.reason,
  person: row.person,
  moment: row.moment,
  lines: row.lines,
  open: row.open,
  undone: row.undone_at === null ? null : { person: row.undone_by ?? "", moment: row.undone_at },
});

/** A page of returns, the latest first. */
export async function findReturns(
  ctx: Reading,
  query: QueryOf<typeof routes.returns>,
): Promise<AnswerOf<typeof routes.returns>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "r.id",
    text: "r.number || ' ' || f.code || ' ' || f.name || ' ' || r.reason || ' ' || COALESCE(s.number || ' ' || o.number, '')",
    from: `${FROM} ${query.open === "1" ? `WHERE ${IS_OPEN}` : ""} ORDER BY (${IS_OPEN}) DESC, r.undone_at IS NOT NULL, r.id DESC`,
  });
  const rows = await ctx.sql.all<ListedRow>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE r.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  return { returns: rows.map(rowOf), total, next };
}

/** One return: what came back, what it is credited, and what became of it. */
export async function returnSheet(ctx: Reading, id: number): Promise<ReturnSheet> {
  const own = await returnById(ctx, id);
  const row = await ctx.sql.one<ListedRow>(`SELECT ${COLUMNS} FROM ${FROM} WHERE r.id = $id`, { id });
  if (!row) throw new Error(`${own.number} is there`);
  const found = await ctx.model(RETURN_LINE).findAll({ where: { return_id: id }, order: ["line"] });
  const lines = found.map((line) => line.get({ plain: true }));
  const credited = lines.map((line) => ({
    credit: moneyFromScaled(line.credit),
    taxRate: quantityFromScaled(line.tax_rate),
  }));
  const values = await valuesOf(ctx, own);
  const brief = await briefs(ctx, await itemsOf(ctx, lines, row.order));
  const replacement = own.replacement_id === null ? null : await orderNumber(ctx, own.replacement_id);
  return {
    ...rowOf(row),
    note: own.note,
    ...moneyOf(
      ctx,
      credited,
      { fee: moneyFromScaled(own.fee), charges: await chargesOf(ctx, id) },
      own.replaced_free === 1,
    ),
    value: sum([...values.values()]).toFixed(4),
    returned: await linesOf(ctx, own, lines, { values, brief }),
    missing: await missingOf(ctx, row.order, lines, brief),
    inspections: await inspectionsOf(ctx, id, lines, brief),
    replacement: replacement && { ...replacement, free: own.replaced_free === 1 },
  };
}

/** What take-aparts of it that stand take off its credit, for parts that were damaged or missing. */
async function chargesOf(ctx: Reading, id: number): Promise<Decimal> {
  const row = await ctx.sql.one<{ charged: number }>(
    "SELECT COALESCE(SUM(charged), 0) AS charged FROM take_apart_head WHERE return_id = $id AND undone_at IS NULL",
    { id },
  );
  return moneyFromScaled(row?.charged ?? 0);
}

type Brief = Awaited<ReturnType<typeof briefs>>;

const orderNumber = (ctx: Reading, id: number) =>
  ctx.sql.one<{ id: number; number: string }>("SELECT id, number FROM order_head WHERE id = $id", { id });

/** What each line carried when it came in. */
async function valuesOf(ctx: Reading, { posting_id }: ReturnTableRow): Promise<Map<number, Decimal>> {
  const rows = await ctx.sql.all<{ line: number; value: number }>(
    "SELECT source_line AS line, value FROM stock_movement WHERE posting_id = $posting AND purpose = 'returned'",
    { posting: posting_id },
  );
  return new Map(rows.map(({ line, value }) => [line, moneyFromScaled(value)]));
}

/** All items that a sheet names: what came back, and what the sets had in them that did. */
async function itemsOf(
  ctx: Reading,
  lines: readonly ReturnLineRow[],
  order: number | null,
): Promise<number[]> {
  const sold = order === null ? [] : await orderedLines(ctx, [order]);
  return [
    ...lines.map((line) => line.item_id),
    ...sold.flatMap((line) => [line.item, ...line.components.map((own) => own.item)]),
  ];
}

async function linesOf(
  ctx: Reading,
  { day, shipment_id }: ReturnTableRow,
  lines: readonly ReturnLineRow[],
  { values, brief }: { values: ReadonlyMap<number, Decimal>; brief: Brief },
): Promise<ReturnLine[]> {
  const items = lines.map((line) => line.item_id);
  const home = await homes(ctx, items);
  const months = await ctx.sql.all<{ id: number; months: number | null }>(
    "SELECT id, warranty_months AS months FROM item_head WHERE id IN (SELECT value FROM json_each($items))",
    { items: asJson(items) },
  );
  const monthsOf = new Map(months.map((row) => [row.id, row.months]));
  const shipped = await ctx.sql.one<{ day: Day }>("SELECT day FROM shipment_head WHERE id = $shipment", {
    shipment: shipment_id,
  });
  const sold = await ctx.sql.all<{ line: number; item: number }>(
    "SELECT line_id AS line, item_id AS item FROM order_line_head WHERE line_id IN (SELECT value FROM json_each($lines))",
    { lines: asJson(lines.flatMap((line) => line.order_line_id ?? [])) },
  );
  const soldOf = new Map(sold.map(({ line, item }) => [line, item]));
  return lines.map((line) => {
    const own = monthsOf.get(line.item_id) ?? null;
    const until = line.serial !== "" && shipped && own !== null ? addMonths(shipped.day, own) : null;
    const set = line.order_line_id === null ? undefined : soldOf.get(line.order_line_id);
    return {
      line: line.line,
      orderLine: line.order_line_id,
      sold: set === undefined || set === line.item_id ? null : brief(set),
      item: brief(line.item_id),
      lot: line.lot,
      serial: line.serial,
      quantity: quantityFromScaled(line.quantity).toFixed(),
      inspected: quantityFromScaled(line.inspected).toFixed(),
      open: quantityFromScaled(line.quantity - line.inspected).toFixed(),
      value: (values.get(line.line) ?? ZERO).toFixed(4),
      credit: moneyFromScaled(line.credit).toFixed(ctx.currencyDecimals),
      warranty: until === null ? null : { until, runs: day <= until },
      home: home(line.item_id),
    };
  });
}

/** Contents of sets that did not come back with the rest. */
async function missingOf(
  ctx: Reading,
  order: number | null,
  lines: readonly ReturnLineRow[],
  brief: Brief,
): Promise<ReturnSheet["missing"]> {
  if (order === null) return [];
  const back = groupBy(lines, (line) => line.order_line_id);
  return (await orderedLines(ctx, [order])).flatMap(({ id, item, components }) => {
    const own = back.get(id) ?? [];
    if (own.length === 0 || components.every((component) => component.item === item)) return [];
    const returned = (part: number) =>
      sum(own.flatMap((line) => (line.item_id === part ? [quantityFromScaled(line.quantity)] : [])));
    return missingOfSets(
      components.map(({ item: part, per }) => ({
        item: part,
        per: quantityFromScaled(per),
        returned: returned(part),
      })),
    ).map(({ item: part, quantity }) => ({
      sold: brief(item),
      item: brief(part),
      quantity: quantity.toFixed(),
    }));
  });
}

interface InspectionRow {
  id: number;
  line: number;
  outcome: ReturnOutcome;
  quantity: number;
  location: number | null;
  bin: string;
  reason: string;
  person: string;
  moment: string;
}

async function inspectionsOf(
  ctx: Reading,
  id: number,
  lines: readonly ReturnLineRow[],
  brief: Brief,
): Promise<ReturnSheet["inspections"]> {
  const rows = await ctx.sql.all<InspectionRow>(
    `SELECT i.id, i.line, i.outcome, i.quantity, i.location_id AS location, i.bin, i.reason, n.name AS person, o.moment
       FROM return_inspection i JOIN posting_head o ON o.id = i.posting_id JOIN person_name n ON n.id = o.person_id
      WHERE i.return_id = $id AND i.undone_at IS NULL ORDER BY i.id DESC`,
    { id },
  );
  const names = await locationNames(ctx);
  return rows.flatMap(({ location, bin, quantity, ...row }) => {
    const line = lines.find((own) => own.line === row.line);
    if (!line) return [];
    return [
      {
        ...row,
        item: brief(line.item_id),
        lot: line.lot,
        serial: line.serial,
        quantity: quantityFromScaled(quantity).toFixed(),
        place: location === null ? "" : `${names.get(location) ?? ""} ${bin}`.trim(),
      },
    ];
  });
}
