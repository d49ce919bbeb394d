import type { AnswerOf, Hit, routes } from "@yosegi/contract";
import { codeKey } from "@yosegi/core";
import { openCounts } from "../builds/index.ts";
import type { Reading } from "../db/index.ts";
import { findItems } from "../itemsheets/index.ts";
import { orderCounts } from "../orders/index.ts";
import { pickCounts } from "../picking/index.ts";
import { stockTargets } from "../recurring/index.ts";

const NAMES_SHOWN = 8;

/** Where one text stands for several things, the likelier ones first. */
const KIND_ORDER: readonly Hit["kind"][] = [
  "item",
  "build",
  "order",
  "purchase",
  "shipment",
  "return",
  "take-apart",
  "rework",
  "supplier-return",
  "round",
  "count",
  "document",
  "serial",
  "lot",
  "bin",
];

/** What a scan or a typed text stands for: everything that has it as its own code or number, then names that contain it. */
export async function find(ctx: Reading, text: string): Promise<Hit[]> {
  const exact = await exactHits(ctx, text);
  const { items } = await findItems(ctx, {
    search: text,
    limit: NAMES_SHOWN,
    sort: "code",
    descending: false,
  });
  const named = items
    .filter((item) => !exact.some((hit) => hit.kind === "item" && hit.id === item.id))
    .map(({ id, code, name }) => ({ kind: "item" as const, text: code, detail: name, id, exact: false }));
  return [...exact, ...named];
}

async function exactHits(ctx: Reading, text: string): Promise<Hit[]> {
  const bind = { text, key: codeKey(text) };
  const rows = await ctx.sql.all<Omit<Hit, "exact">>(
    `SELECT 'item' AS kind, code AS text, name AS detail, id FROM item_head WHERE code_key = $key OR barcode = $text AND barcode <> ''
      UNION ALL
     SELECT 'build', b.number, i.name, b.id FROM build_head b JOIN item_head i ON i.id = b.product_id WHERE b.number = $key
      UNION ALL
     SELECT 'order', o.number, f.name, o.id FROM order_head o JOIN firm_head f ON f.id = o.customer_id WHERE $key IN (o.number, o.quote)
      UNION ALL
     SELECT 'purchase', p.number, f.name, p.id FROM purchase_head p JOIN firm_head f ON f.id = p.supplier_id WHERE p.number = $key
      UNION ALL
     SELECT 'shipment', s.number, f.name, s.id
       FROM shipment_head s JOIN order_head o ON o.id = s.order_id JOIN firm_head f ON f.id = o.customer_id WHERE s.number = $key
      UNION ALL
     SELECT 'return', r.number, f.name, r.id FROM return_head r JOIN firm_head f ON f.id = r.customer_id WHERE r.number = $key
      UNION ALL
     SELECT 'take-apart', t.number, i.name, t.id FROM take_apart_head t JOIN item_head i ON i.id = t.item_id WHERE t.number = $key
      UNION ALL
     SELECT 'rework', r.number, i.name, r.id FROM rework_head r JOIN item_head i ON i.id = r.item_id WHERE r.number = $key
      UNION ALL
     SELECT 'supplier-return', r.number, f.name, r.id FROM supplier_return_head r JOIN firm_head f ON f.id = r.supplier_id WHERE r.number = $key
      UNION ALL
     SELECT 'round', r.number, n.name, r.id FROM pick_round_head r JOIN person_name n ON n.id = r.picker_id WHERE r.number = $key
      UNION ALL
     SELECT 'count', number, note, id FROM count_sheet_head WHERE number = $key
      UNION ALL
     SELECT DISTINCT 'document', document, CASE kind WHEN 'opening' THEN 'import' ELSE kind END, NULL
       FROM posting_head WHERE document = $key AND NOT EXISTS (SELECT 1 FROM build_head WHERE number = $key)
        AND NOT EXISTS (SELECT 1 FROM shipment_head WHERE number = $key) AND NOT EXISTS (SELECT 1 FROM return_head WHERE number = $key)
        AND NOT EXISTS (SELECT 1 FROM take_apart_head WHERE number = $key)
        AND NOT EXISTS (SELECT 1 FROM supplier_return_head WHERE number = $key)
        AND NOT EXISTS (SELECT 1 FROM rework_head WHERE number = $key)
        AND NOT EXISTS (SELECT 1 FROM pick_round_head WHERE number = $key)
        AND NOT EXISTS (SELECT 1 FROM count_sheet_head WHERE number = $key)
      UNION ALL
     SELECT 'lot', l.code, i.name, i.id FROM lot_head l JOIN item_head i ON i.id = l.item_id WHERE l.code_key = $key
      UNION ALL
     SELECT 'serial', s.code, i.name, i.id FROM serial_head s JOIN item_head i ON i.id = s.item_id WHERE s.code_key = $key
      UNION ALL
     SELECT DISTINCT 'bin', b.code, i.code || ' ' || i.name, i.id
       FROM bin_head b JOIN stock_balance l ON l.location_id = b.location_id AND l.bin = b.code AND l.quantity > 0 JOIN item_head i ON i.id = l.item_id
      WHERE b.code_key = $key`,
    bind,
  );
  const order = ({ kind }: { kind: Hit["kind"] }) => KIND_ORDER.indexOf(kind);
  return rows
    .sort((a, b) => order(a) - order(b) || a.detail.localeCompare(b.detail))
    .map((row) => ({ ...row, exact: true }));
}

/** What waits at the rail. */
export async function waiting(ctx: Reading): Promise<AnswerOf<typeof routes.waiting>> {
  const row = await ctx.sql.one<{ buying: number }>(
    `SELECT (SELECT COUNT(*) FROM purchase_head p WHERE p.stage = 'draft' OR p.stage IN ('sent', 'part received') AND p.next <= $today) AS buying`,
    { today: ctx.today },
  );
  const builds = await ctx.memo(`open builds of ${ctx.today}`, () => openCounts(ctx));
  const { ordersToPick, ...orders } = await ctx.memo(`open orders of ${ctx.today}`, () => orderCounts(ctx));
  const picking = await ctx.memo("picking", () => pickCounts(ctx));
  const keep = await stockTargets(ctx);
  return {
    ...builds,
    ...orders,
    picks: picking.builds + ordersToPick,
    rounds: picking.rounds,
    suggested: keep.filter((rule) => rule.toBuild !== "0").length,
    buying: row?.buying ?? 0,
  };
}
