import type { ItemBrief } from "@yosegi/contract";
import {
  type Day,
  type Decimal,
  moneyFromWhole,
  type Offer,
  type PartsList,
  quantityFromWhole,
  type Supply,
} from "@yosegi/core";
import { BRIEF, type BriefRow, briefFrom, loadLists } from "../catalog/index.ts";
import { asJson, type Reading } from "../db/index.ts";

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
  level: Decimal | null;
  price: Decimal | null;
  coming: Coming[];
  supplier: { id: number; name: string } | null;
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
  build_days: number | null;
  on_hand: number;
  expired: number;
  reserved: number;
  bought: string;
  made: string;
  offer: string | null;
}

const FIRST_STORE = "(SELECT id FROM place WHERE kind = 'store' ORDER BY id LIMIT 1)";

/** One statement reads it all: stock, what comes, and the preferred supplier of each item. Served by the indexes of open lines. */
function statement({ store, own }: Scope): string {
  const here = store === null ? "p.kind = 'store'" : "p.id = $store";
  const at = (place: string) =>
    store === null ? "" : `AND COALESCE(${place}, i.home_place_id, ${FIRST_STORE}) = $store`;
  const others = (build: string) =>
    own.length === 0 ? "" : `AND ${build} NOT IN (SELECT value FROM json_each($own))`;
  return `
    SELECT ${BRIEF}, i.home_bin AS bin, i.reorder_level AS level, i.price, i.build_days,
           (SELECT COALESCE(SUM(b.quantity), 0) FROM balance b JOIN place p ON p.id = b.place_id
             WHERE b.item_id = i.id AND ${here}) AS on_hand,
           CASE i.tracking WHEN 'lot' THEN
             (SELECT COALESCE(SUM(b.quantity), 0) FROM balance b JOIN place p ON p.id = b.place_id
                JOIN lot l ON l.item_id = b.item_id AND l.code = b.lot
               WHERE b.item_id = i.id AND ${here} AND l.expiry < $today) ELSE 0 END AS expired,
           (SELECT COALESCE(SUM(l.open), 0) FROM build_line l WHERE l.item_id = i.id AND l.open > 0
               ${at("l.place_id")} ${others("l.build_id")})
             + (SELECT COALESCE(SUM(t.open), 0) FROM sales_take t WHERE t.item_id = i.id AND t.open > 0 ${at("NULL")}) AS reserved,
           (SELECT json_group_array(json_array(l.id, o.id, o.number, l.open, l.expected) ORDER BY l.expected, l.id)
              FROM purchase_line l JOIN purchase o ON o.id = l.purchase_id
             WHERE l.item_id = i.id AND l.open > 0 ${at("NULL")}) AS bought,
           CASE i.kind WHEN 'built' THEN
             (SELECT json_group_array(json_array(b.id, b.number, MIN(b.wanted - b.good, b.quantity - b.good - b.rejected), b.due)
                       ORDER BY b.due, b.id)
                FROM build b WHERE b.product_id = i.id AND b.stage IN ('queued', 'on the bench') ${at("NULL")} ${others("b.id")}) ELSE '[]' END AS made,
           (SELECT json_array(s.supplier_id, f.name, s.price, s.lead_days, s.minimum, s.multiple)
              FROM item_supplier s JOIN firm f ON f.id = s.supplier_id WHERE s.item_id = i.id AND s.preferred = 1) AS offer
      FROM json_each($ids) ids JOIN item i ON i.id = ids.value JOIN unit u ON u.code = i.unit`;
}

/** What is known of the items named. */
export async function loadFacts(
  ctx: Reading,
  items: Iterable<number>,
  scope: Scope,
): Promise<Map<number, ItemFacts>> {
  const ids = [...new Set(items)];
  const rows = await ctx.sql.all<FactRow>(statement(scope), {
    ids: asJson(ids),
    ...(scope.store !== null && { store: scope.store }),
    ...(scope.own.length > 0 && { own: asJson(scope.own) }),
    today: ctx.today,
  });
  const lists = await loadLists(
    ctx,
    rows.filter((row) => row.kind === "built").map((row) => row.id),
  );
  return new Map(rows.map((row) => [row.id, factsOf(row, lists.get(row.id) ?? null, scope)]));
}

function factsOf(row: FactRow, list: PartsList | null, { onHand, days }: Scope): ItemFacts {
  const coming = comingOf(row).map((c) => ({ ...c, day: days.get(c.key) ?? c.day }));
  const offer = row.offer === null ? null : offerOf(JSON.parse(row.offer));
  return {
    brief: briefFrom(row),
    bin: row.bin,
    level: row.level === null ? null : quantityFromWhole(row.level),
    price: row.price === null ? null : moneyFromWhole(row.price),
    stock: {
      onHand: onHand.get(row.id) ?? quantityFromWhole(row.on_hand),
      expired: quantityFromWhole(row.expired),
      reserved: quantityFromWhole(row.reserved),
    },
    coming,
    incoming: coming,
    // What is running out is used up and not bought any more.
    offer: row.state === "active" ? (offer?.offer ?? null) : null,
    supplier: offer?.supplier ?? null,
    recipe: list === null ? null : { list, buildDays: row.build_days ?? 0 },
  };
}

function comingOf(row: FactRow): Coming[] {
  const bought = (JSON.parse(row.bought) as [number, number, string, number, Day | null][]).map(
    ([line, purchase, document, open, day]) => ({
      ...{ key: `line ${line}`, document, purchase, build: null, quantity: quantityFromWhole(open), day },
    }),
  );
  const made = (JSON.parse(row.made) as [number, string, number, Day | null][]).map(
    ([build, document, open, day]) => ({
      ...{
        key: `build ${build}`,
        document,
        purchase: null,
        build,
        quantity: quantityFromWhole(Math.max(0, open)),
        day,
      },
    }),
  );
  return [...bought, ...made].filter((c) => c.quantity.gt(0));
}

type OfferColumns = [number, string, number | null, number | null, number | null, number | null];

export function offerOf([firm, name, price, leadDays, minimum, multiple]: OfferColumns): {
  supplier: { id: number; name: string };
  offer: Offer;
} {
  const quantity = (whole: number | null) => (whole === null ? null : quantityFromWhole(whole));
  return {
    supplier: { id: firm, name },
    offer: {
      firm,
      leadDays,
      price: price === null ? null : moneyFromWhole(price),
      minimum: quantity(minimum),
      multiple: quantity(multiple),
    },
  };
}
