import type { ItemBrief } from "@yosegi/contract";
import {
  type Day,
  type Decimal,
  type Offer,
  type OnDraft,
  type PartsList,
  quantityFromWhole,
  type Rate,
  type Supply,
} from "@yosegi/core";
import { BRIEF, type BriefRow, briefFrom, loadLists, startsAfter } from "../catalog/index.ts";
import { asJson, groupBy, type Reading, rateOrNull } from "../db/index.ts";
import { IDS, stockOf } from "../ledger/index.ts";

/** Something that is on its way, and the document that says so. */
export interface Coming {
  key: string;
  document: string;
  purchase: number | null;
  build: number | null;
  quantity: Decimal;
  /** As it was told; what is overdue keeps its day here. */
  day: Day | null;
}

/** All that a check needs to know of one item. */
export interface ItemFacts extends Supply {
  brief: ItemBrief;
  bin: string;
  level: number | null;
  price: Rate | null;
  coming: Coming[];
  supplier: { id: number; name: string } | null;
  /** What the preferred supplier's price is for: a unit or pack; empty: the item's own unit. */
  offerPer: string;
  /** Items that the lists it is built by take. */
  below: number[];
}

/** What a check looks at, and what it supposes. */
export interface Scope {
  /** Id of the one store that counts; null: all stores. */
  store: number | null;
  /** Builds that stand for a demand: what they have reserved, and what they bring, does not count beside it. */
  own: readonly number[];
  onHand: ReadonlyMap<number, Decimal>;
  days: ReadonlyMap<string, Day>;
}

interface FactRow extends BriefRow {
  bin: string;
  level: number | null;
  price: number | null;
  price_per: number;
  build_days: number | null;
  on_hand: number;
  expired: number;
  reserved: number;
  offer: string | null;
}

/** Narrows a view of stock or of open documents to the items, the store, and the builds of others that a scope counts. */
export function scoped(
  { store, own }: Pick<Scope, "store" | "own">,
  view: "usable_stock" | "documents",
): string {
  const here = store === null ? "" : " AND place_id = $store";
  const others =
    view === "usable_stock" || own.length === 0
      ? ""
      : " AND (build_id IS NULL OR build_id NOT IN (SELECT value FROM json_each($own)))";
  return `item_id IN (${IDS})${here}${others}`;
}

export const scopeBinds = ({ store, own }: Pick<Scope, "store" | "own">) => ({
  ...(store !== null && { store }),
  ...(own.length > 0 && { own: asJson(own) }),
});

const itemsStatement = (scope: Scope): string => `
  SELECT ${BRIEF}, i.home_bin AS bin, i.reorder_level AS level, i.price, i.price_per, i.build_days,
         COALESCE(st.on_hand, 0) AS on_hand, COALESCE(st.expired, 0) AS expired, COALESCE(rv.quantity, 0) AS reserved,
         (SELECT json_object('firm', s.supplier_id, 'name', f.name, 'price', s.price, 'per', s.price_per, 'unit', s.price_unit,
                             'lead', s.lead_days, 'minimum', s.minimum, 'multiple', s.multiple)
            FROM item_supplier s JOIN firm f ON f.id = s.supplier_id WHERE s.item_id = i.id AND s.preferred = 1) AS offer
    FROM json_each($ids) ids JOIN item i ON i.id = ids.value JOIN unit u ON u.code = i.unit
    LEFT JOIN (SELECT item_id, SUM(quantity) AS on_hand, SUM(CASE WHEN expiry < $today THEN quantity ELSE 0 END) AS expired
                 FROM usable_stock WHERE ${scoped(scope, "usable_stock")} GROUP BY item_id) st ON st.item_id = i.id
    LEFT JOIN (SELECT item_id, SUM(quantity) AS quantity FROM reservation WHERE ${scoped(scope, "documents")} GROUP BY item_id) rv
           ON rv.item_id = i.id`;

/** What is known of the items named. */
export async function loadFacts(
  ctx: Reading,
  items: Iterable<number>,
  scope: Scope,
): Promise<Map<number, ItemFacts>> {
  const ids = asJson(new Set(items));
  const binds = { ids, ...scopeBinds(scope) };
  const rows = await ctx.sql.all<FactRow>(itemsStatement(scope), { ...binds, today: ctx.today });
  const coming = await comingOf(ctx, scope, binds);
  const drafts = await draftsOf(ctx, scope, ids);
  const built = rows.filter((row) => row.kind === "built").map((row) => row.id);
  const listsOf = await listsByDay(ctx, built);
  return new Map(
    rows.map((row) => {
      const found = coming.get(row.id) ?? [];
      return [row.id, factsOf(row, found, drafts.get(row.id) ?? [], listsOf(row.id), scope)];
    }),
  );
}

function factsOf(
  row: FactRow,
  coming: Coming[],
  drafts: readonly OnDraft[],
  lists: readonly DatedList[],
  { onHand }: Scope,
): ItemFacts {
  const offer = row.offer === null ? null : offerOf(JSON.parse(row.offer));
  const supposed = onHand.get(row.id);
  const stock = stockOf(row);
  return {
    brief: briefFrom(row),
    bin: row.bin,
    level: row.level,
    price: rateOrNull(row.price, row.price_per),
    // What is supposed to be on hand is supposed to be usable.
    stock: supposed ? { ...stock, onHand: supposed, expired: quantityFromWhole(0) } : stock,
    coming,
    incoming: coming,
    drafts,
    // What is running out is used up and not bought any more.
    offer: row.state === "active" ? (offer?.offer ?? null) : null,
    offerPer: offer?.per ?? "",
    supplier: offer?.supplier ?? null,
    recipe:
      lists.length === 0
        ? null
        : {
            listOn: (day) => lists.findLast(({ from }) => from === null || from <= day)?.list ?? null,
            buildDays: row.build_days ?? 0,
          },
    below: lists.flatMap(({ list }) => list.lines.map((line) => line.item)),
  };
}

/** A list, and the day from which it is the one to build by; null: by now. */
interface DatedList {
  from: Day | null;
  list: PartsList;
}

/** The lists that each product is built by, that of today first, and each that takes effect on a later day. */
async function listsByDay(
  ctx: Reading,
  products: readonly number[],
): Promise<(product: number) => readonly DatedList[]> {
  if (products.length === 0) return () => [];
  const found = new Map<number, DatedList[]>();
  for (const [product, list] of await loadLists(ctx, products)) found.set(product, [{ from: null, list }]);
  for (const [from, starts] of groupBy(await startsAfter(ctx, products), (start) => start.day)) {
    const changed = starts.map((start) => start.product);
    for (const [product, list] of await loadLists(ctx, changed, from))
      found.set(product, [...(found.get(product) ?? []), { from, list }]);
  }
  return (product) => found.get(product) ?? [];
}

interface IncomingRow {
  item: number;
  line: number | null;
  purchase: number | null;
  build: number | null;
  document: string;
  quantity: number;
  day: Day | null;
}

async function comingOf(
  ctx: Reading,
  scope: Scope,
  binds: Record<string, string | number>,
): Promise<Map<number, Coming[]>> {
  const rows = await ctx.sql.all<IncomingRow>(
    `SELECT item_id AS item, line_id AS line, purchase_id AS purchase, build_id AS build, number AS document, quantity, day
       FROM incoming WHERE ${scoped(scope, "documents")} ORDER BY build_id IS NOT NULL, day, line_id, build_id`,
    binds,
  );
  const told = rows.map(({ item, line, quantity, ...row }) => {
    const key = line === null ? `build ${row.build}` : `line ${line}`;
    return { item, ...row, key, quantity: quantityFromWhole(quantity), day: scope.days.get(key) ?? row.day };
  });
  return groupBy(told, (row) => row.item);
}

/** What stands on drafts; a draft that is asked for itself is the demand, and no help with it. */
export async function draftsOf(
  ctx: Reading,
  { own }: Pick<Scope, "own">,
  ids: string,
): Promise<Map<number, OnDraft[]>> {
  const rows = await ctx.sql.all<{ item: number; firm: number | null; document: string; quantity: number }>(
    `SELECT item_id AS item, supplier_id AS firm, number AS document, quantity FROM on_draft
      WHERE ${scoped({ store: null, own }, "documents")} ORDER BY purchase_id, build_id`,
    { ids, ...scopeBinds({ store: null, own }) },
  );
  return groupBy(
    rows.map(({ quantity, ...row }) => ({ ...row, quantity: quantityFromWhole(quantity) })),
    (row) => row.item,
  );
}

/** An offer as a query reads it. */
export interface OfferRow {
  firm: number;
  name: string;
  price: number | null;
  per: number;
  unit: string;
  lead: number | null;
  minimum: number | null;
  multiple: number | null;
}

export function offerOf({ firm, name, price, per, unit, lead, minimum, multiple }: OfferRow): {
  supplier: { id: number; name: string };
  per: string;
  offer: Offer;
} {
  const quantity = (whole: number | null) => (whole === null ? null : quantityFromWhole(whole));
  return {
    supplier: { id: firm, name },
    per: unit,
    offer: {
      firm,
      leadDays: lead,
      price: rateOrNull(price, per),
      minimum: quantity(minimum),
      multiple: quantity(multiple),
    },
  };
}
