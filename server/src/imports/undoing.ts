import {
  type AnswerOf,
  IMPORT_COLUMNS,
  IMPORT_KINDS,
  type ImportFile,
  type ImportKind,
  Refusal,
  type routes,
} from "@yosegi/contract";
import { type Cells, codeKey, decimal } from "@yosegi/core";
import { stringify } from "csv-stringify/sync";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { removeFirm } from "../firms/index.ts";
import { itemById, removeSupplier } from "../items/index.ts";
import { removeItem, setState } from "../itemsheets/index.ts";
import type { Job } from "../jobs/index.ts";
import { removeKit } from "../kits/index.ts";
import { undo } from "../ledger/index.ts";
import { removeImported, removeList } from "../lists/index.ts";
import { removePriceSteps } from "../prices/index.ts";
import { planImport } from "./plan.ts";
import { allRecords, isAsLeft, type RecordChange, runById } from "./runs.ts";
import { importNote, writeRecords } from "./service.ts";
import { IMPORT_RUN } from "./tables.ts";

/**
 * Undoes an import while all it brought is as it left it and nothing else names what it made: its stock by a mirrored posting,
 * what it changed as it was before, what it made is removed. An item whose opening stock is in the ledger stays, archived.
 */
export async function undoImport(
  ctx: Writing,
  id: number,
  job: Job,
): Promise<AnswerOf<typeof routes.undoImport>> {
  const run = await runById(ctx, id);
  if (run.undone_at !== null) throw new Refusal("import-undone", { number: run.number });
  const changes = JSON.parse(run.changes) as RecordChange[];
  await refuseChanged(ctx, run.number, changes);
  const posting = await ctx.sql.one<{ id: number }>(
    "SELECT id FROM posting_head WHERE document = $number AND kind = 'opening' AND undoes IS NULL",
    { number: run.number },
  );
  if (posting)
    await undo(ctx, { kind: "opening", document: run.number, reason: "Import undone", undoes: posting.id });
  const [made, changed] = [changes.filter(isMade), changes.filter((change) => !isMade(change))];
  const idOf = await idsOf(ctx, made);
  await removeImported(ctx, importNote(run.number));
  await removeContents(ctx, made, idOf);
  await restore(ctx, run.number, changed, job);
  const gone = await removeItems(ctx, run.number, made, idOf);
  await ctx.model(IMPORT_RUN).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  return { number: run.number, restored: changed.length, ...gone };
}

const isMade = (change: RecordChange): boolean => change.before === null;

/** What a record is called, by its cells. */
function nameOf({ kind, after }: RecordChange): string {
  const [{ code, kit, item, product, supplier, list, customer, group } = {}] = after;
  if (kind === "prices") return `the price of ${item} from ${supplier}`;
  if (kind === "priceLists") return `the price of ${item} for ${customer || group}`;
  if (kind === "partsLists") return `the parts list of ${[product, list].filter(Boolean).join(" ")}`;
  return kind === "kits" ? `the contents of ${kit}` : (code ?? "");
}

async function refuseChanged(ctx: Reading, number: string, changes: readonly RecordChange[]): Promise<void> {
  const now = await allRecords(ctx, [...new Set(changes.map((change) => change.kind))]);
  const changed = changes.filter((change) => !isAsLeft(change, now));
  const [first, ...others] = changed;
  if (!first) return;
  const more = others.length === 0 ? "" : ` and ${others.length} more`;
  throw new Refusal("import-used", { number, what: `${nameOf(first)}${more} changed` });
}

/** Writes records as they were before, by the way on which they came in. */
async function restore(
  ctx: Writing,
  number: string,
  changes: readonly RecordChange[],
  job: Job,
): Promise<void> {
  const files = IMPORT_KINDS.flatMap((kind): ImportFile[] => {
    const rows = changes.filter((change) => change.kind === kind).flatMap((change) => change.before ?? []);
    return rows.length === 0 ? [] : [fileOf(kind, rows)];
  });
  if (files.length === 0) return;
  const plan = await planImport(ctx, { files, update: true }, job);
  const [problem] = plan.report.problems;
  // Such as a unit that was changed with it, of an item whose opening stock is in the ledger.
  if (problem) throw new Refusal("import-back", { number, why: problem.message });
  await writeRecords(ctx, plan, `Import ${number} undone`, job);
}

function fileOf(kind: ImportKind, rows: readonly Cells[]): ImportFile {
  const columns = IMPORT_COLUMNS[kind];
  const text = stringify([columns, ...rows.map((cells) => columns.map((column) => cells[column] ?? ""))]);
  return {
    kind,
    name: `${kind}.csv`,
    content: Buffer.from(text).toString("base64"),
    columns: {},
    decimal: ".",
  };
}

type IdOf = Awaited<ReturnType<typeof idsOf>>;

const cell = (change: RecordChange, column: string): string => change.after[0]?.[column] ?? "";

const ofKind = (changes: readonly RecordChange[], kind: ImportKind) =>
  changes.filter((change) => change.kind === kind);

/** Removes the kits, prices and lists that an import made: what names items goes before these. */
async function removeContents(ctx: Writing, made: readonly RecordChange[], idOf: IdOf): Promise<void> {
  for (const kit of ofKind(made, "kits")) await removeKit(ctx, idOf("item", cell(kit, "kit")));
  for (const price of ofKind(made, "prices"))
    await removeSupplier(ctx, idOf("item", cell(price, "item")), idOf("supplier", cell(price, "supplier")));
  await removePriceSteps(
    ctx,
    ofKind(made, "priceLists").map((step) => ({
      customer: cell(step, "customer"),
      group: cell(step, "group"),
      item: cell(step, "item"),
      from: decimal(cell(step, "from")),
    })),
  );
  for (const list of ofKind(made, "partsLists"))
    await removeList(ctx, idOf("item", cell(list, "product")), cell(list, "list"));
}

/** Removes the items and firms that an import made, and archives items that the ledger knows. */
async function removeItems(
  ctx: Writing,
  number: string,
  made: readonly RecordChange[],
  idOf: IdOf,
): Promise<{ removed: number; archived: number }> {
  const count = { removed: 0, archived: 0 };
  for (const change of ofKind(made, "items")) {
    const id = idOf("item", cell(change, "code"));
    const uses = await usesOf(ctx, id);
    if (uses.some((use) => use !== "movement"))
      throw new Refusal("import-used", { number, what: `${cell(change, "code")} was used` });
    if (uses.length > 0) {
      await setState(ctx, await itemById(ctx, id), "archived");
      count.archived++;
    } else {
      await removeItem(ctx, id);
      count.removed++;
    }
  }
  for (const [kind, firm] of [
    ["suppliers", "supplier"],
    ["customers", "customer"],
  ] as const)
    for (const change of ofKind(made, kind)) await removeFirm(ctx, idOf(firm, cell(change, "code")));
  return count;
}

/** In what an item is named. */
async function usesOf(ctx: Reading, item: number): Promise<string[]> {
  const rows = await ctx.sql.all<{ use: string }>("SELECT DISTINCT use FROM item_use WHERE item_id = $item", {
    item,
  });
  return rows.map((row) => row.use);
}

/** Ids of items and firms by their code. */
async function idsOf(ctx: Reading, made: readonly RecordChange[]) {
  const codes = made.flatMap(({ after }) =>
    after.flatMap(({ code = "", item = "", product = "", kit = "", supplier = "" }) =>
      [code, item, product, kit, supplier].map(codeKey),
    ),
  );
  const rows = await ctx.sql.all<{ kind: string; key: string; id: number }>(
    `SELECT 'item' AS kind, code_key AS key, id FROM item_head WHERE code_key IN (SELECT value FROM json_each($codes))
      UNION ALL SELECT kind, code_key, id FROM firm_head WHERE code_key IN (SELECT value FROM json_each($codes))`,
    { codes: asJson(new Set(codes)) },
  );
  const ids = new Map(rows.map((row) => [`${row.kind} ${row.key}`, row.id]));
  return (kind: "item" | "supplier" | "customer", code: string): number => {
    const id = ids.get(`${kind} ${codeKey(code)}`);
    if (id === undefined) throw new Error(`${code} was imported and is not there`);
    return id;
  };
}
