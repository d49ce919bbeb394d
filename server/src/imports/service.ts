import {
  IMPORT_COLUMNS,
  IMPORT_NAMES,
  type ImportBody,
  type ImportKind,
  type ImportReport,
  type ParsedBody,
  Refusal,
  type routes,
} from "@yosegi/contract";
import { codeKey } from "@yosegi/core";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { writeFirms } from "../firms/index.ts";
import { type Bytes, tableBytes } from "../http/index.ts";
import {
  allKnownItems,
  createGroups,
  groupsByKey,
  loadUnits,
  supplierIds,
  writeItems,
  writeSuppliers,
} from "../items/index.ts";
import type { Job } from "../jobs/index.ts";
import { writeKits } from "../kits/index.ts";
import { createStores, ensureBins, locationOf, record, storeIds } from "../ledger/index.ts";
import { factsOf, listOf, MAIN, type NamedFacts, namedLists, writeImported } from "../lists/index.ts";
import { writePriceLists } from "../prices/index.ts";
import { arrival } from "../stock/index.ts";
import { rememberMatches } from "./matches.ts";
import { type Plan, planImport } from "./plan.ts";
import { recordsOf } from "./records.ts";
import { allRecords, changesSince, keepRun } from "./runs.ts";

export async function checkImport(ctx: Reading, body: ImportBody, job: Job): Promise<ImportReport> {
  return (await planImport(ctx, body, job)).report;
}

/** Items, or parts lists, written in one statement; between two the import can be cancelled. */
const CHUNK = 500;

/** Imports what was checked. Planned anew inside the transaction; refused where that gives something else than was shown. */
export async function importFiles(
  ctx: Writing,
  body: ParsedBody<typeof routes.import>,
  job: Job,
): Promise<{ document: string; adds: ImportReport["adds"] }> {
  const plan = await planImport(ctx, body, job);
  const { report, items, lists, stock } = plan;
  if (report.token !== body.token) throw new Refusal("import-changed");
  if (report.problems.length > 0 && !body.goodRowsOnly)
    throw new Refusal("import-problems", { count: report.problems.length });
  const things = [
    plan.suppliers,
    plan.customers,
    items,
    plan.prices,
    plan.priceLists,
    lists,
    plan.kits,
    stock,
  ];
  if (things.every((kind) => kind.length === 0)) throw new Refusal("import-nothing");

  const document = await nextNumber(ctx, "I");
  const kinds = body.files.map((file) => file.kind);
  const before = await allRecords(ctx, kinds);
  await writeRecords(ctx, plan, importNote(document), job);
  await writeStock(ctx, plan, await factsOf(ctx, await allKnownItems(ctx)), document, job);
  await rememberMatches(ctx, body.files);
  await keepRun(ctx, document, report.adds, await changesSince(ctx, before));
  return { document, adds: report.adds };
}

/** What revisions of parts lists that an import adds say of it. */
export const importNote = (document: string): string => `From import ${document}`;

/** Writes all of a plan but its stock; `note` goes to the revisions that it adds. */
export async function writeRecords(ctx: Writing, plan: Plan, note: string, job: Job): Promise<void> {
  const { report, lists } = plan;
  await writeFirms(ctx, "supplier", plan.suppliers);
  await writeFirms(ctx, "customer", plan.customers);
  await createStores(ctx, report.adds.stores);
  await createGroups(ctx, report.adds.groups);
  await writeItemRows(ctx, plan, job);
  const facts = await factsOf(ctx, await allKnownItems(ctx));
  await writeSuppliers(ctx, plan.prices, facts, await supplierIds(ctx));
  await writePriceLists(ctx, plan.priceLists, facts.items);
  await job.begin("Writing parts lists", lists.length);
  for (let i = 0; i < lists.length; i += CHUNK) {
    await job.at(i);
    await writeLists(ctx, lists.slice(i, i + CHUNK), facts, note);
  }
  await writeKits(ctx, plan.kits, facts.items);
}

async function writeItemRows(ctx: Writing, { items, stock }: Plan, job: Job): Promise<void> {
  const location = await storeIds(ctx);
  const spots = [...items, ...stock].filter((row) => row.store !== "");
  await ensureBins(
    ctx,
    spots.map((row) => ({ location: locationOf(location, row.store), bin: row.bin })),
  );
  const groups = await groupsByKey(ctx);
  const names = {
    storeId: location,
    groupId: (name: string) => groups.get(codeKey(name))?.id ?? null,
    units: await loadUnits(ctx),
  };
  await job.begin("Writing items", items.length);
  for (let i = 0; i < items.length; i += CHUNK) {
    await job.at(i);
    await writeItems(ctx, items.slice(i, i + CHUNK), names);
  }
}

async function writeLists(
  ctx: Writing,
  drafts: Plan["lists"],
  facts: NamedFacts,
  note: string,
): Promise<void> {
  const lists = await namedLists(
    ctx,
    drafts.map(({ product, list }) => ({
      product: itemIn(facts, product).id,
      name: list === "" ? MAIN : list,
      main: list === "",
    })),
  );
  const contents = drafts.map((draft, i) => ({ list: lists[i] ?? 0, content: listOf(draft, facts) }));
  await writeImported(ctx, contents, note);
}

/** An item that the check of the files has found. */
function itemIn(facts: NamedFacts, code: string) {
  const item = facts.items.get(codeKey(code));
  if (!item) throw new Error(`${code} was checked and is missing`);
  return item;
}

async function writeStock(
  ctx: Writing,
  { stock }: Plan,
  facts: NamedFacts,
  document: string,
  job: Job,
): Promise<void> {
  if (stock.length === 0) return;
  await job.begin("Receiving stock", stock.length);
  const location = await storeIds(ctx);
  const idOf = (code: string) => itemIn(facts, code).id;
  await record(ctx, {
    kind: "opening",
    document,
    day: ctx.today,
    reason: "Opening stock",
    movements: stock.map((row) => ({
      ...arrival(row, idOf(row.item), locationOf(location, row.store), "opening"),
      source: { document: "import" as const, id: Number(document.slice("I-".length)), line: row.row },
    })),
    lots: stock
      .filter((row) => row.lot !== "")
      .map((row) => ({ item: idOf(row.item), lot: row.lot, expiry: row.expiry })),
  });
}

/** Everything of a kind as a spreadsheet with the columns of its import, or only the header. */
export async function exportKind(
  ctx: Reading,
  kind: ImportKind,
  { format, empty }: { format: "csv" | "xlsx"; empty: boolean },
): Promise<Bytes> {
  const columns = IMPORT_COLUMNS[kind];
  const records = empty ? [] : [...(await recordsOf(ctx, kind)).values()].flat();
  const rows = records.map((cells) => columns.map((column) => cells[column] ?? ""));
  return tableBytes(
    IMPORT_NAMES[kind],
    columns.map((name) => ({ name })),
    rows,
    format,
  );
}
