import {
  type BodyOf,
  type ErrorAnswer,
  type FinishBody,
  type FinishPreview,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  checkDecimals,
  decimal,
  type Finish,
  type FinishPlan,
  lineNeed,
  MONEY_DECIMALS,
  type Movement,
  max,
  moneyFromWhole,
  moneyToWhole,
  needUnit,
  ONE,
  type Problem,
  planFinish,
  quantityFromWhole,
  quantityToWhole,
  reporter,
  split,
  type Unit,
  ZERO,
} from "@yosegi/core";
import {
  briefs,
  currentCosts,
  ensureBins,
  itemById,
  loadUnits,
  refuseProblems,
  storeId,
  unitNamed,
} from "../catalog/index.ts";
import { asJson, type BuildTableRow, type ItemTableRow, type Reading, type Writing } from "../db/index.ts";
import { loadBooks, record } from "../ledger/index.ts";
import { buildById, doneOf, type KeptLine, keptLines } from "./rows.ts";
import { refuseStage } from "./steps.ts";

type Figures = BodyOf<typeof routes.previewFinish>;

interface Planned {
  build: BuildTableRow;
  product: ItemTableRow;
  lines: KeptLine[];
  finish: Finish;
  plan: FinishPlan;
}

/** What a finish with these figures would take and cost; records nothing. */
export async function previewFinish(ctx: Reading, id: number, body: Figures): Promise<FinishPreview> {
  const planned = await planOf(ctx, id, body);
  const { plan } = planned;
  const places = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM place");
  const nameOf = new Map(places.map((place) => [place.id, place.name]));
  return {
    lines: plan.lines.map(({ item: _, ...line }) => ({
      line: line.line,
      planned: line.planned.toFixed(),
      used: line.used.toFixed(),
      difference: line.difference.toFixed(),
      cost: line.cost.toFixed(4),
      differenceCost: line.differenceCost.toFixed(4),
      taken: line.taken.map((t) => ({
        store: nameOf.get(t.from.place) ?? "",
        bin: t.from.bin,
        lot: t.lot,
        serial: t.serial,
        quantity: t.quantity.toFixed(),
      })),
    })),
    cost: plan.ok
      ? {
          parts: plan.cost.parts.toFixed(4),
          work: plan.cost.work.toFixed(4),
          overhead: plan.cost.overhead.toFixed(4),
          extra: plan.cost.extra.toFixed(4),
          total: plan.cost.total.toFixed(4),
          each: plan.cost.each?.toFixed(4) ?? null,
        }
      : null,
    shorts: plan.ok ? [] : await shortsOf(ctx, plan.shorts),
    largest: plan.ok ? null : plan.largest.toFixed(),
  };
}

/** Finishes all or some of a build: the parts leave stock, the product arrives with what they and the work cost. */
export async function finishBuild(ctx: Writing, id: number, body: FinishBody): Promise<void> {
  const { build, product, lines, finish, plan } = await planOf(ctx, id, body);
  if (finish.rejected.gt(0) && body.reason === "") throw Refusal.at("reason", "reason-needed");
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  const place = await storeId(ctx, "store", body.store);
  await checkNumbers(ctx, product, finish, body);
  if (!plan.ok) throw await notEnough(ctx, plan, lines);

  const spot = { place, bin: body.bin };
  await ensureBins(ctx, [spot]);
  const posted = await record(ctx, {
    kind: "finish",
    document: build.number,
    build: id,
    day: body.day,
    reason: body.reason,
    movements: [...plan.issues, ...arrivals(product, finish, plan.cost.total, body, spot)],
    lots:
      body.lot === "" || finish.good.eq(0) ? [] : [{ item: product.id, lot: body.lot, expiry: body.expiry }],
  });
  await writeFinish(ctx, { build, finish, plan, body, place, posting: posted.id });
  await writeProgress(ctx, { build, lines, finish, plan, closeRest: body.closeRest });
}

/** Reads what a finish needs, checks its figures, and plans it. */
async function planOf(ctx: Reading, id: number, body: Figures): Promise<Planned> {
  const build = await buildById(ctx, id);
  refuseStage(build, "finish");
  const { makes, overhead } = build;
  if (makes === null || overhead === null) throw new Error(`${build.number} was queued without its list`);
  const product = await itemById(ctx, build.product_id);
  const units = await loadUnits(ctx);
  const productUnit = unitNamed(units, product.unit);
  const lines = await keptLines(ctx, id, units);
  const good = decimal(body.good);
  const rejected = decimal(body.rejected);
  checkFigures(build, productUnit, lines, body);

  const unitCost = await currentCosts(
    ctx,
    lines.map((line) => line.item),
  );
  const usedOf = new Map(body.lines.map((line) => [line.line, decimal(line.used)]));
  const finish: Finish = {
    makes: quantityFromWhole(makes),
    overhead: moneyFromWhole(overhead),
    extra: moneyFromWhole(build.extra - (await extraCharged(ctx, id))),
    closes: body.closeRest,
    productUnit,
    planned: quantityFromWhole(build.quantity),
    done: doneOf(build),
    good,
    rejected,
    day: body.day,
    lines: lines.map((line) => ({
      ...line,
      used: usedOf.get(line.line) ?? null,
      unitCost: unitCost(line.item),
    })),
  };
  const { stock, ready } = await loadBooks(
    ctx,
    lines.filter((l) => l.stocked).map((l) => l.item),
  );
  return { build, product, lines, finish, plan: planFinish(finish, stock, ready) };
}

/** What earlier finishes bore of the build's extra cost. */
async function extraCharged(ctx: Reading, build: number): Promise<number> {
  const row = await ctx.sql.one<{ extra: number }>(
    "SELECT COALESCE(SUM(extra), 0) AS extra FROM finish WHERE build_id = $build",
    { build },
  );
  return row?.extra ?? 0;
}

function checkFigures(
  build: BuildTableRow,
  productUnit: Unit,
  lines: readonly KeptLine[],
  body: Figures,
): void {
  const problems: Problem[] = [];
  const report = reporter(0, problems);
  checkDecimals("good", decimal(body.good), productUnit, report);
  checkDecimals("rejected", decimal(body.rejected), productUnit, report);
  for (const [i, { line, used }] of body.lines.entries()) {
    const kept = lines.find((l) => l.line === line);
    if (!kept) throw Refusal.at(`lines.${i}.line`, "line-unknown", { line });
    checkDecimals(`lines.${i}.used`, decimal(used), needUnit(kept), report);
  }
  refuseProblems(problems, (p) => p.field);
  const worked = decimal(body.good).plus(body.rejected);
  const open = quantityFromWhole(build.quantity).minus(doneOf(build));
  if (worked.eq(0)) throw Refusal.at("good", "build-empty");
  if (worked.gt(open))
    throw Refusal.at("good", "build-too-many", { open: open.toFixed(), unit: productUnit.code });
}

/** Lot and serial numbers of the finished units: as the product is tracked, distinct and not yet used. */
async function checkNumbers(
  ctx: Reading,
  product: ItemTableRow,
  finish: Finish,
  body: FinishBody,
): Promise<void> {
  if (finish.good.eq(0)) return;
  const { code } = product;
  if (product.tracking === "lot") {
    if (body.lot === "") throw Refusal.at("lot", "lot-needed", { code });
    const known = await ctx.sql.one<{ expiry: string | null }>(
      "SELECT expiry FROM lot WHERE item_id = $item AND code = $lot",
      { item: product.id, lot: body.lot },
    );
    if (known && known.expiry !== body.expiry)
      throw Refusal.at("expiry", "expiry-differs", { lot: body.lot, expiry: known.expiry ?? "none" });
  } else if (body.lot !== "") throw Refusal.at("lot", "lot-not-tracked", { code });
  if (product.tracking !== "serial") {
    if (body.serials.length > 0) throw Refusal.at("serials", "serial-not-tracked", { code });
    return;
  }
  const given = body.serials.filter((serial) => serial !== "");
  if (!finish.good.eq(given.length))
    throw Refusal.at("serials", "serial-count", { good: finish.good.toFixed(), given: given.length });
  const repeated = [...new Set(given.filter((serial, i) => given.indexOf(serial) !== i))];
  if (repeated.length > 0) throw Refusal.at("serials", "serial-repeated", { serials: repeated.join(", ") });
  const used = await ctx.sql.all<{ code: string }>(
    "SELECT code FROM serial WHERE item_id = $item AND code IN (SELECT value FROM json_each($given)) ORDER BY code",
    { item: product.id, given: asJson(given) },
  );
  if (used.length > 0)
    throw Refusal.at("serials", "serial-taken", { serial: used.map((row) => row.code).join(", ") });
}

/** The finished units coming in: one movement, or one a serial with the value split among them to the last digit. */
function arrivals(
  product: ItemTableRow,
  finish: Finish,
  total: Movement["quantity"],
  body: FinishBody,
  to: NonNullable<Movement["to"]>,
): Movement[] {
  if (finish.good.eq(0)) return [];
  const base = { item: product.id, lot: body.lot, from: null, to };
  const serials = body.serials.filter((serial) => serial !== "");
  if (serials.length === 0) return [{ ...base, serial: "", quantity: finish.good, value: total }];
  const shares = split(
    total,
    serials.map(() => ONE),
    MONEY_DECIMALS,
  );
  return serials.map((serial, i) => ({ ...base, serial, quantity: ONE, value: shares[i] ?? ZERO }));
}

async function shortsOf(
  ctx: Reading,
  shorts: Extract<FinishPlan, { ok: false }>["shorts"],
): Promise<NonNullable<ErrorAnswer["shorts"]>> {
  const brief = await briefs(
    ctx,
    shorts.map((short) => short.item),
  );
  return shorts.map((short) => {
    const { code, name, unit } = brief(short.item);
    return {
      item: short.item,
      code,
      name,
      unit,
      needed: short.needed.toFixed(),
      there: short.there.toFixed(),
      short: short.short.toFixed(),
    };
  });
}

async function notEnough(
  ctx: Reading,
  plan: Extract<FinishPlan, { ok: false }>,
  lines: readonly KeptLine[],
): Promise<Refusal> {
  const shorts = await shortsOf(ctx, plan.shorts);
  const fields = shorts.flatMap((short) =>
    lines
      .filter((line) => line.item === short.item)
      .map((line) => ({
        field: `line.${line.line}`,
        code: "not-enough",
        message: `${short.there} ${short.unit} on hand, ${short.short} ${short.unit} short`,
      })),
  );
  const parts = shorts.map((short) => short.name).join(", ");
  return new Refusal("not-enough", { parts }, fields, { shorts, largest: plan.largest.toFixed() });
}

interface Finished {
  build: BuildTableRow;
  finish: Finish;
  plan: Extract<FinishPlan, { ok: true }>;
}

async function writeFinish(
  ctx: Writing,
  {
    build,
    finish,
    plan,
    body,
    place,
    posting,
  }: Finished & { body: FinishBody; place: number; posting: number },
): Promise<void> {
  const row = await ctx.models.finish.create(
    {
      build_id: build.id,
      posting_id: posting,
      good: quantityToWhole(finish.good),
      rejected: quantityToWhole(finish.rejected),
      place_id: place,
      bin: body.bin,
      lot: finish.good.gt(0) ? body.lot : "",
      expiry: finish.good.gt(0) ? body.expiry : null,
      parts: moneyToWhole(plan.cost.parts),
      work: moneyToWhole(plan.cost.work),
      overhead: moneyToWhole(plan.cost.overhead),
      extra: moneyToWhole(plan.cost.extra),
      total: moneyToWhole(plan.cost.total),
    },
    { transaction: ctx.transaction },
  );
  const rows = plan.lines.map((line) => [
    line.line,
    quantityToWhole(line.planned),
    quantityToWhole(line.used),
    moneyToWhole(line.cost),
    moneyToWhole(line.differenceCost),
  ]);
  await ctx.sql.run(
    `INSERT INTO finish_line (finish_id, line, planned, used, cost, difference_cost)
     SELECT $finish, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4 FROM json_each($rows)`,
    { finish: row.get({ plain: true }).id, rows: asJson(rows) },
  );
}

/** Brings the build's own figures forward: what is done, what was used, what it still reserves. */
async function writeProgress(
  ctx: Writing,
  { build, lines, finish, plan, closeRest }: Finished & { lines: readonly KeptLine[]; closeRest: boolean },
): Promise<void> {
  const done = finish.done.plus(finish.good).plus(finish.rejected);
  const ends = closeRest || done.gte(finish.planned);
  const used = new Map(plan.lines.map((line) => [line.line, line.used]));
  const rows = lines.map((line) => {
    const rest = max(ZERO, line.need.minus(lineNeed(line, finish.makes, done)));
    const open = ends || !line.stocked ? ZERO : rest;
    return [line.line, quantityToWhole(line.used.plus(used.get(line.line) ?? ZERO)), quantityToWhole(open)];
  });
  await ctx.sql.run(
    `UPDATE build_line SET used = r.value ->> 1, open = r.value ->> 2
       FROM json_each($rows) r WHERE build_id = $build AND line = r.value ->> 0`,
    { build: build.id, rows: asJson(rows) },
  );
  await ctx.models.build.update(
    {
      good: build.good + quantityToWhole(finish.good),
      rejected: build.rejected + quantityToWhole(finish.rejected),
      ...(ends && { stage: "finished" as const, finished_by: ctx.person.id, finished_at: ctx.moment }),
    },
    { where: { id: build.id }, transaction: ctx.transaction },
  );
}
