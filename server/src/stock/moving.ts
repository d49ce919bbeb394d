import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  isStocked,
  lost,
  type Movement,
  type Problem,
  post,
  reporter,
  type Spot,
  type StockState,
  spotKey,
  sum,
  ZERO,
} from "@yosegi/core";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { briefs, loadUnits, unitNamed } from "../items/index.ts";
import { ensureBins, loadBooks, record, storeId, undo } from "../ledger/index.ts";
import { refuseProblems } from "../problems.ts";

/** So much of what is in a bin of a store; or, where `from` is given, at that place, such as in returns. */
type Line = ParsedBody<typeof routes.scrapStock>["lines"][number] & { from?: Spot | undefined };

/** Where so much of an item is, checked against the books. */
interface Here {
  item: number;
  lot: string;
  serial: string;
  quantity: Decimal;
  from: Spot;
}

/** Moves stock between bins and stores; it keeps its value. Gives the number of the move. */
export async function moveStock(ctx: Writing, body: ParsedBody<typeof routes.moveStock>): Promise<string> {
  refuseFuture(ctx, body.day);
  const { stock } = await loadBooks(
    ctx,
    body.lines.map((line) => line.item),
  );
  const here = await checkLines(ctx, body.lines, stock);
  const movements: Movement[] = [];
  for (const [at, { toStore, toBin }] of body.lines.entries()) {
    const own = here[at];
    if (!own) throw new Error("Each line was checked");
    const to = { location: await storeId(ctx, `lines.${at}.toStore`, toStore), bin: toBin };
    if (to.location === own.from.location && to.bin === own.from.bin)
      throw Refusal.at(`lines.${at}.toBin`, "move-same");
    movements.push({ ...own, to, purpose: "moved", value: null });
  }
  await ensureBins(
    ctx,
    movements.flatMap(({ to }) => (to ? [to] : [])),
  );
  const document = await nextNumber(ctx, "M");
  const { day, reason, costTag } = body;
  await record(ctx, { kind: "move", document, day, reason, costTag, movements, lots: [], books: stock });
  return document;
}

/** Scraps stock: it leaves, and its value is lost for the reason given. Gives the number, and what is lost. */
export async function scrapStock(
  ctx: Writing,
  body: ParsedBody<typeof routes.scrapStock>,
): Promise<{ document: string; lost: string }> {
  refuseFuture(ctx, body.day);
  const { stock } = await loadBooks(
    ctx,
    body.lines.map((line) => line.item),
  );
  const here = await checkLines(ctx, body.lines, stock);
  const movements = here.map((own): Movement => ({ ...own, to: null, purpose: "scrapped", value: null }));
  const posted = post(stock, movements);
  const value = posted.ok ? sum(posted.movements.map((movement) => movement.value)) : ZERO;
  const document = await nextNumber(ctx, "X");
  const { day, reason, costTag } = body;
  await record(ctx, {
    kind: "scrap",
    document,
    day,
    reason,
    costTag,
    movements,
    entries: lost("scrapped", value, reason),
    lots: [],
    books: stock,
    posted,
  });
  return { document, lost: value.toFixed(4) };
}

function refuseFuture(ctx: Reading, day: string): void {
  if (day > ctx.today) throw Refusal.at("day", "day-future");
}

/** Refuses lines that name what is not in their bin; what two lines take of one bin is added up. `fieldOf` gives the field of the body. */
export async function checkLines(
  ctx: Reading,
  lines: readonly Line[],
  stock: StockState,
  fieldOf: (i: number, field: string) => string = (i, field) => `lines.${i}.${field}`,
): Promise<Here[]> {
  const units = await loadUnits(ctx);
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item),
  );
  const left = new Map([...stock.balances].map(([key, balance]) => [key, balance.quantity]));
  const here: Here[] = [];
  for (const [i, { store, bin, from: given, item, lot, serial, quantity }] of lines.entries()) {
    const line = { item, lot, serial, quantity };
    const at = (field: string) => fieldOf(i, field);
    const { code, kind, notStockTracked, unit } = brief(line.item);
    if (!isStocked({ kind, notStockTracked })) throw Refusal.at(at("item"), "not-stocked", { code, kind });
    const problems: Problem[] = [];
    checkDecimals("quantity", line.quantity, unitNamed(units, unit), reporter(i, problems));
    refuseProblems(problems, (p) => at(p.field));
    const from = given ?? { location: await storeId(ctx, at("store"), store), bin };
    const key = spotKey({ ...line, ...from });
    const there = left.get(key) ?? ZERO;
    if (there.lt(line.quantity))
      throw Refusal.at(at("quantity"), "stock-short-here", {
        there: there.toFixed(),
        unit,
        code: [code, line.lot, line.serial].filter(Boolean).join(" "),
        bin: `${store} ${bin}`.trim() || "returns",
      });
    left.set(key, there.minus(line.quantity));
    here.push({ ...line, from });
  }
  return here;
}

/** What a person books by hand, and may undo as a whole. */
const BY_HAND = ["move", "scrap", "count", "receipt"];

/** Undoes a move, a scrap, a count, or stock received by hand; what came of a purchase order is undone there. */
export async function undoStock(ctx: Writing, typed: string): Promise<void> {
  const document = typed.trim().toUpperCase();
  const found = await byHand(ctx, document);
  if (!found) throw Refusal.at("document", "document-not-undone", { document });
  if (found.undone) throw Refusal.at("document", "document-undone", { document });
  await undo(ctx, { kind: found.kind, document, reason: "", undoes: found.id });
}

/** What was booked by hand as a document, and whether it was undone; null where it was not booked by hand. */
export async function byHand(
  ctx: Reading,
  document: string,
): Promise<{ id: number; kind: "move" | "scrap" | "count" | "receipt"; undone: boolean } | null> {
  const row = await ctx.sql.one<{
    id: number;
    kind: "move" | "scrap" | "count" | "receipt";
    undone: number;
    ordered: number;
  }>(
    `SELECT o.id, o.kind, EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id) AS undone,
            EXISTS (SELECT 1 FROM stock_movement m WHERE m.posting_id = o.id AND m.source = 'purchase') AS ordered
       FROM posting_head o WHERE o.document = $document AND o.undoes IS NULL`,
    { document },
  );
  if (!row || !BY_HAND.includes(row.kind) || row.ordered === 1) return null;
  return { id: row.id, kind: row.kind, undone: row.undone === 1 };
}
