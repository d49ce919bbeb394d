import type { BuildSheet } from "@yosegi/contract";
import { quantityFromScaled } from "@yosegi/core";
import { type Reading, rateOrNull } from "../db/index.ts";
import { filesOf } from "../files/index.ts";
import { briefs, itemById, priceText } from "../items/index.ts";
import { benchName } from "./bench.ts";
import { type ChosenList, draftOf } from "./content.ts";
import { feeOf } from "./fee.ts";
import { finishes } from "./finishes.ts";
import { suggestedNumbers } from "./numbers.ts";
import { buildById, buildRow, doneOf } from "./rows.ts";
import { sheetParts } from "./sheetparts.ts";
import type { BuildTableRow } from "./tables.ts";

export async function buildSheet(ctx: Reading, id: number): Promise<BuildSheet> {
  const build = await buildById(ctx, id);
  const product = await itemById(ctx, build.product_id);
  const sheets = await sheetParts(ctx, [build]);
  const { list, lines, ownParts, leftOut, store, bin } = sheets(build);
  const fee = await feeOf(ctx, build);
  return {
    ...(await buildRow(ctx, id)),
    version: build.version,
    note: build.note,
    open: quantityFromScaled(build.quantity).minus(doneOf(build)).toFixed(),
    takenApart: (await takenApart(ctx, id)).toFixed(),
    price: priceText(ctx, rateOrNull(product.price, product.price_per)),
    store,
    bin,
    lines,
    ownParts,
    leftOut,
    wanted: quantityFromScaled(build.wanted).toFixed(),
    list: list.words,
    instructions: list.instructions,
    lists: await ctx.sql.all<{ id: number; name: string }>(
      "SELECT id, name FROM list_head WHERE product_id = $id ORDER BY main DESC, name_key",
      { id: product.id },
    ),
    options: await optionsOf(ctx, build, list.withAllOptions),
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

/** How many of a build's units were taken apart since. */
async function takenApart(ctx: Reading, id: number) {
  const row = await ctx.sql.one<{ quantity: number }>(
    "SELECT COALESCE(SUM(quantity), 0) AS quantity FROM take_apart_head WHERE build_id = $id AND undone_at IS NULL",
    { id },
  );
  return quantityFromScaled(row?.quantity ?? 0);
}

const numbered = (ctx: Reading, id: number | null) =>
  ctx.sql.one<{ id: number; number: string }>("SELECT id, number FROM build WHERE id = $id", { id });

/** The optional parts that a draft may choose, or those that were chosen. */
async function optionsOf(
  ctx: Reading,
  build: BuildTableRow,
  withAllOptions: ChosenList["withAllOptions"] | null,
): Promise<BuildSheet["options"]> {
  const { options } = draftOf(build);
  const items = withAllOptions
    ? withAllOptions.lines.filter((line) => line.optional).map((line) => line.item)
    : options;
  const brief = await briefs(ctx, items);
  return [...new Set(items)].map((item) => {
    const { code, name } = brief(item);
    return { item, code, name, chosen: options.includes(item) };
  });
}

async function history(ctx: Reading, build: BuildTableRow): Promise<BuildSheet["history"]> {
  const people = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM person_name");
  const nameOf = (id: number | null) => people.find((person) => person.id === id)?.name ?? "";
  const steps = [
    { what: "created" as const, by: build.created_by, moment: build.created_at },
    { what: "queued" as const, by: build.queued_by, moment: build.queued_at },
    { what: "on the bench" as const, by: build.bench_by, moment: build.bench_at },
    { what: "finished" as const, by: build.finished_by, moment: build.finished_at },
    { what: "cancelled" as const, by: build.cancelled_by, moment: build.cancelled_at },
  ];
  return steps.flatMap(({ what, by, moment }) =>
    moment === null ? [] : [{ what, person: nameOf(by), moment }],
  );
}
