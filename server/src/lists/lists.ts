import {
  type Day,
  type DrawnAt,
  type FullLine,
  moneyFromScaled,
  type PartsList,
  quantityFromScaled,
  type Substitute,
  withOptions,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { loadUnits } from "../items/index.ts";
import { revisionsInForce } from "./inforce.ts";
import { LINE_COLUMNS, type LineRow, lineOf } from "./lines.ts";
import type { RevisionRow } from "./tables.ts";

export interface FullList extends PartsList<FullLine> {
  /** How it is put together, in a few lines for the builder. */
  instructions: string;
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
      kept.set(product, list ? { ...list, ...withOptions(list, NOTHING) } : null);
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
    Pick<RevisionRow, "id" | "makes" | "usual" | "overhead" | "extra" | "yield" | "instructions"> & {
      decimals: number;
    }
  >(
    `SELECT r.id, r.makes, r.usual, r.overhead, r.extra, r.yield, r.instructions, i.decimals
       FROM json_each($ids) ids JOIN revision r ON r.id = ids.value JOIN parts_list p ON p.id = r.list_id
       JOIN item_head i ON i.id = p.product_id`,
    { ids },
  );
  const rows = await ctx.sql.all<FullRow>(
    `SELECT l.revision_id AS revision, l.line, ${LINE_COLUMNS}, l.optional, l.drawn_at, l.location_id AS store, l.note, l.share,
            l.person_id AS person
       FROM json_each($ids) ids JOIN revision_line l ON l.revision_id = ids.value JOIN item_head i ON i.id = l.item_id
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
      share: row.share === null ? null : quantityFromScaled(row.share),
      person: row.person,
      substitutes: substitutes.get(`${row.revision} ${row.line}`) ?? [],
    });
  return new Map(
    heads.map((head) => [
      head.id,
      {
        makes: quantityFromScaled(head.makes),
        usual: quantityFromScaled(head.usual),
        overhead: moneyFromScaled(head.overhead),
        extra: moneyFromScaled(head.extra),
        yield: quantityFromScaled(head.yield),
        decimals: head.decimals,
        instructions: head.instructions,
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
    byLine.set(key, [...(byLine.get(key) ?? []), { item, quantity: quantityFromScaled(quantity) }]);
  }
  return byLine;
}
