import { createHash } from "node:crypto";
import {
  type FirmFileRow,
  firmsRow,
  IMPORT_KINDS,
  type ImportBody,
  type ImportKind,
  type ImportReport,
  type ItemFileRow,
  itemsRow,
  kitsRow,
  messageOf,
  partsListsRow,
  priceListsRow,
  pricesRow,
  Refusal,
  stockRow,
} from "@yosegi/contract";
import {
  type Cells,
  checkEach,
  checkItems,
  checkKits,
  checkLists,
  checkPriceLists,
  checkStock,
  checkSuppliers,
  codeKey,
  type Decimal,
  decimalsOf,
  type FileKit,
  type FileList,
  type FirmRow,
  firmCells,
  type ItemInput,
  itemCells,
  kitCells,
  listCells,
  type PriceListRow,
  type Problem,
  pricedQuantity,
  priceListCells,
  rateOf,
  type StockRow,
  type SupplierRow,
  sum,
  supplierCells,
  type ValuedRow,
  valueAt,
} from "@yosegi/core";
import type { z } from "zod";
import type { Reading } from "../db/index.ts";
import { allKnownItems, type GroupDefaults, groupsByKey, type Known, supplierIds } from "../items/index.ts";
import type { Job } from "../jobs/index.ts";
import { factsOf, mainListNames, type NamedFacts } from "../lists/index.ts";
import { customerIds, kitsThatFollow } from "../prices/index.ts";
import { knownStock } from "../stock/index.ts";
import { matchesOf } from "./matches.ts";
import { type ReadRows, type RowProblem, readRows, readTable, type Table } from "./read.ts";
import { type Records, recordKey, recordsOf } from "./records.ts";

/** What an import would write, and all that keeps it from writing more. */
export interface Plan {
  suppliers: FirmRow[];
  customers: FirmRow[];
  items: ItemInput[];
  prices: SupplierRow[];
  priceLists: PriceListRow[];
  lists: FileList[];
  kits: FileKit[];
  stock: ValuedRow[];
  report: ImportReport;
}

/** Checks every row of the files against each other and the catalog; writes nothing. */
export async function planImport(ctx: Reading, body: ImportBody, job: Job): Promise<Plan> {
  return new Planner(ctx, body, job).plan();
}

class Planner {
  readonly #ctx: Reading;
  readonly #body: ImportBody;
  readonly #job: Job;
  readonly #tables = new Map<ImportKind, Table>();
  readonly #problems: ImportReport["problems"] = [];
  readonly #changes: ImportReport["changes"] = [];
  readonly #counts = new Map<ImportKind, { fresh: number; changed: number; same: number }>();
  readonly #things = {
    fresh: Object.fromEntries(IMPORT_KINDS.map((k) => [k, 0])) as Record<ImportKind, number>,
    changed: Object.fromEntries(IMPORT_KINDS.map((k) => [k, 0])) as Record<ImportKind, number>,
  };

  constructor(ctx: Reading, body: ImportBody, job: Job) {
    this.#ctx = ctx;
    this.#body = body;
    this.#job = job;
  }

  async plan(): Promise<Plan> {
    const ctx = this.#ctx;
    const remembered = await matchesOf(ctx);
    for (const file of this.#body.files) {
      if (this.#tables.has(file.kind)) throw Refusal.at(file.kind, "file-twice");
      this.#tables.set(file.kind, await readTable(file, remembered(file.kind)));
    }
    const known: Known = await allKnownItems(ctx);
    const facts = await factsOf(ctx, known);
    const groups = await groupsByKey(ctx);
    const suppliers = await this.#firms("suppliers");
    const customers = await this.#firms("customers");
    const items = await this.#items(facts, groups);
    const stores = this.#newStores(facts);
    const named = { ...facts, stores: new Set([...facts.stores, ...stores.map(codeKey)]) };
    const firms = new Set([
      ...(await supplierIds(ctx)).keys(),
      ...suppliers.map((firm) => codeKey(firm.code)),
    ]);
    const prices = await this.#prices(named, firms);
    const priceLists = await this.#priceLists(named, customers);
    const lists = await this.#lists(named);
    const kits = await this.#kits(named);
    const stock = await this.#stock(named);
    const good = { suppliers, customers, items, prices, priceLists, lists, kits, stock };
    const missing = items
      .map((item) => item.group)
      .filter((name) => name !== "" && !groups.has(codeKey(name)));
    const adds = {
      ...this.#things,
      stockValue: sum(stock.map((row) => valueAt(row.quantity, row.unitCost))).toFixed(4),
      stores: distinct([...items, ...stock].map((r) => r.store).filter((s) => isNew(s, facts.stores))),
      bins: await this.#newBins(items, stock),
      groups: distinct(missing),
    };
    return { ...good, report: this.#report(good, adds) };
  }

  /** Reads the rows of a kind; columns that its file lacks are told by what is there already. */
  async #read<S extends z.ZodType>(
    kind: ImportKind,
    schema: S,
    before: Records,
  ): Promise<ReadRows<z.output<S>>> {
    const table = this.#tables.get(kind);
    if (!table) return { good: [], problems: [], bad: [] };
    const read = await readRows(table, schema, knownCells(kind, before), this.#job);
    this.#add(kind, read.problems);
    return read;
  }

  async #before(kind: ImportKind): Promise<Records> {
    return this.#tables.has(kind) ? recordsOf(this.#ctx, kind) : new Map();
  }

  #add(kind: ImportKind, problems: readonly RowProblem[]): void {
    this.#problems.push(...problems.map((problem) => ({ kind, ...problem })));
  }

  #checked(kind: ImportKind, problems: readonly Problem[]): void {
    this.#add(
      kind,
      problems.map(({ code, params, ...at }) => ({ ...at, message: messageOf(code, params) })),
    );
  }

  /** Keeps what is new, and what differs from what is there where that may be changed; notes what would change. */
  #keep<Thing extends { row: number }>(
    kind: ImportKind,
    things: readonly Thing[],
    before: Records,
    cellsOf: (thing: Thing) => Cells[],
  ): Thing[] {
    const count = { fresh: 0, changed: 0, same: 0 };
    this.#counts.set(kind, count);
    return things.filter((thing) => {
      const cells = cellsOf(thing);
      const [first = {}] = cells;
      const there = before.get(recordKey(kind, first));
      if (!there) {
        count.fresh += cells.length;
        this.#things.fresh[kind]++;
        return true;
      }
      const changes = differences(there, cells);
      if (changes.length === 0) {
        count.same += cells.length;
        return false;
      }
      count.changed += cells.length;
      const { code, item, supplier, product, list, kit, customer, group } = first;
      const what =
        code ?? kit ?? [item ?? product, supplier ?? list ?? (customer || group)].filter(Boolean).join(" · ");
      this.#changes.push(...changes.map((change) => ({ kind, row: thing.row, what, ...change })));
      if (this.#body.update) this.#things.changed[kind]++;
      return this.#body.update;
    });
  }

  async #firms(kind: "suppliers" | "customers"): Promise<FirmRow[]> {
    const before = await this.#before(kind);
    const { good } = await this.#read(kind, firmsRow, before);
    const { good: firms, problems } = checkEach<FirmFileRow & { row: number }>(
      good,
      "code",
      (row) => row.code,
      () => {},
    );
    this.#checked(kind, problems);
    return this.#keep(kind, firms, before, (firm) => [firmCells(firm)]);
  }

  async #items(facts: NamedFacts, groups: ReadonlyMap<string, GroupDefaults>): Promise<ItemInput[]> {
    const before = await this.#before("items");
    const { good } = await this.#read("items", itemsRow, before);
    const rows = good.map((row) => withDefaults(row, groups.get(codeKey(row.group))));
    const { good: items, problems } = checkItems(this.#inCurrency("items", rows), facts.items, facts.units);
    this.#checked("items", problems);
    const kept = this.#keep("items", items, before, (item) => [itemCells(item)]);
    for (const row of kept) {
      const there = facts.items.get(codeKey(row.code)) ?? NEW_ITEM;
      const { cost, costPer, ...known } = row;
      const per = pricedQuantity(costPer, facts.units.get(row.unit), facts.units.values(), row.packs);
      facts.items.set(codeKey(row.code), {
        ...there,
        ...known,
        cost: cost === null || per === null ? null : rateOf(cost, per),
      });
    }
    return kept;
  }

  /** Rows whose sales price has no more decimals than the company's currency; it is never rounded behind someone's back. */
  #inCurrency<Priced extends { row: number; price: Decimal | null }>(
    kind: ImportKind,
    rows: readonly Priced[],
  ): Priced[] {
    const { currencyDecimals: allowed, company } = this.#ctx;
    const message = messageOf("currency-decimals", { allowed, currency: company?.currency ?? "" });
    return rows.filter(({ row, price }) => {
      if (price === null || decimalsOf(price) <= allowed) return true;
      this.#add(kind, [{ row, field: "price", value: price.toFixed(), message }]);
      return false;
    });
  }

  async #prices(facts: NamedFacts, firms: ReadonlySet<string>): Promise<SupplierRow[]> {
    const before = await this.#before("prices");
    const { good } = await this.#read("prices", pricesRow, before);
    const { good: rows, problems } = checkSuppliers(good, facts, firms);
    this.#checked("prices", problems);
    return this.#keep("prices", rows, before, (row) => [supplierCells(row)]);
  }

  async #priceLists(facts: NamedFacts, customers: readonly FirmRow[]): Promise<PriceListRow[]> {
    const before = await this.#before("priceLists");
    const { good } = await this.#read("priceLists", priceListsRow, before);
    const known = new Set([
      ...(await customerIds(this.#ctx)).keys(),
      ...customers.map((firm) => codeKey(firm.code)),
    ]);
    const priced = this.#inCurrency("priceLists", good);
    const { good: rows, problems } = checkPriceLists(priced, facts, known, await kitsThatFollow(this.#ctx));
    this.#checked("priceLists", problems);
    return this.#keep("priceLists", rows, before, (row) => [priceListCells(row)]);
  }

  async #lists(facts: NamedFacts): Promise<FileList[]> {
    const before = await this.#before("partsLists");
    const { good, bad } = await this.#read("partsLists", partsListsRow, before);
    const broken = new Set(bad.map((cells) => recordKey("partsLists", cells)));
    const isMain = await mainListNames(this.#ctx);
    // A main list may be named or not: rows of both are rows of one list.
    const rows = good.map((row) => (isMain(row.product, row.list) ? { ...row, list: "" } : row));
    const { good: lists, problems } = checkLists(rows, broken, facts);
    this.#checked("partsLists", problems);
    return this.#keep("partsLists", lists, before, listCells);
  }

  async #kits(facts: NamedFacts): Promise<FileKit[]> {
    const before = await this.#before("kits");
    const { good, bad } = await this.#read("kits", kitsRow, before);
    const broken = new Set(bad.map((cells) => recordKey("kits", cells)));
    const { good: kits, problems } = checkKits(good, broken, facts);
    this.#checked("kits", problems);
    return this.#keep("kits", kits, before, kitCells);
  }

  /** Opening stock is for items without any; what says just what lies there already is left alone. */
  async #stock(facts: NamedFacts): Promise<ValuedRow[]> {
    const before = await this.#before("stock");
    const { good } = await this.#read("stock", stockRow(this.#ctx.today), new Map());
    const known = good.filter((row) => isThere(row, before));
    const { good: rows, problems } = checkStock(
      good.filter((row) => !known.includes(row)),
      facts.items,
      facts.units,
      await knownStock(this.#ctx, null, "opening"),
      true,
    );
    this.#checked("stock", problems);
    this.#counts.set("stock", { fresh: rows.length, changed: 0, same: known.length });
    this.#things.fresh.stock = rows.length;
    return rows;
  }

  /** Stores that the files of items and stock name and that are made with them. */
  #newStores(facts: NamedFacts): string[] {
    const rows = [...(this.#tables.get("items")?.rows ?? []), ...(this.#tables.get("stock")?.rows ?? [])];
    return distinct(rows.map(({ cells }) => cells.store ?? "").filter((name) => isNew(name, facts.stores)));
  }

  async #newBins(items: readonly ItemInput[], stock: readonly ValuedRow[]): Promise<number> {
    const there = await this.#ctx.sql.all<{ key: string; code: string }>(
      "SELECT p.name_key AS key, b.code FROM bin_head b JOIN location_head p ON p.id = b.location_id",
    );
    const key = (store: string, bin: string) => `${codeKey(store)}\n${bin}`;
    const bins = new Set(there.map((bin) => key(bin.key, bin.code)));
    const named = [...items, ...stock].filter((row) => row.bin !== "" && row.store !== "");
    return new Set(named.map((row) => key(row.store, row.bin)).filter((bin) => !bins.has(bin))).size;
  }

  #report(good: object, adds: ImportReport["adds"]): ImportReport {
    const order = (p: { kind: ImportKind; row: number }) => IMPORT_KINDS.indexOf(p.kind) * 1e7 + p.row;
    const problems = [...this.#problems].sort((a, b) => order(a) - order(b));
    const token = createHash("sha256")
      .update(JSON.stringify([good, problems, adds]))
      .digest("hex");
    return {
      token,
      files: [...this.#tables.values()].map(({ kind, theirs, columns, missing, rows, numbers }) => ({
        kind,
        theirs,
        columns,
        missing,
        rows: rows.length,
        decimal: numbers.decimal,
        ...(this.#counts.get(kind) ?? { fresh: 0, changed: 0, same: 0 }),
      })),
      problems,
      changes: this.#changes,
      adds,
    };
  }
}

const isNew = (store: string, stores: ReadonlySet<string>) => store !== "" && !stores.has(codeKey(store));

/** What is known of an item that a file is about to make. */
const NEW_ITEM = { id: 0, hasStock: false, inUse: null, parts: null };

/** Each name once, as it was written first. */
function distinct(names: readonly string[]): string[] {
  const first = new Map<string, string>();
  for (const name of names) if (!first.has(codeKey(name))) first.set(codeKey(name), name);
  return [...first.values()];
}

/** What a row leaves open is as its group says. */
function withDefaults(row: ItemFileRow & { row: number }, group: GroupDefaults | undefined): ItemInput {
  return {
    ...row,
    unit: row.unit === "" ? (group?.unit ?? "") : row.unit,
    tracking: row.tracking ?? group?.tracking ?? "none",
    store: row.store === "" && row.bin === "" && row.kind !== "service" ? (group?.store ?? "") : row.store,
  };
}

/** What is there already of the record that a row tells of, for the columns that its file does not have. */
function knownCells(kind: ImportKind, before: Records): (cells: Cells) => Cells {
  const heads = { partsLists: HEADS.partsLists, kits: HEADS.kits };
  if (kind !== "partsLists" && kind !== "kits")
    return (cells) => before.get(recordKey(kind, cells))?.[0] ?? {};
  const part = kind === "kits" ? "content" : "part";
  const seen = new Map<string, number>();
  return (cells) => {
    const key = recordKey(kind, cells);
    const rows = before.get(key);
    if (!rows) return {};
    const first = !seen.has(key);
    seen.set(key, 1);
    const nth = `${key}\n${codeKey(cells[part] ?? "")}`;
    const at = seen.get(nth) ?? 0;
    seen.set(nth, at + 1);
    const line = rows.filter((row) => codeKey(row[part] ?? "") === codeKey(cells[part] ?? ""))[at] ?? {};
    const head = heads[kind].map((column) => [column, first ? (rows[0]?.[column] ?? "") : ""]);
    return { ...line, ...Object.fromEntries(head) };
  };
}

/** Columns that concern a list or kit as a whole. */
const HEADS = {
  partsLists: ["makes", "usual", "overhead", "extra", "yield"],
  kits: ["contents_shown", "may_be_added_to", "price_rule", "discount"],
};

/** Columns that name something by its code or name, whose case says nothing. */
const NAMING = new Set([
  "code",
  "item",
  "product",
  "part",
  "kit",
  "content",
  "supplier",
  "store",
  "group",
  "person",
  "list",
  "substitutes",
  "swaps",
]);

/** Where two records differ, cell by cell. A line that is more or fewer is told as a whole. */
function differences(before: readonly Cells[], after: readonly Cells[]) {
  const found: { field: string; before: string; after: string }[] = [];
  for (let i = 0; i < Math.max(before.length, after.length); i++) {
    const [was, is] = [before[i], after[i]];
    if (!was || !is) {
      found.push({ field: `line ${i + 1}`, before: lineText(was), after: lineText(is) });
      continue;
    }
    for (const column of Object.keys(is)) {
      const [a, b] = [was[column] ?? "", is[column] ?? ""];
      const same = NAMING.has(column) ? codeKey(a) === codeKey(b) : a === b;
      if (same) continue;
      const line = is.part ?? is.content;
      found.push({ field: line ? `${line} ${column}` : column, before: a, after: b });
    }
  }
  return found;
}

const lineText = (cells: Cells | undefined) =>
  cells ? [cells.quantity, cells.unit, cells.part ?? cells.content].filter(Boolean).join(" ") : "";

function isThere(row: StockRow, before: Records): boolean {
  return (before.get(codeKey(row.item)) ?? []).some(
    (cells) =>
      codeKey(cells.store ?? "") === codeKey(row.store) &&
      cells.bin === row.bin &&
      cells.lot === row.lot &&
      cells.serial === row.serial &&
      cells.expiry === (row.expiry ?? "") &&
      row.quantity.eq(cells.quantity ?? "0"),
  );
}
