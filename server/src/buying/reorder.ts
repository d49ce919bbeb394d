import type { ReorderRow } from "@yosegi/contract";
import {
  actBy,
  addDays,
  arrivesBy,
  type Day,
  lineTotal,
  type Offer,
  type Outlook,
  type Projection,
  project,
  quantityFromWhole,
  searchText,
  toOrder,
} from "@yosegi/core";
import { BRIEF, type BriefRow, briefFrom, revisionsInForce } from "../catalog/index.ts";
import { offerOf } from "../cover/index.ts";
import { asJson, type Reading } from "../db/index.ts";

interface Candidate {
  item: number;
  usable: number;
  level: number;
}

/**
 * Items whose free stock, without anything that comes, is below zero or their level: no other can fall short on any day.
 * Expired lots are looked up from the lots, for they are few.
 */
const CANDIDATES = `
  WITH need AS (SELECT item_id, SUM(open) AS open FROM (SELECT item_id, open FROM build_line WHERE open > 0
                  UNION ALL SELECT item_id, open FROM sales_take WHERE open > 0) GROUP BY item_id),
       stock AS (SELECT b.item_id, SUM(b.quantity) AS quantity FROM balance b
                  WHERE b.place_id IN (SELECT id FROM place WHERE kind = 'store') GROUP BY b.item_id),
       gone AS (SELECT b.item_id, SUM(b.quantity) AS quantity FROM lot l JOIN balance b ON b.item_id = l.item_id AND b.lot = l.code
                 WHERE l.expiry < $today AND b.place_id IN (SELECT id FROM place WHERE kind = 'store') GROUP BY b.item_id)
  SELECT i.id AS item, COALESCE(i.reorder_level, 0) AS level, COALESCE(s.quantity, 0) - COALESCE(g.quantity, 0) AS usable
    FROM item i LEFT JOIN stock s ON s.item_id = i.id LEFT JOIN need n ON n.item_id = i.id LEFT JOIN gone g ON g.item_id = i.id
   WHERE (i.reorder_level > 0 OR n.open > 0) AND i.state <> 'archived'
     AND COALESCE(s.quantity, 0) - COALESCE(g.quantity, 0) - COALESCE(n.open, 0) < COALESCE(i.reorder_level, 0)`;

interface Dated {
  item: number;
  day: Day | null;
  quantity: number;
}

/** What is needed of items, on the days on which builds have to start and orders are due. */
async function needsByDay(ctx: Reading, ids: string): Promise<Dated[]> {
  const rows = await ctx.sql.all<{ item: number; due: Day | null; days: number; quantity: number }>(
    `SELECT l.item_id AS item, b.due, COALESCE(p.build_days, 0) AS days, SUM(l.open) AS quantity
       FROM json_each($ids) ids JOIN build_line l ON l.item_id = ids.value AND l.open > 0
       JOIN build b ON b.id = l.build_id JOIN item p ON p.id = b.product_id GROUP BY 1, 2, 3
      UNION ALL
     SELECT t.item_id, o.due, 0, SUM(t.open)
       FROM json_each($ids) ids JOIN sales_take t ON t.item_id = ids.value AND t.open > 0
       JOIN sales_line l ON l.id = t.line_id JOIN sales_order o ON o.id = l.order_id GROUP BY 1, 2`,
    { ids },
  );
  const starts = new Map<string, Day>();
  return rows.map(({ item, due, days, quantity }) => {
    if (due === null) return { item, day: null, quantity };
    const key = `${due} ${days}`;
    const day = starts.get(key) ?? addDays(due, -days);
    starts.set(key, day);
    return { item, day, quantity };
  });
}

const incomingByDay = (ctx: Reading, ids: string): Promise<Dated[]> =>
  ctx.sql.all<Dated>(
    `SELECT l.item_id AS item, l.expected AS day, SUM(l.open) AS quantity
       FROM json_each($ids) ids JOIN purchase_line l ON l.item_id = ids.value AND l.open > 0 GROUP BY 1, 2
      UNION ALL
     SELECT b.product_id, b.due, SUM(MAX(0, MIN(b.wanted - b.good, b.quantity - b.good - b.rejected)))
       FROM build b WHERE b.stage IN ('queued', 'on the bench') AND b.product_id IN (SELECT value FROM json_each($ids)) GROUP BY 1, 2`,
    { ids },
  );

/** What has to be done about each item that falls below zero or its level; by item. */
export async function projections(ctx: Reading): Promise<Map<number, Projection>> {
  const candidates = await ctx.sql.all<Candidate>(CANDIDATES, { today: ctx.today });
  const ids = asJson(candidates.map((c) => c.item));
  const outlooks = new Map<number, Outlook & { needs: Dated[]; incoming: Dated[] }>(
    candidates.map(({ item, usable, level }) => [item, { usable, level, needs: [], incoming: [] }]),
  );
  for (const need of await needsByDay(ctx, ids)) outlooks.get(need.item)?.needs.push(need);
  for (const coming of await incomingByDay(ctx, ids)) outlooks.get(coming.item)?.incoming.push(coming);
  const found = new Map<number, Projection>();
  for (const [item, outlook] of outlooks) {
    const projection = project(outlook, ctx.today);
    if (projection.wanted > 0 || projection.firstShort !== null) found.set(item, projection);
  }
  return found;
}

interface ItemRow extends BriefRow {
  level: number | null;
  build_days: number | null;
  search: string;
  offers: string;
}

type OfferTold = [number, string, number | null, number | null, number | null, number | null, string, number];

/** All items over all open demand that something has to be done about, the most urgent first. */
export async function reorder(
  ctx: Reading,
  { search, supplier }: { search: string; supplier?: number | undefined },
): Promise<{ rows: ReorderRow[]; looked: number }> {
  const found = await projections(ctx);
  const items = await ctx.sql.all<ItemRow>(
    `SELECT ${BRIEF}, i.reorder_level AS level, i.build_days, i.search,
            (SELECT json_group_array(json_array(s.supplier_id, f.name, s.price, s.lead_days, s.minimum, s.multiple, f.code, s.preferred)
                      ORDER BY s.preferred DESC, f.code_key)
               FROM item_supplier s JOIN firm f ON f.id = s.supplier_id WHERE s.item_id = i.id) AS offers
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value JOIN unit u ON u.code = i.unit`,
    { ids: asJson(found.keys()) },
  );
  const lists = await revisionsInForce(
    ctx,
    items.filter((row) => row.kind === "built").map((row) => row.id),
  );
  const words = searchText(search).split(/\s+/).filter(Boolean);
  const rows = items
    .filter((row) => words.every((word) => row.search.includes(word)))
    .flatMap((row) => {
      const projection = found.get(row.id);
      return projection ? [rowOf(row, projection, lists.has(row.id), ctx.today)] : [];
    })
    .filter((row) => supplier === undefined || row.offers.some((o) => o.supplier.id === supplier));
  const urgency = (row: ReorderRow) => row.by ?? row.firstShort ?? "9999";
  return {
    rows: rows.sort((a, b) => (urgency(a) < urgency(b) ? -1 : urgency(a) > urgency(b) ? 1 : 0)),
    looked: found.size,
  };
}

function rowOf(row: ItemRow, projection: Projection, hasList: boolean, today: Day): ReorderRow {
  const wanted = quantityFromWhole(projection.wanted);
  const offers = (JSON.parse(row.offers) as OfferTold[]).map(
    ([firm, name, price, lead, minimum, multiple, code, preferred]) => {
      const { offer } = offerOf([firm, name, price, lead, minimum, multiple]);
      const quantity = toOrder(wanted, offer);
      return {
        offer,
        told: {
          supplier: { id: firm, code, name },
          preferred: preferred === 1,
          price: offer.price?.toFixed() ?? null,
          quantity: quantity.toFixed(),
          cost: offer.price === null ? null : lineTotal(quantity, offer.price).toFixed(2),
          arrives: arrivesBy(today, offer),
        },
      };
    },
  );
  const chosen = row.state === "active" ? (offers.find((o) => o.told.preferred) ?? offers[0]) : undefined;
  const act = whatToDo(projection, hasList, chosen?.offer);
  const days = act === "build" ? (row.build_days ?? 0) : (chosen?.offer.leadDays ?? null);
  return Object.assign(briefFrom(row), {
    free: quantityFromWhole(projection.free).toFixed(),
    incoming: quantityFromWhole(projection.projected - projection.free).toFixed(),
    projected: quantityFromWhole(projection.projected).toFixed(),
    level: row.level === null ? null : quantityFromWhole(row.level).toFixed(),
    firstShort: projection.firstShort,
    comesTooLate: projection.comesTooLate,
    act,
    quantity: act === "order" && chosen ? chosen.told.quantity : wanted.toFixed(),
    by: act === "bring forward" ? projection.firstShort : actBy(projection, days),
    supplier: act === "build" ? null : (chosen?.told.supplier ?? null),
    offers: offers.map((o) => o.told),
  });
}

function whatToDo(projection: Projection, hasList: boolean, offer: Offer | undefined): ReorderRow["act"] {
  if (projection.wanted === 0) return "bring forward";
  if (hasList) return "build";
  return offer ? "order" : "nothing known";
}
