import { type BuildSheet, Refusal } from "@yosegi/contract";
import {
  byTurn,
  expired,
  free,
  lineNeed,
  needUnit,
  quantityFromWhole,
  startFor,
  type Takeable,
  ZERO,
} from "@yosegi/core";
import {
  briefs,
  itemById,
  loadRevisions,
  loadUnits,
  placeAndPersonNames,
  priceText,
} from "../catalog/index.ts";
import { asJson, type BuildTableRow, type ItemTableRow, type Reading, rateOrNull } from "../db/index.ts";
import { filesOf } from "../files/index.ts";
import { loadBooks, stockFigures } from "../ledger/index.ts";
import { benchName } from "./bench.ts";
import { type ChosenList, draftOf, listFor, startOf } from "./content.ts";
import { feeOf } from "./fee.ts";
import { finishes } from "./finishes.ts";
import { suggestedNumbers } from "./numbers.ts";
import { buildById, buildRow, doneOf, type KeptLine, keptLines } from "./rows.ts";

export async function buildSheet(ctx: Reading, id: number): Promise<BuildSheet> {
  const build = await buildById(ctx, id);
  const product = await itemById(ctx, build.product_id);
  const ended = build.makes === null && build.stage !== "draft";
  const list = build.makes === null && !ended ? await draftList(ctx, build, product) : null;
  const lines = list ? draftLines(build, list.taken) : await keptLines(ctx, id, await loadUnits(ctx));
  const { places } = await placeAndPersonNames(ctx);
  const items = lines.map((line) => line.item);
  const substitutes = await substitutesOf(ctx, build, lines);
  const brief = await briefs(ctx, [...items, ...[...substitutes.values()].flat().map((s) => s.item)]);
  const stock = await stockFigures(ctx, items);
  const spare = await stockFigures(
    ctx,
    [...substitutes.values()].flat().map((s) => s.item),
  );
  const bins = await homes(ctx, [product.id, ...items]);
  const choices = await choicesOf(ctx, build, lines, places);
  const home = bins.get(product.id);
  const fee = await feeOf(ctx, build);
  return {
    ...(await buildRow(ctx, id)),
    note: build.note,
    open: quantityFromWhole(build.quantity).minus(doneOf(build)).toFixed(),
    price: priceText(ctx, rateOrNull(product.price, product.price_per)),
    store: build.place_id === null ? (home?.store ?? "") : (places.get(build.place_id) ?? ""),
    bin: build.bin === "" && build.place_id === null ? (home?.bin ?? "") : build.bin,
    lines: lines.map((line) => ({
      line: line.line,
      item: brief(line.item),
      service: line.service,
      stocked: line.stocked,
      drawnAt: line.drawnAt,
      store: line.store === null ? "" : (places.get(line.store) ?? ""),
      note: line.note,
      unit: needUnit(line).code,
      decimals: needUnit(line).decimals,
      bin: bins.get(line.item)?.bin ?? "",
      need: line.need.toFixed(),
      used: line.used.toFixed(),
      wasted: line.wasted.toFixed(),
      open: line.open.toFixed(),
      bench: line.bench.toFixed(),
      onHand: !line.stocked ? null : free({ ...stock(line.item), reserved: ZERO }).toFixed(),
      added: line.added,
      insteadOf: line.insteadOf,
      substitutes: (substitutes.get(line.line) ?? []).map((s) => ({
        item: brief(s.item),
        factor: s.quantity.toFixed(),
        free: free(spare(s.item)).toFixed(),
      })),
      choices: choices(line.item),
    })),
    wanted: quantityFromWhole(build.wanted).toFixed(),
    list: await listWords(ctx, list?.revision ?? build.revision_id),
    lists: await ctx.sql.all<{ id: number; name: string }>(
      "SELECT id, name FROM parts_list WHERE product_id = $id ORDER BY main DESC, name_key",
      { id: product.id },
    ),
    options: await optionsOf(ctx, build, list?.whole ?? null),
    history: await history(ctx, build),
    finishes: await finishes(ctx, id),
    files: await filesOf(ctx, "build", id),
    picture: product.picture_id,
    ...(await suggestedNumbers(ctx, product)),
    fee: {
      total: fee.total.toFixed(ctx.currencyDecimals),
      orders: fee.orders.map((order) => ({
        ...order,
        total: order.total.toFixed(ctx.currencyDecimals),
      })),
    },
    splitFrom: await numbered(ctx, build.split_from),
    joinedInto: await numbered(ctx, build.joined_into),
    asBuilt: await numbered(ctx, build.as_built),
    benchPlace: await benchName(ctx, build),
  };
}

const numbered = (ctx: Reading, id: number | null) =>
  ctx.sql.one<{ id: number; number: string }>("SELECT id, number FROM build WHERE id = $id", { id });

/** What the revision of a build allows instead of a line's part. */
async function substitutesOf(ctx: Reading, build: BuildTableRow, lines: readonly KeptLine[]) {
  const revision = build.revision_id ?? 0;
  const list = (await loadRevisions(ctx, [revision])).get(revision);
  return new Map(
    lines.flatMap((line) => {
      const allowed = line.listLine === null ? [] : (list?.lines[line.listLine - 1]?.substitutes ?? []);
      return allowed.length === 0 ? [] : [[line.line, allowed] as const];
    }),
  );
}

/** Lots and serials of tracked parts that could be taken, those on the bench first, then in the suggested order. */
async function choicesOf(
  ctx: Reading,
  build: BuildTableRow,
  lines: readonly KeptLine[],
  places: ReadonlyMap<number, string>,
) {
  const { ready, bench } = await loadBooks(
    ctx,
    lines.filter((line) => line.stocked).map((line) => line.item),
  );
  const shown = (bench: boolean) => (balance: Takeable) => ({
    code: balance.serial === "" ? balance.lot : balance.serial,
    quantity: balance.quantity.toFixed(),
    expiry: balance.expiry,
    bench,
    store: places.get(balance.place) ?? "",
    bin: balance.bin,
  });
  return (item: number) => {
    const own = (balance: Takeable) => balance.item === item && (balance.lot !== "" || balance.serial !== "");
    const lying = bench.filter((balance) => own(balance) && balance.build === build.id).sort(byTurn);
    const there = ready.filter((balance) => own(balance) && !expired(balance.expiry, ctx.today)).sort(byTurn);
    return [...lying.map(shown(true)), ...there.map(shown(false))];
  };
}

/** The list of a draft as it is today; null where it has none in force any more. */
async function draftList(ctx: Reading, build: BuildTableRow, product: ItemTableRow) {
  try {
    return await listFor(ctx, product, draftOf(build), startOf(product, build.due, ctx.today));
  } catch (error) {
    if (error instanceof Refusal && error.code === "no-list") return null;
    throw error;
  }
}

async function listWords(ctx: Reading, revision: number | null): Promise<BuildSheet["list"]> {
  const row = await ctx.sql.one<{ id: number; name: string; main: number; revision: number }>(
    `SELECT p.id, p.name, p.main, r.number AS revision FROM revision r JOIN parts_list p ON p.id = r.list_id WHERE r.id = $revision`,
    { revision },
  );
  return row && revision ? { ...row, main: row.main === 1, revisionId: revision } : null;
}

/** The optional parts that a draft may choose, or those that were chosen. */
async function optionsOf(
  ctx: Reading,
  build: BuildTableRow,
  whole: ChosenList["whole"] | null,
): Promise<BuildSheet["options"]> {
  const { options } = draftOf(build);
  const items = whole ? whole.lines.filter((line) => line.optional).map((line) => line.item) : options;
  const brief = await briefs(ctx, items);
  return [...new Set(items)].map((item) => {
    const { code, name } = brief(item);
    return { item, code, name, chosen: options.includes(item) };
  });
}

/** What a draft would take by the list as it is today. */
function draftLines(build: BuildTableRow, list: ChosenList["taken"]): KeptLine[] {
  const quantity = startFor(list, quantityFromWhole(build.wanted));
  return list.lines.map((line, i) => ({
    ...line,
    line: i + 1,
    need: lineNeed(line, list.makes, quantity),
    used: ZERO,
    wasted: ZERO,
    open: ZERO,
    bench: ZERO,
    listLine: null,
    added: false,
    insteadOf: null,
  }));
}

/** Home store and bin of items; the first store where an item names none. */
async function homes(ctx: Reading, items: readonly number[]) {
  const rows = await ctx.sql.all<{ id: number; store: string; bin: string }>(
    `SELECT h.item_id AS id, COALESCE(p.name, '') AS store, h.bin
       FROM json_each($ids) ids JOIN item_home h ON h.item_id = ids.value LEFT JOIN place p ON p.id = h.place_id`,
    { ids: asJson(items) },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

async function history(ctx: Reading, build: BuildTableRow): Promise<BuildSheet["history"]> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person");
  const nameOf = (id: number | null) => people.find((person) => person.id === id)?.name ?? "";
  const steps = [
    { what: "made" as const, by: build.made_by, moment: build.made_at },
    { what: "queued" as const, by: build.queued_by, moment: build.queued_at },
    { what: "on the bench" as const, by: build.bench_by, moment: build.bench_at },
    { what: "finished" as const, by: build.finished_by, moment: build.finished_at },
    { what: "cancelled" as const, by: build.cancelled_by, moment: build.cancelled_at },
  ];
  return steps.flatMap(({ what, by, moment }) =>
    moment === null ? [] : [{ what, person: nameOf(by), moment }],
  );
}
