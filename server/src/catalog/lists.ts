import {
  type Day,
  type DrawnAt,
  type FullLine,
  type ItemKind,
  isStocked,
  type ListLine,
  moneyFromWhole,
  type PartsList,
  quantityFromWhole,
  quantityToWhole,
  type Substitute,
  type Units,
  withOptions,
} from "@yosegi/core";
import { asJson, type Reading, type RevisionRow } from "../db/index.ts";
import { loadUnits, unitNamed } from "./units.ts";

export type FullList = PartsList<FullLine>;

/** A line as tables keep it: quantities in millionths, waste in millionths of a percent. */
export interface LineRow {
  item: number;
  quantity: number;
  unit: string;
  waste: number;
  once: number;
  stock_unit: string;
  kind: ItemKind;
  not_stock_tracked: number;
}

/** What a query of lines reads of each line `l` and its item `i`. */
export const LINE_COLUMNS = `l.item_id AS item, l.quantity, l.unit, l.waste, l.once, i.unit AS stock_unit, i.kind, i.not_stock_tracked`;

/** Makes a line of the core from its row, whether of a parts list or of a build. */
export function lineOf(row: LineRow, units: Units): ListLine {
  return {
    item: row.item,
    quantity: quantityFromWhole(row.quantity),
    unit: unitNamed(units, row.unit),
    stockUnit: unitNamed(units, row.stock_unit),
    waste: quantityFromWhole(row.waste),
    oncePerBuild: row.once === 1,
    service: row.kind === "service",
    stocked: isStocked({ kind: row.kind, notCounted: row.not_stock_tracked === 1 }),
  };
}

/** Columns of a line to write, in the order item, quantity, unit, waste, once. */
export function lineColumns(line: ListLine): [number, number, string, number, number] {
  return [
    line.item,
    quantityToWhole(line.quantity),
    line.unit.code,
    quantityToWhole(line.waste),
    line.oncePerBuild ? 1 : 0,
  ];
}

/**
 * SQL for the revision of a list that is in force on a day: the newest locked one whose start has come; while none is
 * locked, the newest draft. A part has run out when nothing of it is free any more, as of $today.
 */
export const inForce = (list: string, day = "$today"): string => `(
  SELECT v.id FROM revision v
   WHERE v.list_id = ${list} AND (v.state = 'draft' OR v.state = 'locked' AND (v.starts = 'at once'
      OR v.starts = 'day' AND v.starts_on <= ${day}
      OR v.starts = 'run out'
         AND (SELECT COALESCE(SUM(quantity), 0) FROM usable_stock
               WHERE item_id = v.starts_after AND (expiry IS NULL OR expiry >= $today))
          <= (SELECT COALESCE(SUM(quantity), 0) FROM reserved WHERE item_id = v.starts_after)))
   ORDER BY v.state = 'locked' DESC, v.number DESC LIMIT 1)`;

/** SQL for the revision in force of a product's main list. */
export const mainInForce = (product: string, day = "$today"): string =>
  inForce(`(SELECT id FROM parts_list WHERE product_id = ${product} AND main = 1)`, day);

/** Which revision of their main list products are built by on a day. */
export async function revisionsInForce(
  ctx: Reading,
  products: Iterable<number>,
  day: Day = ctx.today,
): Promise<Map<number, number>> {
  const rows = await ctx.sql.all<{ product: number; revision: number | null }>(
    `SELECT ids.value AS product, ${mainInForce("ids.value", "$day")} AS revision FROM json_each($ids) ids`,
    { ids: asJson(new Set(products)), today: ctx.today, day },
  );
  return new Map(
    rows.flatMap(({ product, revision }) => (revision === null ? [] : [[product, revision] as const])),
  );
}

/** The days to come on which another revision of a product's main list takes effect, the first one first. */
export async function startsAfter(
  ctx: Reading,
  products: Iterable<number>,
): Promise<{ product: number; day: Day }[]> {
  const all = await ctx.memoOfCatalog(`starts after ${ctx.today}`, () =>
    ctx.sql.all<{ product: number; day: Day }>(
      `SELECT DISTINCT l.product_id AS product, r.starts_on AS day
         FROM revision r JOIN parts_list l ON l.id = r.list_id AND l.main = 1
        WHERE r.state = 'locked' AND r.starts = 'day' AND r.starts_on > $today ORDER BY day`,
      { today: ctx.today },
    ),
  );
  const wanted = new Set(products);
  return all.filter(({ product }) => wanted.has(product));
}

/**
 * The main lists in force on a day (docs/rules.md § 2) of the products named, by product, as a build takes them that
 * chooses no optional part.
 */
export async function loadLists(
  ctx: Reading,
  products: Iterable<number>,
  day: Day = ctx.today,
): Promise<Map<number, FullList>> {
  const kept = await ctx.memoOfCatalog(
    `lists of ${ctx.today} on ${day}`,
    async () => new Map<number, FullList | null>(),
  );
  const wanted = [...new Set(products)];
  const unread = wanted.filter((product) => !kept.has(product));
  if (unread.length > 0) {
    const inUse = await revisionsInForce(ctx, unread, day);
    const lists = await loadRevisions(ctx, inUse.values());
    for (const product of unread) {
      const list = lists.get(inUse.get(product) ?? 0);
      kept.set(product, list ? withOptions(list, NOTHING) : null);
    }
  }
  return new Map(
    wanted.flatMap((product) => {
      const list = kept.get(product);
      return list ? [[product, list] as const] : [];
    }),
  );
}

const NOTHING: ReadonlySet<number> = new Set();

interface FullRow extends LineRow {
  revision: number;
  line: number;
  optional: number;
  drawn_at: DrawnAt;
  store: number | null;
  note: string;
  share: number | null;
  person: number | null;
}

/** Revisions with all their lines, optional ones too, by id. */
export async function loadRevisions(
  ctx: Reading,
  revisions: Iterable<number>,
): Promise<Map<number, FullList>> {
  const wanted = new Set(revisions);
  if (wanted.size === 0) return new Map();
  const ids = asJson(wanted);
  const heads = await ctx.sql.all<
    Pick<RevisionRow, "id" | "makes" | "usual" | "overhead" | "extra" | "yield"> & { decimals: number }
  >(
    `SELECT r.id, r.makes, r.usual, r.overhead, r.extra, r.yield, u.decimals
       FROM json_each($ids) ids JOIN revision r ON r.id = ids.value JOIN parts_list p ON p.id = r.list_id
       JOIN item i ON i.id = p.product_id JOIN unit u ON u.code = i.unit`,
    { ids },
  );
  const rows = await ctx.sql.all<FullRow>(
    `SELECT l.revision_id AS revision, l.line, ${LINE_COLUMNS}, l.optional, l.drawn_at, l.location_id AS store, l.note, l.share,
            l.person_id AS person
       FROM json_each($ids) ids JOIN revision_line l ON l.revision_id = ids.value JOIN item i ON i.id = l.item_id
      ORDER BY l.revision_id, l.line`,
    { ids },
  );
  const substitutes = await loadSubstitutes(ctx, ids);
  const units = await loadUnits(ctx);
  const linesOf = new Map<number, FullLine[]>(heads.map((head) => [head.id, []]));
  for (const row of rows)
    linesOf.get(row.revision)?.push({
      ...lineOf(row, units),
      optional: row.optional === 1,
      drawnAt: row.drawn_at,
      store: row.store,
      note: row.note,
      share: row.share === null ? null : quantityFromWhole(row.share),
      person: row.person,
      substitutes: substitutes.get(`${row.revision} ${row.line}`) ?? [],
    });
  return new Map(
    heads.map((head) => [
      head.id,
      {
        makes: quantityFromWhole(head.makes),
        usual: quantityFromWhole(head.usual),
        overhead: moneyFromWhole(head.overhead),
        extra: moneyFromWhole(head.extra),
        yield: quantityFromWhole(head.yield),
        decimals: head.decimals,
        lines: linesOf.get(head.id) ?? [],
      },
    ]),
  );
}

async function loadSubstitutes(ctx: Reading, ids: string): Promise<Map<string, Substitute[]>> {
  const rows = await ctx.sql.all<{ revision: number; line: number; item: number; quantity: number }>(
    `SELECT s.revision_id AS revision, s.line, s.item_id AS item, s.quantity
       FROM json_each($ids) ids JOIN line_substitute s ON s.revision_id = ids.value ORDER BY s.revision_id, s.line, s.position`,
    { ids },
  );
  const byLine = new Map<string, Substitute[]>();
  for (const { revision, line, item, quantity } of rows) {
    const key = `${revision} ${line}`;
    byLine.set(key, [...(byLine.get(key) ?? []), { item, quantity: quantityFromWhole(quantity) }]);
  }
  return byLine;
}
