import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  checkDecimals,
  convertible,
  type Decimal,
  isStocked,
  type Movement,
  ONE,
  type Problem,
  post,
  quantityFromScaled,
  type Rate,
  type Recovery,
  recover,
  reporter,
  type Spot,
  spotKey,
  sum,
  valueAt,
  ZERO,
} from "@yosegi/core";
import { buildById } from "../builds/index.ts";
import type { Reading } from "../db/index.ts";
import { briefs, itemById, loadUnits, unitNamed } from "../items/index.ts";
import { loadBooks, storeId } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { openReturnLine } from "../returns/index.ts";
import { refuseTracking } from "../stock/index.ts";
import { listOf, sharesOf } from "./proposal.ts";

export type TakeApartInput = ParsedBody<typeof routes.newTakeApart>;
export interface PlannedTakeApart {
  from: Spot;
  /** The units as they leave; their value is what they carry. */
  out: Movement;
  /** Where the good ones of each part go; null where none is good. */
  to: (Spot | null)[];
  valueOut: Decimal;
  recovery: Recovery;
  /** What the time spent on it costs. */
  work: Decimal;
  /** What is taken off the credit of the return that it is from, in the currency's decimals. */
  charged: Decimal;
}

/** Where the value of a take-apart lands (docs/rules.md § 17). Refuses more than is there, and parts that don't add up. */
export async function planTakeApart(ctx: Reading, body: TakeApartInput): Promise<PlannedTakeApart> {
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  const product = await itemById(ctx, body.item);
  if (product.kind !== "built") throw Refusal.at("item", "take-apart-built", { code: product.code });
  await checkUnits(ctx, body);
  const to = await placesOf(ctx, body);
  await refuseOfBuild(ctx, body);
  if (body.build !== null && body.revision !== null) throw Refusal.at("revision", "take-apart-build-says");
  if (body.revision !== null) await listOf(ctx, body.item, body.revision);
  const from = body.returnLine
    ? await openReturnLine(ctx, body.returnLine, body)
    : { location: await storeId(ctx, "store", body.store), bin: body.bin };
  const { stock } = await loadBooks(ctx, [body.item, ...body.parts.map(({ item }) => item)]);
  const { item, lot, serial, quantity } = body;
  await refuseNotThere(
    ctx,
    body,
    stock.balances.get(spotKey({ item, lot, serial, ...from }))?.quantity ?? ZERO,
  );
  const out: Movement = { purpose: "taken apart", item, lot, serial, quantity, from, to: null, value: null };
  const posted = post(stock, [out]);
  const valueOut = posted.ok ? sum(posted.movements.map(({ value }) => value)) : ZERO;
  const recovery = await recoveryOf(ctx, body, valueOut);
  if (body.charge && !body.returnLine) throw Refusal.at("charge", "charge-no-return");
  const charged = body.charge ? recovery.damaged.plus(recovery.missing).round(ctx.currencyDecimals) : ZERO;
  return { from, out, to, valueOut, recovery, work: await workCost(ctx, body), charged };
}

/** What the minutes spent cost, at the rate of the service. */
async function workCost(ctx: Reading, { work, minutes }: TakeApartInput): Promise<Decimal> {
  if (work === null) {
    if (minutes.gt(0)) throw Refusal.at("work", "work-needed");
    return ZERO;
  }
  const { code, kind, unit } = (await briefs(ctx, [work]))(work);
  if (kind !== "service") throw Refusal.at("work", "not-work", { code });
  const units = await loadUnits(ctx);
  const [minute, own] = [unitNamed(units, "min"), unitNamed(units, unit)];
  if (!convertible(minute, own)) throw Refusal.at("work", "work-not-by-time", { code });
  const problems: Problem[] = [];
  checkDecimals("minutes", minutes, minute, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
  const rate = (await currentCosts(ctx, [work]))(work);
  if (rate === null) throw Refusal.at("work", "work-no-cost", { code });
  return valueAt(minutes, { ...rate, per: rate.per.times(own.factor).div(minute.factor) });
}

async function recoveryOf(
  ctx: Reading,
  { item, build, revision, parts }: TakeApartInput,
  valueOut: Decimal,
): Promise<Recovery> {
  const costOf = await currentCosts(
    ctx,
    parts.map((part) => part.item),
  );
  return recoveryBy(valueOut, parts, costOf, await sharesOf(ctx, item, { build, revision }));
}

/** Where the value that units of a product carry lands, by its list's shares or else by what its parts cost now. */
export function recoveryBy(
  valueOut: Decimal,
  parts: readonly Pick<
    TakeApartInput["parts"][number],
    "item" | "expected" | "good" | "damaged" | "missing"
  >[],
  costOf: (item: number) => Rate | null,
  shares: ReadonlyMap<number, Decimal>,
): Recovery {
  const expectedOf = (part: number) => sum(parts.flatMap((own) => (own.item === part ? [own.expected] : [])));
  return recover(
    valueOut,
    parts.map((part) => {
      const share = shares.get(part.item);
      return {
        ...part,
        unitCost: costOf(part.item),
        // The lots of a part have its share by how much is expected of each.
        share: shares.size === 0 ? null : (share ?? ZERO).times(part.expected).div(expectedOf(part.item)),
      };
    }),
  );
}

async function checkUnits(ctx: Reading, { item, lot, serial, quantity }: TakeApartInput): Promise<void> {
  const { code, unit, decimals, tracking } = (await briefs(ctx, [item]))(item);
  const problems: Problem[] = [];
  checkDecimals("quantity", quantity, { code: unit, decimals }, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
  refuseTracking((field) => field, { lot, serial }, { code, tracking });
  if (serial !== "" && !quantity.eq(ONE)) throw Refusal.at("quantity", "serial-one", { serial });
}

/** Checks the parts; gives where the good ones of each go. */
async function placesOf(ctx: Reading, { item: product, parts }: TakeApartInput): Promise<(Spot | null)[]> {
  const brief = await briefs(
    ctx,
    parts.map(({ item }) => item),
  );
  const problems: Problem[] = [];
  const places: (Spot | null)[] = [];
  for (const [i, part] of parts.entries()) {
    const at = (field: string) => `parts.${i}.${field}`;
    const { code, unit, decimals, tracking, kind, notStockTracked } = brief(part.item);
    if (part.item === product) throw Refusal.at(at("item"), "part-is-product", { code });
    if (!isStocked({ kind, notStockTracked })) throw Refusal.at(at("item"), "not-stocked", { code, kind });
    for (const field of ["expected", "good", "damaged", "missing"] as const)
      checkDecimals(field, part[field], { code: unit, decimals }, reporter(i, problems));
    if (!sum([part.good, part.damaged, part.missing]).eq(part.expected))
      throw Refusal.at(at("good"), "take-apart-sum", { expected: part.expected.toFixed(), unit });
    // What is damaged or missing may have no number that is known.
    if (part.good.gt(0) || part.lot !== "" || part.serial !== "")
      refuseTracking(at, part, { code, tracking });
    if (part.serial !== "" && !part.expected.eq(ONE))
      throw Refusal.at(at("expected"), "serial-one", { serial: part.serial });
    places.push(
      part.good.gt(0) ? { location: await storeId(ctx, at("store"), part.store), bin: part.bin } : null,
    );
  }
  refuseProblems(problems, (p) => `parts.${p.row}.${p.field}`);
  return places;
}

/** Never more of a build is taken apart than it made. */
async function refuseOfBuild(ctx: Reading, { item, build, quantity }: TakeApartInput): Promise<void> {
  if (build === null) return;
  const { number, product_id, good } = await buildById(ctx, build);
  const { code, unit } = (await briefs(ctx, [item]))(item);
  if (product_id !== item) throw Refusal.at("build", "take-apart-other-build", { number, code });
  const row = await ctx.sql.one<{ taken: number }>(
    "SELECT COALESCE(SUM(quantity), 0) AS taken FROM take_apart WHERE build_id = $build AND undone_at IS NULL",
    { build },
  );
  const left = quantityFromScaled(good - (row?.taken ?? 0));
  if (quantity.gt(left))
    throw Refusal.at("quantity", "take-apart-of-build", { left: left.toFixed(), unit, number });
}

async function refuseNotThere(
  ctx: Reading,
  { item, lot, serial, store, bin, quantity }: TakeApartInput,
  there: Decimal,
): Promise<void> {
  if (quantity.lte(there)) return;
  const { code, unit } = (await briefs(ctx, [item]))(item);
  throw Refusal.at("quantity", "stock-short-here", {
    there: there.toFixed(),
    unit,
    code: [code, lot, serial].filter(Boolean).join(" "),
    bin: `${store} ${bin}`.trim() || "returns",
  });
}
