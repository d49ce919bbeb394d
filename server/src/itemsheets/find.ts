import { type AnswerOf, type ItemRow, type QueryOf, Refusal, type routes } from "@yosegi/contract";
import { codeKey, searchText } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { joinStock, RESERVED } from "../ledger/index.ts";
import { mainInForce } from "../lists/index.ts";
import { itemRows } from "./rows.ts";

/** SQL by which each column sorts; kits, whose sets follow from their contents, sort as having none. */
const SORT_BY: Record<QueryOf<typeof routes.items>["sort"], string> = {
  // A code that begins with what is searched comes first.
  code: "instr(i.search, $first) <> 1",
  name: "i.name COLLATE NOCASE",
  kind: "i.kind",
  price: "COALESCE(CAST(i.price AS REAL) / i.price_per, -1)",
  onHand: "COALESCE(st.on_hand, 0)",
  free: `COALESCE(st.on_hand, 0) - COALESCE(st.expired, 0) - (${RESERVED})`,
};

/** Items that lack something of their own; what a product lacks through a part stands at the part. */
const LACKING = `CASE i.kind
  WHEN 'service' THEN i.standard_cost IS NULL
  WHEN 'kit' THEN NOT EXISTS (SELECT 1 FROM kit_part WHERE kit_id = i.id)
    OR COALESCE((SELECT price_rule FROM kit_head WHERE item_id = i.id), 'own') = 'own' AND i.price IS NULL
  WHEN 'built' THEN ${mainInForce("i.id")} IS NULL
  ELSE i.state = 'active' AND NOT EXISTS (SELECT 1 FROM item_supplier WHERE item_id = i.id)
    OR i.standard_cost IS NULL AND NOT EXISTS (SELECT 1 FROM stock_movement WHERE item_id = i.id)
  END`;

export type ItemQuery = QueryOf<typeof routes.items>;

/** One page of the items asked for, in the order asked for, and where the next begins. */
export async function findItems(ctx: Reading, query: ItemQuery): Promise<AnswerOf<typeof routes.items>> {
  const words = searchText(query.search).split(/\s+/).filter(Boolean);
  const state = query.state ?? "";
  const where = [
    ...words.map((_, i) => `instr(i.search, $word${i}) > 0`),
    ...(query.kind ? ["i.kind = $kind"] : []),
    ...(query.group ? ["i.group_id = (SELECT id FROM item_group WHERE name_key = $group)"] : []),
    ...(query.lacking ? [LACKING] : []),
  ];
  const inState = state === "" ? ["i.state <> 'archived'"] : state === "all" ? [] : ["i.state = $state"];
  const bind = {
    ...Object.fromEntries(words.map((word, i) => [`word${i}`, word])),
    ...(query.kind && { kind: query.kind }),
    ...(query.group && { group: codeKey(query.group) }),
    ...(state !== "" && state !== "all" && { state }),
    ...(query.lacking && { today: ctx.today }),
  };
  const all = [...where, ...inState].join(" AND ") || "1";
  const { ids, next } = await pageOf(ctx, query, all, bind, words[0] ?? "");
  const countOf = async (which: string) =>
    query.after === undefined
      ? ((await ctx.sql.one<{ n: number }>(`SELECT COUNT(*) AS n FROM item i WHERE ${which}`, bind))?.n ?? 0)
      : 0;
  return {
    items: await itemRows(ctx, ids),
    total: await countOf(all),
    next,
    archived: state === "" ? await countOf([...where, "i.state = 'archived'"].join(" AND ")) : 0,
  };
}

/**
 * A page begins after the last row of the one before, by what it sorts by and then its code, so that the thousandth is
 * found as fast as the first.
 */
async function pageOf(
  ctx: Reading,
  query: ItemQuery,
  where: string,
  bind: Record<string, string>,
  first: string,
): Promise<{ ids: number[]; next: string | null }> {
  const plain = query.sort === "code" && first === "";
  const by = plain ? "0" : SORT_BY[query.sort];
  const stocked = query.sort === "onHand" || query.sort === "free";
  const [order, beyond] = query.descending ? ["DESC", "<"] : ["", ">"];
  const after = query.after === undefined ? null : cursorOf(query.after);
  const from = plain
    ? `i.code_key ${beyond} $key`
    : `((${by}) ${beyond} $value OR (${by}) = $value AND i.code_key ${beyond} $key)`;
  const rows = await ctx.sql.all<{ id: number; value: string | number; key: string }>(
    `SELECT i.id, ${by} AS value, i.code_key AS key FROM item i ${stocked ? joinStock("i.id", "SELECT id FROM item") : ""} WHERE ${where} ${after ? `AND ${from}` : ""}
      ORDER BY ${plain ? "" : `(${by}) ${order},`} i.code_key ${order} LIMIT $limit`,
    {
      ...bind,
      ...(by.includes("$first") && { first }),
      ...(stocked && { today: ctx.today }),
      ...(after && { key: after[1], ...(!plain && { value: after[0] }) }),
      limit: query.limit + 1,
    },
  );
  const last = rows[query.limit - 1];
  const more = rows.length > query.limit && last;
  return {
    ids: rows.slice(0, query.limit).map((row) => row.id),
    next: more ? JSON.stringify([last.value, last.key]) : null,
  };
}

function cursorOf(text: string): [string | number, string] {
  try {
    const read: unknown = JSON.parse(text);
    if (Array.isArray(read) && read.length === 2 && typeof read[1] === "string") {
      const [value, key] = read;
      if (typeof value === "string" || typeof value === "number") return [value, key];
    }
  } catch (error) {
    if (!(error instanceof SyntaxError)) throw error;
  }
  throw Refusal.at("after", "invalid-input");
}

/** Items by their codes or barcodes, in the order asked; null where there is none. */
export async function lookUp(ctx: Reading, codes: readonly string[]): Promise<(ItemRow | null)[]> {
  const rows = await ctx.sql.all<{ at: number; id: number }>(
    `SELECT c.key AS at, COALESCE((SELECT id FROM item WHERE code_key = c.value ->> 'key'),
                                  (SELECT id FROM item WHERE barcode = c.value ->> 'barcode' AND barcode <> '')) AS id
       FROM json_each($codes) c`,
    { codes: asJson(codes.map((code) => ({ key: codeKey(code), barcode: code.trim() }))) },
  );
  const found = await itemRows(ctx, [...new Set(rows.flatMap((row) => row.id ?? []))]);
  const byId = new Map(found.map((item) => [item.id, item]));
  return rows.map((row) => byId.get(row.id) ?? null);
}
