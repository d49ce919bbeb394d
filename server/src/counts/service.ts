import { isDeepStrictEqual } from "node:util";
import { type AnswerOf, type ParsedBody, type QueryOf, Refusal, type routes } from "@yosegi/contract";
import {
  addDays,
  checkDecimals,
  countEntries,
  countMovements,
  isStocked,
  type Problem,
  post,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  spotKey,
  ZERO,
} from "@yosegi/core";
import { asJson, findPage, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { briefs, loadUnits, unitNamed } from "../items/index.ts";
import {
  binNamed,
  ensureBins,
  listStores,
  loadBooks,
  locationNames,
  record,
  storeId,
} from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { countsOf } from "../stock/index.ts";
import { countSheet, linesOfSheet, placeOf, sheetById, theresOf } from "./sheet.ts";
import { COUNT_LINE, COUNT_SHEET, type CountSheetRow } from "./tables.ts";

/** Count sheets, those under way first, then the latest first. */
export async function listCounts(
  ctx: Reading,
  query: QueryOf<typeof routes.counts>,
): Promise<AnswerOf<typeof routes.counts>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "c.id",
    text: `c.number || ' ' || c.note || ' ' || (SELECT COALESCE(group_concat(DISTINCT l.bin), '') FROM count_line l WHERE l.sheet_id = c.id)`,
    from: "count_sheet c ORDER BY c.state = 'open' DESC, c.id DESC",
  });
  const rows = await ctx.sql.all<{
    id: number;
    number: string;
    state: "open" | "posted" | "undone" | "cancelled";
    blind: number;
    note: string;
    person: string;
    moment: string;
    lines: number;
    counted: number;
    bins: string;
  }>(
    `SELECT c.id, c.number, c.blind, c.note, n.name AS person, c.moment,
            CASE WHEN c.state = 'posted' AND EXISTS (SELECT 1 FROM posting_head o JOIN posting_head u ON u.undoes = o.id
                 WHERE o.document = c.number AND o.kind = 'count' AND o.undoes IS NULL) THEN 'undone' ELSE c.state END AS state,
            (SELECT COUNT(*) FROM count_line l WHERE l.sheet_id = c.id) AS lines,
            (SELECT COUNT(*) FROM count_line l WHERE l.sheet_id = c.id AND l.counted IS NOT NULL) AS counted,
            (SELECT json_group_array(bin) FROM (SELECT DISTINCT bin FROM count_line l WHERE l.sheet_id = c.id AND bin <> '' ORDER BY bin LIMIT 5)) AS bins
       FROM json_each($ids) ids JOIN count_sheet c ON c.id = ids.value JOIN person_name n ON n.id = c.person_id ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  const counts = rows.map((row) => ({
    ...row,
    blind: row.blind === 1,
    bins: JSON.parse(row.bins) as string[],
  }));
  return { counts, total, next };
}

/** Most lines of one sheet, so that it is counted, read and posted in one go. */
const MOST_LINES = 2000;

/** Creates a sheet of what the books say is there. Gives its id. */
export async function newCount(
  ctx: Writing,
  { bins: wanted, store, items, days, blind, note }: ParsedBody<typeof routes.newCount>,
): Promise<number> {
  const stores = await listStores(ctx);
  const bins = wanted.map(({ location, bin }, i) => {
    const named = stores.find(({ id }) => id === location);
    if (!named) throw Refusal.at(`bins.${i}.location`, "not-found", { what: "store", id: location });
    return { location, bin: binNamed(named, bin, `bins.${i}.bin`) };
  });
  const rows = await ctx.sql.all<{
    item: number;
    lot: string;
    serial: string;
    location: number;
    bin: string;
    quantity: number;
  }>(
    `SELECT u.item_id AS item, u.lot, u.serial, u.location_id AS location, u.bin, u.quantity FROM usable_stock u
      WHERE ($store = 0 OR u.location_id = $store)
        AND ($items = '[]' OR u.item_id IN (SELECT value FROM json_each($items)))
        AND ($bins = '[]' OR EXISTS (SELECT 1 FROM json_each($bins) b WHERE b.value ->> 'location' = u.location_id AND b.value ->> 'bin' = u.bin))
        AND ($since = '' OR NOT EXISTS (SELECT 1 FROM count_line l JOIN count_sheet c ON c.id = l.sheet_id
              WHERE l.item_id = u.item_id AND l.lot = u.lot AND l.serial = u.serial AND l.location_id = u.location_id AND l.bin = u.bin
                AND l.counted IS NOT NULL AND c.state = 'posted' AND l.moment >= $since))
      ORDER BY u.location_id, u.bin, u.item_id LIMIT $most`,
    {
      store: store ?? 0,
      items: asJson(items),
      bins: asJson(bins),
      since: days === null ? "" : addDays(ctx.today, -days),
      most: MOST_LINES + 1,
    },
  );
  if (rows.length === 0) throw new Refusal("nothing-to-count");
  if (rows.length > MOST_LINES) throw new Refusal("count-too-long", { most: MOST_LINES });
  const [id = 0] = await ctx.sql.insert(COUNT_SHEET, [
    {
      number: await nextNumber(ctx, "C"),
      blind: blind ? 1 : 0,
      note,
      person_id: ctx.person.id,
      moment: ctx.moment,
      ended_by: null,
      ended_at: null,
    },
  ]);
  await ctx.sql.insert(
    COUNT_LINE,
    rows.map(({ item, location, quantity, ...row }) => ({
      ...row,
      sheet_id: id,
      item_id: item,
      location_id: location,
      expected: quantity,
      counted: null,
      books: null,
      person_id: null,
      moment: null,
    })),
  );
  return id;
}

async function openSheet(ctx: Reading, id: number): Promise<CountSheetRow> {
  const sheet = await sheetById(ctx, id);
  if (sheet.state !== "open") throw new Refusal("count-ended", { number: sheet.number, state: sheet.state });
  return sheet;
}

/** Writes what was counted of lines, against what the books say now. */
export async function enterCounts(
  ctx: Writing,
  id: number,
  { lines: entered }: ParsedBody<typeof routes.enterCounts>,
): Promise<void> {
  await openSheet(ctx, id);
  const lines = new Map((await linesOfSheet(ctx, id)).map((line) => [line.id, line]));
  const named = entered.map(({ line }, i) => {
    const found = lines.get(line);
    if (!found) throw Refusal.at(`lines.${i}.line`, "not-found", { what: "line", id: line });
    return found;
  });
  const items = named.map((line) => line.item_id);
  const { stock } = await loadBooks(ctx, items);
  const brief = await briefs(ctx, items);
  const units = await loadUnits(ctx);
  const rows = entered.map(({ counted, before, reason }, i) => {
    const line = named[i];
    if (!line) throw new Error("Each line was found");
    const own = { id: line.id, reason };
    if (counted === null)
      return { ...own, counted: null, books: null, before: 0, person_id: null, moment: null };
    const at = `lines.${i}.counted`;
    const problems: Problem[] = [];
    checkDecimals("counted", counted, unitNamed(units, brief(line.item_id).unit), reporter(i, problems));
    refuseProblems(problems, () => at);
    if (line.serial !== "" && counted.gt(1)) throw Refusal.at(at, "serial-one", { serial: line.serial });
    const now = stock.balances.get(spotKey(placeOf(line)))?.quantity ?? ZERO;
    const written = line.counted !== null && quantityFromScaled(line.counted).eq(counted);
    return {
      ...own,
      counted: quantityToScaled(counted),
      // The same figure entered again, with another reason, say, was counted when it was entered first.
      books: written && line.books !== null ? line.books : quantityToScaled(now),
      before: before ? 1 : 0,
      person_id: ctx.person.id,
      moment: written && line.moment !== null ? line.moment : ctx.moment,
    };
  });
  await ctx.sql.update(COUNT_LINE, ["id"], rows);
}

/** Adds what was found and is not on the sheet. */
export async function addFound(
  ctx: Writing,
  id: number,
  { item, store, bin, lot, serial, counted }: ParsedBody<typeof routes.addFound>,
): Promise<void> {
  await openSheet(ctx, id);
  const { code, kind, notStockTracked } = (await briefs(ctx, [item]))(item);
  if (!isStocked({ kind, notStockTracked })) throw Refusal.at("item", "not-stocked", { code, kind });
  const location = await storeId(ctx, "store", store);
  const { stock } = await loadBooks(ctx, [item]);
  // A place for it must be one that a count could name.
  await countsOf(
    ctx,
    [{ item, store, bin, lot, serial, there: counted, cost: null, newBin: false, reason: "" }],
    {
      at: (_, field) => (field === "there" ? "counted" : field),
      unitCost: await currentCosts(ctx, [item]),
      stock,
    },
  );
  const lines = await linesOfSheet(ctx, id);
  const spot = spotKey({ item, lot, serial, location, bin });
  if (lines.some((line) => spotKey(placeOf(line)) === spot))
    throw Refusal.at("item", "count-line-there", { code, bin });
  const now = quantityToScaled(stock.balances.get(spot)?.quantity ?? ZERO);
  await ctx.sql.insert(COUNT_LINE, [
    {
      sheet_id: id,
      item_id: item,
      lot,
      serial,
      location_id: location,
      bin,
      expected: now,
      counted: quantityToScaled(counted),
      books: now,
      person_id: ctx.person.id,
      moment: ctx.moment,
    },
  ]);
}

/** Corrects the stock by what was counted, in one posting; only as it was seen by the person who posts it. */
export async function postCount(
  ctx: Writing,
  id: number,
  seen: ParsedBody<typeof routes.postCount>,
): Promise<void> {
  const sheet = await openSheet(ctx, id);
  const lines = await linesOfSheet(ctx, id);
  const items = lines.map((line) => line.item_id);
  const { stock } = await loadBooks(ctx, items);
  const theres = await theresOf(ctx, sheet, lines, stock);
  if (theres.length === 0) throw new Refusal("nothing-counted", { number: sheet.number });
  const { counted, differences, found, lost } = await countSheet(ctx, id);
  if (!isDeepStrictEqual({ counted, differences, found, lost }, seen))
    throw new Refusal("count-changed", { number: sheet.number });
  const brief = await briefs(ctx, items);
  const names = await locationNames(ctx);
  for (const { line, there } of theres)
    if (there.lt(0))
      throw new Refusal("count-overtaken", {
        code: brief(line.item_id).code,
        bin: `${names.get(line.location_id) ?? ""} ${line.bin}`.trim(),
      });
  const changed = theres.filter(({ difference }) => !difference.eq(0));
  const counts = await countsOf(
    ctx,
    changed.map(({ line, there }) => ({
      item: line.item_id,
      store: names.get(line.location_id) ?? "",
      bin: line.bin,
      lot: line.lot,
      serial: line.serial,
      there,
      cost: null,
      newBin: true,
      reason: line.reason || sheet.note || `counted on ${sheet.number}`,
    })),
    { at: (i, field) => `lines.${i}.${field}`, unitCost: await currentCosts(ctx, items), stock },
  );
  await ctx
    .model(COUNT_SHEET)
    .update({ state: "posted", ended_by: ctx.person.id, ended_at: ctx.moment }, { where: { id } });
  const movements = countMovements(stock, counts);
  // All as the books say: the sheet says so, and nothing is to be put right.
  if (movements.length === 0) return;
  await ensureBins(
    ctx,
    counts.map(({ at }) => at),
  );
  const posted = post(stock, movements);
  await record(ctx, {
    kind: "count",
    document: sheet.number,
    day: ctx.today,
    reason: sheet.note,
    movements,
    entries: posted.ok ? countEntries(posted.movements) : [],
    lots: [],
    books: stock,
    posted,
  });
}

/** Gives a sheet up: nothing is corrected. */
export async function cancelCount(ctx: Writing, id: number): Promise<void> {
  await openSheet(ctx, id);
  await ctx
    .model(COUNT_SHEET)
    .update({ state: "cancelled", ended_by: ctx.person.id, ended_at: ctx.moment }, { where: { id } });
}
