import {
  type AnswerOf,
  LABELS_AT_ONCE,
  type Label,
  type ParsedBody,
  Refusal,
  type routes,
} from "@yosegi/contract";
import { decimal, sum } from "@yosegi/core";
import { buildSheet } from "../builds/index.ts";
import { asJson, findPage, type PageQuery, type Reading, type Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { binNamed, listStores } from "../ledger/index.ts";
import { codeSvg, fitsCode128 } from "./code.ts";
import { LABEL } from "./tables.ts";

interface Row {
  id: number;
  item: number | null;
  document: string;
  code: string;
  shape: Label["shape"];
  lines: string;
  copies: number;
  made: string;
  person: string;
  printed_by: string | null;
  printed_at: string | null;
}

const LABELS = `SELECT l.id, l.item_id AS item, l.document, l.code, l.shape, l.lines, l.copies, l.created_at AS made, n.name AS person,
            p.name AS printed_by, l.printed_at
       FROM label l JOIN person_name n ON n.id = l.created_by LEFT JOIN person_name p ON p.id = l.printed_by`;

/**
 * The label tray: what is next to be printed. Whole rows are given until LABELS_AT_ONCE copies are full: the sheets that are
 * printed, and then marked as printed, before the next come up.
 */
export async function labels(ctx: Reading): Promise<AnswerOf<typeof routes.labels>> {
  const rows = await ctx.sql.all<Row>(
    `${LABELS}
      WHERE l.id IN (SELECT id FROM (SELECT id, SUM(copies) OVER (ORDER BY id) - copies AS before FROM label
                                      WHERE printed_at IS NULL) WHERE before < ${LABELS_AT_ONCE}) ORDER BY l.id`,
  );
  const waiting = await ctx.sql.one<{ labels: number; copies: number }>(
    "SELECT COUNT(*) AS labels, COALESCE(SUM(copies), 0) AS copies FROM label WHERE printed_at IS NULL",
  );
  return { waiting: waiting ?? { labels: 0, copies: 0 }, labels: await labelsOf(ctx, rows) };
}

/** A page of labels that were printed, latest first. */
export async function printedLabels(
  ctx: Reading,
  query: PageQuery,
): Promise<AnswerOf<typeof routes.printedLabels>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "l.id",
    text: "l.code || ' ' || l.document || ' ' || l.lines",
    from: "label l WHERE l.printed_at IS NOT NULL ORDER BY l.printed_at DESC, l.id",
  });
  const page = await ctx.sql.all<Row>(
    `${LABELS} JOIN json_each($ids) ids ON ids.value = l.id ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  return { labels: await labelsOf(ctx, page), total, next };
}

async function labelsOf(ctx: Reading, rows: readonly Row[]): Promise<Label[]> {
  const brief = await briefs(
    ctx,
    rows.flatMap((row) => row.item ?? []),
  );
  return rows.map(({ printed_by, printed_at, lines, ...row }) => ({
    ...row,
    item: row.item === null ? null : brief(row.item),
    lines: JSON.parse(lines) as string[],
    printed: printed_at === null ? null : { person: printed_by ?? "", moment: printed_at },
    svg: codeSvg(row),
  }));
}

interface Face {
  code: string;
  lines: string[];
  copies: number;
}

/** Puts labels for the finished units of a build into the tray. Gives how many different ones. */
export async function makeLabels(
  ctx: Writing,
  id: number,
  { shape, copies }: ParsedBody<typeof routes.makeLabels>,
): Promise<number> {
  const build = await buildSheet(ctx, id);
  const finishes = build.finishes.filter((finish) => finish.undone === null && finish.good !== "0");
  if (finishes.length === 0) throw new Refusal("nothing-made", { number: build.number });
  const { product } = build;
  const unitsOf = (good: string) =>
    product.unit === "pc" ? Math.min(1000, Number(decimal(good).toFixed(0))) : 1;
  const head = [product.name, product.code];
  const faces: Face[] = finishes.flatMap((finish): Face[] => {
    if (finish.serials.length > 0)
      return finish.serials.map((serial) => ({
        code: serial,
        lines: [...head, build.number, `No. ${serial}`],
        copies: copies ?? 1,
      }));
    if (finish.lot === "") return [];
    const expiry = finish.expiry === null ? [] : [`Use by ${finish.expiry}`];
    const lines = [...head, ...expiry, `Lot ${finish.lot}`];
    return [{ code: finish.lot, lines, copies: copies ?? unitsOf(finish.good) }];
  });
  if (product.tracking === "none") {
    const good = sum(finishes.map((finish) => decimal(finish.good))).toFixed();
    faces.push({ code: product.code, lines: [...head, build.number], copies: copies ?? unitsOf(good) });
  }
  return addLabels(ctx, { item: product.id, document: build.number, shape }, faces);
}

/** Puts labels of an item into the tray: of its barcode or code, or of one of its lots or serial numbers. */
export async function makeItemLabels(
  ctx: Writing,
  id: number,
  { shape, copies, lot, serial }: ParsedBody<typeof routes.makeItemLabels>,
): Promise<number> {
  const item = await ctx.sql.one<{ code: string; name: string; barcode: string }>(
    "SELECT code, name, barcode FROM item_head WHERE id = $id",
    { id },
  );
  if (!item) throw new Refusal("not-found", { what: "item", id });
  const piece = await ctx.sql.one<{ expiry: string | null }>(
    `SELECT expiry FROM lot_head WHERE item_id = $id AND code = $lot AND $lot <> ''
      UNION ALL SELECT NULL FROM serial_head WHERE item_id = $id AND code = $serial AND $serial <> ''`,
    { id, lot, serial },
  );
  if ((lot || serial) && !piece)
    throw Refusal.at(lot ? "lot" : "serial", "not-found", {
      what: lot ? "lot" : "serial number",
      id: lot || serial,
    });
  const lines = [
    item.name,
    item.code,
    ...(piece?.expiry ? [`Use by ${piece.expiry}`] : []),
    ...(lot ? [`Lot ${lot}`] : []),
    ...(serial ? [`No. ${serial}`] : []),
  ];
  const code = serial || lot || item.barcode || item.code;
  return addLabels(ctx, { item: id, document: item.code, shape }, [{ code, lines, copies }]);
}

/** Puts labels of a store's bins into the tray, as one walks by them. */
export async function makeBinLabels(
  ctx: Writing,
  id: number,
  { shape, bins }: ParsedBody<typeof routes.makeBinLabels>,
): Promise<number> {
  const store = (await listStores(ctx)).find((one) => one.id === id);
  if (!store) throw new Refusal("not-found", { what: "store", id });
  const chosen = new Set(bins.map((bin, i) => binNamed(store, bin, `bins.${i}`)));
  const named = store.bins.filter((bin) => bins.length === 0 || chosen.has(bin));
  if (named.length === 0) throw Refusal.at("bins", "no-bins", { store: store.name });
  return addLabels(
    ctx,
    { item: null, document: store.name, shape },
    named.map((code) => ({ code, lines: [code, store.name], copies: 1 })),
  );
}

/** Puts labels into the tray. Gives how many different ones. */
async function addLabels(
  ctx: Writing,
  { item, document, shape }: { item: number | null; document: string; shape: Label["shape"] },
  faces: readonly Face[],
): Promise<number> {
  const unwritable = shape === "code 128" && faces.find((face) => !fitsCode128(face.code));
  if (unwritable) throw Refusal.at("shape", "code-128", { code: unwritable.code });
  await ctx.sql.insert(
    LABEL,
    faces.map((face) => ({
      item_id: item,
      document,
      code: face.code,
      shape,
      lines: JSON.stringify(face.lines),
      copies: face.copies,
      created_by: ctx.person.id,
      created_at: ctx.moment,
    })),
  );
  return faces.length;
}

export async function markPrinted(ctx: Writing, ids: readonly number[]): Promise<void> {
  await ctx
    .model(LABEL)
    .update(
      { printed_by: ctx.person.id, printed_at: ctx.moment },
      { where: { printed_at: null, id: [...ids] } },
    );
}

export async function removeLabels(ctx: Writing, ids: readonly number[]): Promise<void> {
  await ctx.model(LABEL).destroy({ where: { id: [...ids] } });
}
