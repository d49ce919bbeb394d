import {
  type AnswerOf,
  type MovementRow,
  type ParsedBody,
  type QueryOf,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  checkStock,
  codeKey,
  type Day,
  type KnownStock,
  type Movement,
  moneyFromScaled,
  type Purpose,
  quantityFromScaled,
  type StockRow,
  searchText,
  type ValuedRow,
  valueAt,
} from "@yosegi/core";
import { asJson, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { briefs, knownItems, loadUnits } from "../items/index.ts";
import { checkMade, ensureBins, record, serialsElsewhere, storeId } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";
import { byHand } from "./moving.ts";

interface Row {
  id: number;
  moment: string;
  day: string;
  item: number;
  quantity: number;
  from_name: string;
  to_name: string;
  lot: string;
  serial: string;
  value: number;
  kind: MovementRow["kind"];
  document: string;
  build: number | null;
  person: string;
  device: string;
  cost_tag: string;
  reason: string;
  counted: number;
}

/** The stock ledger, latest first. */
export async function movements(
  ctx: Reading,
  query: QueryOf<typeof routes.movements>,
): Promise<AnswerOf<typeof routes.movements>> {
  const words = query.search.trim().split(/\s+/).filter(Boolean);
  const bind = {
    item: query.item ?? 0,
    lot: query.lot,
    serial: query.serial,
    document: query.document?.trim().toUpperCase() ?? "",
    ...Object.fromEntries(words.map((word, i) => [`folded${i}`, searchText(word)])),
    ...Object.fromEntries(words.map((word, i) => [`typed${i}`, word.toLowerCase()])),
  };
  const where = [
    "($item = 0 OR m.item_id = $item) AND ($document = '' OR o.document = $document)",
    "($lot = '' OR m.lot = $lot) AND ($serial = '' OR m.serial = $serial)",
    ...words.map(
      (_, i) => `(instr(i.search, $folded${i}) > 0 OR
        instr(lower(m.lot || ' ' || m.serial || ' ' || o.document || ' ' || o.reason || ' ' || m.reason), $typed${i}) > 0)`,
    ),
  ].join(" AND ");
  const rows = await ctx.sql.all<Row>(
    `SELECT m.id, o.moment, o.day, m.item_id AS item, m.quantity, m.lot, m.serial, m.value, o.kind, o.document,
            CASE m.source WHEN 'build' THEN m.source_id END AS build, n.name AS person, o.device, o.cost_tag, CASE m.reason WHEN '' THEN o.reason ELSE m.reason END AS reason, m.reason <> '' AS counted,
            COALESCE(f.name || ' ' || COALESCE(fb.number, m.from_bin), '') AS from_name,
            COALESCE(t.name || ' ' || COALESCE(tb.number, m.to_bin), '') AS to_name
       FROM movement m JOIN posting o ON o.id = m.posting_id JOIN item_head i ON i.id = m.item_id JOIN person_name n ON n.id = o.person_id
       LEFT JOIN location f ON f.id = m.from_location LEFT JOIN location t ON t.id = m.to_location
       LEFT JOIN build_head fb ON m.from_owner = 'build' AND fb.id = m.from_owner_id
       LEFT JOIN build_head tb ON m.to_owner = 'build' AND tb.id = m.to_owner_id
      WHERE ${where} AND ($before = 0 OR m.id < $before) ORDER BY m.id DESC LIMIT $limit`,
    { ...bind, before: query.before ?? 0, limit: query.limit },
  );
  const count = await ctx.sql.one<{ total: number }>(
    `SELECT COUNT(*) AS total FROM movement m JOIN posting o ON o.id = m.posting_id JOIN item_head i ON i.id = m.item_id WHERE ${where}`,
    bind,
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item),
  );
  const booked = bind.document === "" ? null : await byHand(ctx, bind.document);
  return {
    total: count?.total ?? 0,
    undoable: booked !== null && !booked.undone,
    movements: rows.map(({ from_name, to_name, cost_tag, ...row }) => ({
      ...row,
      costTag: cost_tag,
      item: brief(row.item),
      counted: row.counted === 1,
      quantity: quantityFromScaled(row.quantity).toFixed(),
      from: from_name.trim(),
      to: to_name.trim(),
      value: moneyFromScaled(row.value).toFixed(4),
    })),
  };
}

/** What is in a bin of a store, by item, the first to be taken first. */
export async function binContents(
  ctx: Reading,
  location: number,
  bin: string,
): Promise<AnswerOf<typeof routes.binContents>> {
  const rows = await ctx.sql.all<{
    item: number;
    barcode: string;
    lot: string;
    serial: string;
    expiry: Day | null;
    quantity: number;
  }>(
    `SELECT u.item_id AS item, i.barcode, u.lot, u.serial, u.expiry, u.quantity
       FROM usable_stock u JOIN item_head i ON i.id = u.item_id
      WHERE u.location_id = $location AND u.bin = $bin ORDER BY i.code_key, u.expiry IS NULL, u.expiry, u.lot, u.serial`,
    { location, bin },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item),
  );
  return {
    contents: rows.map(({ item, quantity, ...row }) => ({
      ...row,
      item: brief(item),
      quantity: quantityFromScaled(quantity).toFixed(),
    })),
  };
}

const KNOWN = "$all = 1 OR i.code_key IN (SELECT value FROM json_each($keys))";

/** What is known of lots and serials already, for checking what comes in; of the rows given, or, for a file, of all. */
export async function knownStock(
  ctx: Reading,
  rows: readonly Pick<StockRow, "item" | "serial">[] | null,
  purpose: Purpose,
): Promise<KnownStock> {
  const keys = asJson((rows ?? []).map((row) => codeKey(row.item)));
  const all = rows === null ? 1 : 0;
  const lots = await ctx.sql.all<{ key: string; code: string; expiry: Day | null }>(
    `SELECT i.code_key AS key, l.code, l.expiry FROM item_head i JOIN lot l ON l.item_id = i.id WHERE ${KNOWN}`,
    { keys, all },
  );
  const serials = await ctx.sql.all<{ item: number; key: string; serial: string }>(
    `SELECT i.id AS item, i.code_key AS key, s.code AS serial FROM item_head i JOIN serial s ON s.item_id = i.id
      WHERE (${KNOWN}) AND ($all = 1 OR s.code IN (SELECT value FROM json_each($serials)))`,
    { keys, all, serials: asJson((rows ?? []).map((row) => row.serial)) },
  );
  const elsewhere = await serialsElsewhere(ctx, serials, purpose);
  const at = (key: string, code: string) => JSON.stringify([key, code]);
  const expiries = new Map(lots.map((lot) => [at(lot.key, lot.code), lot.expiry]));
  const locations = new Map(serials.map((row) => [at(row.key, row.serial), elsewhere(row)]));
  return {
    expiryOf: (key, lot) => expiries.get(at(key, lot)),
    serialAt: (key, serial) => locations.get(at(key, serial)) ?? null,
  };
}

/** A checked row as the movement that brings it in. */
export function arrival(
  row: ValuedRow,
  item: number,
  location: number,
  purpose: "opening" | "bought",
): Movement {
  return {
    purpose,
    item,
    lot: row.lot,
    serial: row.serial,
    quantity: row.quantity,
    from: null,
    to: { location, bin: row.bin },
    value: valueAt(row.quantity, row.unitCost),
  };
}

/** Takes stock in by hand. Gives the number of the receipt. */
export async function receive(ctx: Writing, body: ParsedBody<typeof routes.receive>): Promise<string> {
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  for (const [i, line] of body.lines.entries())
    checkMade(line, ctx.today, { madeOn: `lines.${i}.madeOn`, expiry: `lines.${i}.expiry` });
  const brief = await briefs(
    ctx,
    body.lines.map((line) => line.item),
  );
  const typed = body.lines.map((line, row): StockRow => ({ ...line, row, item: brief(line.item).code }));
  const known = await knownItems(
    ctx,
    typed.map(({ item }) => item),
  );
  const { good, problems } = checkStock(
    typed,
    known,
    await loadUnits(ctx),
    await knownStock(ctx, typed, "bought"),
    false,
  );
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field === "unit_cost" ? "unitCost" : p.field}`);
  const locations: number[] = [];
  for (const [i, line] of body.lines.entries())
    locations.push(await storeId(ctx, `lines.${i}.store`, line.store));
  await ensureBins(
    ctx,
    body.lines.map(({ bin }, i) => ({ location: locations[i] ?? 0, bin })),
  );
  const document = await nextNumber(ctx, "RC");
  const { day, reason, costTag } = body;
  await record(ctx, {
    kind: "receipt",
    document,
    day,
    reason,
    costTag,
    movements: good.map((row) =>
      arrival(row, body.lines[row.row]?.item ?? 0, locations[row.row] ?? 0, "bought"),
    ),
    lots: body.lines.flatMap(({ item, lot, expiry, madeOn }) =>
      lot === "" ? [] : [{ item, lot, expiry, madeOn }],
    ),
    units: body.lines.flatMap(({ item, serial, expiry, madeOn }) =>
      serial === "" ? [] : [{ item, serial, expiry, madeOn }],
    ),
  });
  return document;
}
