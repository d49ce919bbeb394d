import { createHash } from "node:crypto";
import {
  type BodyOf,
  type ImportFile,
  type ImportFiles,
  type ImportReport,
  itemsRow,
  messageOf,
  partsListsRow,
  Refusal,
  type routes,
  stockRow,
} from "@yosegi/contract";
import {
  checkItems,
  checkLists,
  checkStock,
  codeKey,
  type Decimal,
  decimal,
  type ItemRow,
  type KnownItem,
  type ListDraft,
  ONE,
  type Problem,
  type StockRow,
  sum,
} from "@yosegi/core";
import {
  createItems,
  createStores,
  ensureBins,
  knownItems,
  listOf,
  loadUnits,
  placeOf,
  storeIds,
  writeList,
} from "../catalog/index.ts";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { record } from "../ledger/index.ts";
import { arrival, knownStock } from "../stock/index.ts";
import { type ReadFile, type RowProblem, readFile } from "./read.ts";

type ValuedRow = StockRow & { unitCost: Decimal };

/** What an import would write, and all that keeps it from writing more. */
interface Plan {
  items: ItemRow[];
  lists: ListDraft[];
  stock: ValuedRow[];
  report: ImportReport;
}

/** Checks every row of the files against each other and the catalog; writes nothing. */
export async function checkImport(ctx: Reading, files: ImportFiles): Promise<ImportReport> {
  return (await planImport(ctx, files)).report;
}

/** Imports what was checked. Planned anew inside the transaction; refused where that gives something else than was shown. */
export async function importFiles(
  ctx: Writing,
  body: BodyOf<typeof routes.import>,
): Promise<{ document: string; adds: ImportReport["adds"] }> {
  const { items, lists, stock, report } = await planImport(ctx, body);
  if (report.token !== body.token) throw new Refusal("import-changed");
  if (report.problems.length > 0 && !body.goodRowsOnly)
    throw new Refusal("import-problems", { count: report.problems.length });
  if (items.length + lists.length + stock.length === 0) throw new Refusal("import-nothing");

  const document = await nextNumber(ctx, "I");
  await createStores(ctx, report.adds.stores);
  const place = await storeIds(ctx);
  const spots = [...items, ...stock].filter((row) => row.store !== "");
  await ensureBins(
    ctx,
    spots.map((row) => ({ place: placeOf(place, row.store), bin: row.bin })),
  );
  await createItems(ctx, items, place);
  const known = await knownItems(ctx);
  const units = await loadUnits(ctx);
  for (const draft of lists) await writeList(ctx, idOf(known, draft.product), listOf(draft, known, units));
  if (stock.length > 0)
    await record(ctx, {
      kind: "opening",
      document,
      build: null,
      day: ctx.today,
      reason: "Opening stock",
      movements: stock.map((row) => arrival(row, idOf(known, row.item), placeOf(place, row.store))),
      lots: stock
        .filter((row) => row.lot !== "")
        .map((row) => ({ item: idOf(known, row.item), lot: row.lot, expiry: row.expiry })),
    });
  return { document, adds: report.adds };
}

function idOf(known: ReadonlyMap<string, { id: number }>, code: string): number {
  const item = known.get(codeKey(code));
  if (!item) throw new Error(`${code} was checked and is not there`);
  return item.id;
}

async function planImport(ctx: Reading, files: ImportFiles): Promise<Plan> {
  if (files.items === null && files.partsLists === null && files.stock === null)
    throw new Refusal("file-none");
  const units = await loadUnits(ctx);
  const known = new Map<string, KnownItem>(await knownItems(ctx));
  const collect = new Collector();

  const itemFile = collect.file("items", files.items, (text) => readFile("items", text, itemsRow));
  const items = checkItems(
    itemFile.good.map((row) => ({ ...row, cost: amount(row.cost), price: amount(row.price) })),
    known,
    units,
  );
  collect.checked("items", items.problems);
  for (const row of items.good) known.set(codeKey(row.code), { ...row, hasStock: false, parts: null });

  const listFile = collect.file("partsLists", files.partsLists, (text) =>
    readFile("partsLists", text, partsListsRow),
  );
  const broken = new Set(listFile.bad.map((values) => codeKey(values.product ?? "")));
  const lists = checkLists(
    listFile.good.map(({ once_per_build, ...row }) => ({
      ...row,
      makes: amount(row.makes),
      usual: amount(row.usual),
      overhead: amount(row.overhead),
      quantity: decimal(row.quantity),
      waste: decimal(row.waste),
      oncePerBuild: once_per_build,
    })),
    broken,
    known,
    units,
    ONE,
  );
  collect.checked("partsLists", lists.problems);

  const stockFile = collect.file("stock", files.stock, (text) =>
    readFile("stock", text, stockRow(ctx.today)),
  );
  const stock = checkStock(
    stockFile.good.map(({ unit_cost, ...row }) => ({
      ...row,
      quantity: decimal(row.quantity),
      unitCost: amount(unit_cost),
    })),
    known,
    units,
    await knownStock(ctx),
    true,
  );
  collect.checked("stock", stock.problems);

  const good = { items: items.good, lists: lists.good, stock: stock.good };
  const counts = {
    items: items.good.length,
    partsLists: lists.good.reduce((n, list) => n + list.lines.length, 0),
    stock: stock.good.length,
  };
  return { ...good, report: collect.report(counts, await additions(ctx, good), good) };
}

const amount = (text: string | null): Decimal | null => (text === null ? null : decimal(text));

async function additions(
  ctx: Reading,
  { items, lists, stock }: Pick<Plan, "items" | "lists" | "stock">,
): Promise<ImportReport["adds"]> {
  const place = await storeIds(ctx);
  const spots = [...items, ...stock].filter((row) => row.store !== "");
  const stores = new Map<string, string>();
  for (const { store } of spots)
    if (place(store) === null && !stores.has(codeKey(store))) stores.set(codeKey(store), store);
  const there = await ctx.sql.all<{ place_id: number; code: string }>("SELECT place_id, code FROM bin");
  const bins = new Set(there.map((bin) => JSON.stringify([bin.place_id, bin.code])));
  const fresh = new Set(
    spots
      .filter((row) => row.bin !== "")
      .map((row) => JSON.stringify([place(row.store) ?? codeKey(row.store), row.bin]))
      .filter((bin) => !bins.has(bin)),
  );
  return {
    items: items.length,
    lists: lists.length,
    stockRows: stock.length,
    stockValue: sum(stock.map((row) => arrival(row, 0, 0).value ?? row.unitCost)).toFixed(4),
    stores: [...stores.values()],
    bins: fresh.size,
  };
}

/** Gathers the files that were given and everything that is wrong in them. */
class Collector {
  readonly #files: { file: ImportFile; rows: number }[] = [];
  readonly #problems: ImportReport["problems"] = [];

  file<Row>(file: ImportFile, text: string | null, read: (text: string) => ReadFile<Row>): ReadFile<Row> {
    if (text === null) return { rows: 0, good: [], problems: [], bad: [] };
    const result = read(text);
    this.#files.push({ file, rows: result.rows });
    this.#add(file, result.problems);
    return result;
  }

  checked(file: ImportFile, problems: readonly Problem[]): void {
    this.#add(
      file,
      problems.map(({ code, params, ...at }) => ({ ...at, message: messageOf(code, params) })),
    );
  }

  #add(file: ImportFile, problems: readonly RowProblem[]): void {
    this.#problems.push(...problems.map((problem) => ({ file, ...problem })));
  }

  report(good: Record<ImportFile, number>, adds: ImportReport["adds"], plan: object): ImportReport {
    const problems = [...this.#problems].sort((a, b) => a.file.localeCompare(b.file) || a.row - b.row);
    const token = createHash("sha256")
      .update(JSON.stringify([plan, problems, adds]))
      .digest("hex");
    return {
      token,
      files: this.#files.map((file) => ({ ...file, good: good[file.file] })),
      problems,
      adds,
    };
  }
}
