import type { ItemBrief } from "@yosegi/contract";
import {
  type Day,
  type Decimal,
  type Offer,
  type OnDraft,
  type PartsList,
  quantityFromScaled,
  type Rate,
  type Supply,
} from "@yosegi/core";
import { asJson, groupBy, type Reading, rateOrNull } from "../db/index.ts";
import { BRIEF, type BriefRow, briefFrom } from "../items/index.ts";
import { IDS, joinReserved, RESERVED, type StockRow, stockOf } from "../ledger/index.ts";
import { loadLists, startsAfter } from "../lists/index.ts";

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
  /** Where the preferred supplier sells it on the web; empty: nowhere. */
  web: string;
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

/** What the catalog says of an item, kept until it changes. */
interface CatalogFacts
  extends Pick<ItemFacts, "brief" | "bin" | "level" | "price" | "offer" | "offerPer" | "supplier" | "web"> {
  buildDays: number;
}

interface CatalogRow extends BriefRow {
  bin: string;
  level: number | null;
  price: number | null;
  price_per: number;
  build_days: number | null;
  offer: string | null;
}

/** Narrows a view of stock or of open documents to the items, the store, and the builds of others that a scope counts. */
export function scoped(scope: Pick<Scope, "store" | "own">, view: "usable_stock" | "documents"): string {
  const here = scope.store === null ? "" : " AND location_id = $store";
  return `item_id IN (${IDS})${here}${view === "documents" ? ` AND ${othersOf(scope)}` : ""}`;
}

/** Leaves out the builds that stand for a demand. */
const othersOf = ({ own }: Pick<Scope, "own">): string =>
  own.length === 0 ? "true" : "(build_id IS NULL OR build_id NOT IN (SELECT value FROM json_each($own)))";

export const scopeBinds = ({ store, own }: Pick<Scope, "store" | "own">) => ({
  ...(store !== null && { store }),
  ...(own.length > 0 && { own: asJson(own) }),
});

/** What is reserved: of all stores by item, of one only as far as it is taken there. */
function reservedOf(scope: Scope): { column: string; join: string } {
  if (scope.store === null) return { column: RESERVED, join: joinReserved("i.value", IDS, othersOf(scope)) };
  const sum = `SELECT item_id, SUM(quantity) AS quantity FROM reservation WHERE ${scoped(scope, "documents")} GROUP BY item_id`;
  return { column: "COALESCE(rv.quantity, 0)", join: `LEFT JOIN (${sum}) rv ON rv.item_id = i.value` };
}

interface FiguresRow extends StockRow {
  item: number;
}

const FIGURES = ["item", "on_hand", "expired", "reserved"] as const;

/** Stock of the items named, as far as a scope counts it. */
async function figuresOf(ctx: Reading, ids: string, scope: Scope): Promise<FiguresRow[]> {
  const { column, join } = reservedOf(scope);
  return ctx.sql.allAtOnce<FiguresRow>(
    FIGURES,
    `SELECT i.value AS item, COALESCE(st.on_hand, 0) AS on_hand, COALESCE(st.expired, 0) AS expired, ${column} AS reserved
       FROM json_each($ids) i
       LEFT JOIN (SELECT item_id, SUM(quantity) AS on_hand, SUM(CASE WHEN expiry < $today THEN quantity ELSE 0 END) AS expired
                    FROM usable_stock WHERE ${scoped(scope, "usable_stock")} GROUP BY item_id) st ON st.item_id = i.value
       ${join}`,
    { ids, ...scopeBinds(scope), today: ctx.today },
  );
}

/** What the catalog says of the items named; read once, and again only where the catalog has changed. */
async function catalogFacts(
  ctx: Reading,
  items: Iterable<number>,
): Promise<ReadonlyMap<number, CatalogFacts>> {
  const kept = await ctx.memoOfCatalog("facts of items", async () => new Map<number, CatalogFacts>());
  const unread = [...items].filter((item) => !kept.has(item));
  if (unread.length === 0) return kept;
  const rows = await ctx.sql.all<CatalogRow>(
    `SELECT ${BRIEF}, i.home_bin AS bin, i.reorder_level AS level, x.price, x.price_per, i.build_days,
            (SELECT json_object('firm', s.supplier_id, 'name', f.name, 'price', s.price, 'per', s.price_per, 'unit', s.price_unit,
                                'lead', s.lead_days, 'minimum', s.minimum, 'multiple', s.multiple, 'web', s.web)
               FROM supplier_terms s JOIN firm_head f ON f.id = s.supplier_id WHERE s.item_id = i.id AND s.preferred = 1) AS offer
       FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value JOIN item_price x ON x.item_id = i.id`,
    { ids: asJson(unread) },
  );
  for (const row of rows) kept.set(row.id, catalogFactsOf(row));
  return kept;
}

function catalogFactsOf(row: CatalogRow): CatalogFacts {
  const offer = row.offer === null ? null : offerOf(JSON.parse(row.offer));
  return {
    brief: briefFrom(row),
    bin: row.bin,
    level: row.level,
    price: rateOrNull(row.price, row.price_per),
    // What is running out is used up and not bought any more.
    offer: row.state === "active" ? (offer?.offer ?? null) : null,
    offerPer: offer?.per ?? "",
    supplier: offer?.supplier ?? null,
    web: offer?.web ?? "",
    buildDays: row.build_days ?? 0,
  };
}

/** What is known of `parts`, and of `products` that are wanted: of these only what is finished, for nothing that comes covers them. */
export async function loadFacts(
  ctx: Reading,
  parts: ReadonlySet<number>,
  scope: Scope,
  products: ReadonlySet<number> = new Set(),
): Promise<Map<number, ItemFacts>> {
  const all = new Set([...parts, ...products]);
  const catalog = await catalogFacts(ctx, all);
  const figures = await figuresOf(ctx, asJson(all), scope);
  const { coming, drafts } = await documentsOf(ctx, scope, asJson(parts));
  const built = [...parts].filter((item) => catalog.get(item)?.brief.kind === "built");
  const listsOf = await listsByDay(ctx, built);
  const found = new Map<number, ItemFacts>();
  for (const row of figures) {
    const known = catalog.get(row.item);
    if (!known) continue;
    const documents = { coming: coming.get(row.item) ?? [], drafts: drafts.get(row.item) ?? [] };
    found.set(row.item, factsOf(row, known, { ...documents, lists: listsOf(row.item) }, scope));
  }
  return found;
}

/** The same of items, and of all that those among them are built from, level by level. */
export async function loadFactsBelow(
  ctx: Reading,
  items: Iterable<number>,
  scope: Scope,
  demanded: Iterable<number> = [],
): Promise<Map<number, ItemFacts>> {
  const facts = new Map<number, ItemFacts>();
  const parts = new Set<number>();
  let products = new Set(demanded);
  let wanted = new Set(items);
  while (wanted.size + products.size > 0) {
    const found = await loadFacts(ctx, wanted, scope, products);
    for (const [item, known] of found) facts.set(item, known);
    for (const item of wanted) parts.add(item);
    products = new Set();
    // A product that turns out to be a part further down is read again as one.
    const below = [...found.values()].flatMap((f) => f.below);
    wanted = new Set(below.filter((item) => !parts.has(item)));
  }
  return facts;
}

interface Known {
  coming: Coming[];
  drafts: readonly OnDraft[];
  lists: readonly DatedList[];
}

function factsOf(
  row: FiguresRow,
  { brief, bin, level, price, offer, offerPer, supplier, web, buildDays }: CatalogFacts,
  { coming, drafts, lists }: Known,
  { onHand }: Scope,
): ItemFacts {
  const supposed = onHand.get(row.item);
  const stock = stockOf(row);
  return {
    brief,
    bin,
    level,
    price,
    // What is supposed to be on hand is supposed to be usable.
    stock: supposed ? { ...stock, onHand: supposed, expired: quantityFromScaled(0) } : stock,
    coming,
    incoming: coming,
    drafts,
    offer,
    offerPer,
    supplier,
    web,
    recipe:
      lists.length === 0
        ? null
        : {
            listOn: (day) => lists.findLast(({ from }) => from === null || from <= day)?.list ?? null,
            buildDays,
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

interface DocumentRow {
  item: number;
  line: number | null;
  purchase: number | null;
  build: number | null;
  document: string;
  quantity: number;
  day: Day | null;
  draft: number;
  firm: number | null;
}

const DOCUMENT_COLUMNS = [
  "item",
  "line",
  "purchase",
  "build",
  "document",
  "quantity",
  "day",
  "draft",
  "firm",
] as const;

/** What a document is on its way with, and what stands on drafts; a draft that is asked for itself is the demand, and no help with it. */
async function documentsOf(
  ctx: Reading,
  scope: Scope,
  ids: string,
): Promise<{ coming: Map<number, Coming[]>; drafts: Map<number, OnDraft[]> }> {
  const rows = await ctx.sql.allAtOnce<DocumentRow>(
    DOCUMENT_COLUMNS,
    `SELECT * FROM (
     SELECT item_id AS item, line_id AS line, purchase_id AS purchase, build_id AS build, number AS document, quantity, day,
            0 AS draft, NULL AS firm
       FROM incoming WHERE ${scoped(scope, "documents")}
      UNION ALL
     SELECT item_id, NULL, purchase_id, build_id, number, quantity, NULL, 1, supplier_id
       FROM on_draft WHERE ${scoped({ store: null, own: scope.own }, "documents")})
      ORDER BY purchase IS NULL, day, line, purchase, build`,
    { ids, ...scopeBinds(scope) },
  );
  const coming = new Map<number, Coming[]>();
  const drafts = new Map<number, OnDraft[]>();
  for (const { item, line, purchase, build, document, quantity: scaled, day, draft, firm } of rows) {
    const quantity = quantityFromScaled(scaled);
    if (draft === 1) {
      addTo(drafts, item, { firm, document, quantity });
      continue;
    }
    const key = line === null ? `build ${build}` : `line ${line}`;
    addTo(coming, item, { key, document, purchase, build, quantity, day: scope.days.get(key) ?? day });
  }
  return { coming, drafts };
}

function addTo<T>(groups: Map<number, T[]>, item: number, one: T): void {
  const group = groups.get(item);
  if (group) group.push(one);
  else groups.set(item, [one]);
}

/** What stands on drafts of the items named. */
export async function draftsOf(ctx: Reading, items: Iterable<number>): Promise<Map<number, OnDraft[]>> {
  const rows = await ctx.sql.all<{ item: number; firm: number | null; document: string; quantity: number }>(
    `SELECT item_id AS item, supplier_id AS firm, number AS document, quantity FROM on_draft
      WHERE item_id IN (${IDS}) ORDER BY purchase_id, build_id`,
    { ids: asJson(items) },
  );
  return groupBy(
    rows.map(({ quantity, ...row }) => ({ ...row, quantity: quantityFromScaled(quantity) })),
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
  web: string;
}

export function offerOf({ firm, name, price, per, unit, lead, minimum, multiple, web }: OfferRow): {
  supplier: { id: number; name: string };
  web: string;
  per: string;
  offer: Offer;
} {
  const quantity = (scaled: number | null) => (scaled === null ? null : quantityFromScaled(scaled));
  return {
    supplier: { id: firm, name },
    web,
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
