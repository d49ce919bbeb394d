import type { AnswerOf, ReorderRow, routes } from "@yosegi/contract";
import {
  actBy,
  arrivesBy,
  type Decimal,
  type Offer,
  type OnDraft,
  type Projection,
  project,
  quantityFromScaled,
  quantityToBuild,
  quantityToOrder,
  type StockChange,
  valueAt,
} from "@yosegi/core";
import { draftsAnswer, draftsOf, type OfferRow, offerOf } from "../cover/index.ts";
import { asJson, groupBy, type PageQuery, pageOf, type Reading } from "../db/index.ts";
import { BRIEF, type BriefRow, briefFrom } from "../items/index.ts";
import { IDS, joinReserved, RESERVED } from "../ledger/index.ts";
import { revisionsInForce } from "../lists/index.ts";

interface Candidate {
  item: number;
  usable: number;
  level: number;
}

/**
 * Items whose free stock, without anything that comes, is below zero or their level: no other can fall short on any day.
 * Only items with a level, or of which something is reserved, are looked at.
 */
const CANDIDATES = `
  WITH looked AS (SELECT id FROM item_head WHERE reorder_level > 0 UNION SELECT item_id FROM reserved_by_builds
                  UNION SELECT item_id FROM reserved_by_orders),
       stock AS (SELECT item_id, SUM(CASE WHEN expiry < $today THEN 0 ELSE quantity END) AS usable
                   FROM usable_stock WHERE item_id IN (SELECT id FROM looked) GROUP BY item_id)
  SELECT i.id AS item, COALESCE(i.reorder_level, 0) AS level, COALESCE(s.usable, 0) AS usable
    FROM looked JOIN item_head i ON i.id = looked.id LEFT JOIN stock s ON s.item_id = i.id ${joinReserved("i.id", "SELECT id FROM looked")}
   WHERE i.state <> 'archived' AND COALESCE(s.usable, 0) - (${RESERVED}) < COALESCE(i.reorder_level, 0)`;

/** Every need of the items named, below zero, and all that is on its way, by day. */
const changesOf = (ctx: Reading, ids: string): Promise<(StockChange & { item: number })[]> =>
  ctx.sql.all<StockChange & { item: number }>(
    `SELECT item_id AS item, day, -SUM(quantity) AS change FROM reservation WHERE item_id IN (${IDS}) GROUP BY 1, 2
      UNION ALL
     SELECT item_id, day, SUM(quantity) FROM incoming WHERE item_id IN (${IDS}) GROUP BY 1, 2`,
    { ids },
  );

/** What has to be done about each item that falls below zero or its level; by item. */
export async function projections(ctx: Reading): Promise<Map<number, Projection>> {
  const candidates = await ctx.sql.all<Candidate>(CANDIDATES, { today: ctx.today });
  const ids = asJson(candidates.map((c) => c.item));
  const changes = groupBy(await changesOf(ctx, ids), (change) => change.item);
  const found = new Map<number, Projection>();
  for (const { item, usable, level } of candidates) {
    const projection = project({ usable, level, changes: changes.get(item) ?? [] }, ctx.today);
    if (projection.wanted > 0 || projection.firstShort !== null) found.set(item, projection);
  }
  return found;
}

interface CandidateItem extends BriefRow {
  level: number | null;
  build_days: number | null;
  search: string;
  offers: string;
}

type OfferColumns = OfferRow & { code: string; preferred: number };

/** A page of the items over all open demand that something has to be done about, the most urgent first. */
export async function reorder(
  ctx: Reading,
  { supplier, ...query }: PageQuery & { supplier?: number | undefined },
): Promise<AnswerOf<typeof routes.reorder>> {
  const found = await projections(ctx);
  const items = await ctx.sql.all<CandidateItem>(
    `SELECT ${BRIEF}, i.reorder_level AS level, i.build_days, i.search,
            (SELECT json_group_array(json_object('firm', s.supplier_id, 'name', f.name, 'price', s.price, 'per', s.price_per,
                      'unit', s.price_unit, 'lead', s.lead_days, 'minimum', s.minimum, 'multiple', s.multiple, 'web', s.web, 'code', f.code,
                      'preferred', s.preferred) ORDER BY s.preferred DESC, f.code_key)
               FROM supplier_terms s JOIN firm_head f ON f.id = s.supplier_id
              WHERE s.item_id = i.id AND (f.archived = 0 OR s.preferred = 1)) AS offers
       FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value`,
    { ids: asJson(found.keys()) },
  );
  const lists = await revisionsInForce(
    ctx,
    items.filter((row) => row.kind === "built").map((row) => row.id),
  );
  const drafts = await draftsOf(ctx, found.keys());
  const all = items
    .flatMap((row) => {
      const projection = found.get(row.id);
      const known = { hasList: lists.has(row.id), drafts: drafts.get(row.id) ?? [] };
      return projection ? [rowOf(ctx, row, projection, known)] : [];
    })
    .filter((row) => supplier === undefined || row.offers.some((o) => o.supplier.id === supplier));
  const urgency = (row: ReorderRow) => row.by ?? row.firstShort ?? "9999";
  all.sort((a, b) => (urgency(a) < urgency(b) ? -1 : urgency(a) > urgency(b) ? 1 : 0));
  const searched = new Map(items.map((row) => [row.id, row.search]));
  const textOf = (row: ReorderRow) => searched.get(row.id) ?? "";
  const page = pageOf(all, query, textOf);
  const isDue = (row: ReorderRow) => row.by !== null && row.by <= ctx.today;
  const due = pageOf(all.filter(isDue), { search: query.search, limit: 1 }, textOf);
  return { ...page, looked: found.size, dueToday: due.total };
}

interface Known {
  hasList: boolean;
  drafts: readonly OnDraft[];
}

function rowOf(
  ctx: Reading,
  row: CandidateItem,
  projection: Projection,
  { hasList, drafts }: Known,
): ReorderRow {
  const wanted = quantityFromScaled(projection.wanted);
  const offers = (JSON.parse(row.offers) as OfferColumns[]).map((answer) =>
    offerAnswer(ctx, answer, wanted, drafts),
  );
  const chosen = row.state === "active" ? (offers.find((o) => o.answer.preferred) ?? offers[0]) : undefined;
  const act = whatToDo(projection, hasList, chosen?.offer);
  const days = act === "build" ? (row.build_days ?? 0) : (chosen?.offer.leadDays ?? null);
  return Object.assign(briefFrom(row), {
    free: quantityFromScaled(projection.free).toFixed(),
    incoming: quantityFromScaled(projection.projected - projection.free).toFixed(),
    projected: quantityFromScaled(projection.projected).toFixed(),
    level: row.level === null ? null : quantityFromScaled(row.level).toFixed(),
    firstShort: projection.firstShort,
    comesTooLate: projection.comesTooLate,
    act,
    quantity: act === "order" && chosen ? chosen.answer.quantity : quantityToBuild(wanted, drafts).toFixed(),
    onDrafts: draftsAnswer(drafts),
    by: act === "bring forward" ? projection.firstShort : actBy(projection, days),
    supplier: act === "build" ? null : (chosen?.answer.supplier ?? null),
    offers: offers.map((o) => o.answer),
  });
}

/** What one supplier offers, and what would be ordered of it. */
function offerAnswer(
  ctx: Reading,
  { code, preferred, ...row }: OfferColumns,
  wanted: Decimal,
  drafts: readonly OnDraft[],
) {
  const { offer, supplier, web, per } = offerOf(row);
  const quantity = quantityToOrder(wanted, offer, drafts);
  const { price } = offer;
  const decimals = ctx.currencyDecimals;
  return {
    offer,
    answer: {
      supplier: { ...supplier, code },
      web,
      preferred: preferred === 1,
      price: price?.amount.toFixed() ?? null,
      pricePer: price === null ? "" : per,
      quantity: quantity.toFixed(),
      cost: price === null ? null : valueAt(quantity, price, decimals).toFixed(decimals),
      arrives: arrivesBy(ctx.today, offer),
    },
  };
}

function whatToDo(projection: Projection, hasList: boolean, offer: Offer | undefined): ReorderRow["act"] {
  if (projection.wanted === 0) return "bring forward";
  if (hasList) return "build";
  return offer ? "order" : "nothing known";
}
