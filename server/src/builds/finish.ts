import { type FinishBody, Refusal } from "@yosegi/contract";
import {
  buildLine,
  decimal,
  type Finish,
  type FinishPlan,
  finishEntries,
  MONEY_DECIMALS,
  type Movement,
  moneyToWhole,
  ONE,
  quantityToWhole,
  split,
  ZERO,
} from "@yosegi/core";
import { asJson, type BuildTableRow, together, type Writing } from "../db/index.ts";
import { ensureBins, record, storeWithBin } from "../ledger/index.ts";
import { checkNumbers, partsOfUnits } from "./numbers.ts";
import { lineAfter, type Planned, planOf } from "./planning.ts";
import type { FinishedProduct, KeptLine } from "./rows.ts";
import { notEnough } from "./short.ts";

/** Finishes all or some of a build: the parts leave stock, the product arrives with what they and the work cost. */
export async function finishBuild(ctx: Writing, id: number, body: FinishBody): Promise<void> {
  checkReasons(body);
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  const [planned, { place, known }] = await Promise.all([planOf(ctx, id, body), storeWithBin(ctx, body)]);
  const newBins = body.counts.flatMap((count, i) =>
    count.newBin ? (planned.finish.counts[i]?.at ?? []) : [],
  );
  const { build, product, lines, finish, plan } = planned;
  await checkNumbers(ctx, product, finish, body);
  if (!plan.ok) throw await notEnough(ctx, plan.shorts, lines, plan.largest);
  const units = partsOfUnits(product, finish, body, plan.lines);

  const spot = { place, bin: body.bin };
  const finished = { ...planned, plan, body, place };
  // Sent together, for each has to wait for the disk only once; they run one after the other in this transaction.
  await together(
    known && newBins.length === 0 ? null : ensureBins(ctx, [spot, ...newBins]),
    record(ctx, {
      kind: "finish",
      document: build.number,
      day: body.day,
      reason: body.reason,
      movements: [
        ...plan.counts,
        ...plan.issues,
        ...arrivals(product, finish, plan.cost.total, body, spot),
        ...plan.back,
      ],
      entries: finishEntries(finish, plan, { stocked: product.stocked, reason: body.reason }),
      books: planned.books,
      lots:
        body.lot === "" || finish.good.eq(0)
          ? []
          : [{ item: product.id, lot: body.lot, expiry: body.expiry }],
      beside: async (posting) => {
        const made = await writeFinish(ctx, finished, posting);
        await writeWork(ctx, made, body);
        await writeSerialParts(ctx, made, product, units);
      },
    }),
    writeProgress(ctx, finished),
  );
}

function checkReasons(body: FinishBody): void {
  if (decimal(body.rejected).gt(0) && body.reason === "") throw Refusal.at("reason", "reason-needed");
  for (const [list, entries] of [
    ["lines", body.lines],
    ["extra", body.extra],
  ] as const)
    for (const [i, entry] of entries.entries())
      if (decimal(entry.wasted).gt(0) && entry.reason === "")
        throw Refusal.at(`${list}.${i}.reason`, "waste-reason");
}

/**
 * The finished units coming in: one movement, or one a serial with the value split among them to the last digit; none
 * where the product is not kept on the books.
 */
function arrivals(
  product: FinishedProduct,
  finish: Finish,
  total: Movement["quantity"],
  body: FinishBody,
  to: NonNullable<Movement["to"]>,
): Movement[] {
  if (finish.good.eq(0) || !product.stocked) return [];
  const source = buildLine(finish.build);
  const base = { item: product.id, lot: body.lot, purpose: "built" as const, source, from: null, to };
  const serials = body.serials.filter((serial) => serial !== "");
  if (serials.length === 0) return [{ ...base, serial: "", quantity: finish.good, value: total }];
  const shares = split(
    total,
    serials.map(() => ONE),
    MONEY_DECIMALS,
  );
  return serials.map((serial, i) => ({ ...base, serial, quantity: ONE, value: shares[i] ?? ZERO }));
}

interface Finished extends Planned {
  plan: Extract<FinishPlan, { ok: true }>;
  body: FinishBody;
  place: number;
}

async function writeFinish(
  ctx: Writing,
  { build, finish, plan, body, place }: Finished,
  posting: number,
): Promise<number> {
  const { cost } = plan;
  const money = [cost.parts, cost.work, cost.overhead, cost.extra, cost.outside, cost.total].map(
    moneyToWhole,
  );
  const [parts = 0, work = 0, overhead = 0, extra = 0, outside = 0, total = 0] = money;
  const id = await ctx.sql.insert(
    `INSERT INTO finish (build_id, posting_id, good, rejected, location_id, bin, lot, expiry, parts, work, overhead, extra, fee,
                         total, stage_before)
     VALUES ($build, $posting, $good, $rejected, $place, $bin, $lot, $expiry, $parts, $work, $overhead, $extra, $outside,
             $total, $stage)`,
    {
      build: build.id,
      posting,
      place,
      bin: body.bin,
      stage: build.stage,
      good: quantityToWhole(finish.good),
      rejected: quantityToWhole(finish.rejected),
      lot: finish.good.gt(0) ? body.lot : "",
      expiry: finish.good.gt(0) ? body.expiry : null,
      parts,
      work,
      overhead,
      extra,
      outside,
      total,
    },
  );
  const reasons = new Map(body.lines.map((line) => [line.line, line.reason]));
  const own = plan.lines.length - body.extra.length;
  const rows = plan.lines.map((line, i) => [
    line.line,
    quantityToWhole(line.planned),
    quantityToWhole(line.used),
    moneyToWhole(line.cost),
    moneyToWhole(line.differenceCost),
    quantityToWhole(line.wasted),
    quantityToWhole(line.fromBench),
    quantityToWhole(line.back),
    reasons.get(line.line) ?? body.extra[i - own]?.reason ?? "",
  ]);
  await ctx.sql.run(
    `INSERT INTO finish_line (finish_id, line, planned, used, cost, difference_cost, scrapped, from_bench, returned, reason)
     SELECT $finish, value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6, value ->> 7,
            value ->> 8 FROM json_each($rows)`,
    { finish: id, rows: asJson(rows) },
  );
  return id;
}

async function writeWork(ctx: Writing, finish: number, { work }: FinishBody): Promise<void> {
  if (work.length === 0) return;
  await ctx.sql.run(
    `INSERT INTO finish_work (finish_id, line, person_id, quantity)
     SELECT $finish, value ->> 0, value ->> 1, SUM(value ->> 2) FROM json_each($rows) GROUP BY 2, 3`,
    { finish, rows: asJson(work.map((w) => [w.line, w.person, quantityToWhole(decimal(w.quantity))])) },
  );
}

async function writeSerialParts(
  ctx: Writing,
  finish: number,
  product: FinishedProduct,
  units: ReturnType<typeof partsOfUnits>,
): Promise<void> {
  if (units.length === 0) return;
  await ctx.sql.run(
    `INSERT INTO serial_part (finish_id, item_id, serial, part_id, part_serial)
     SELECT $finish, $product, value ->> 0, value ->> 1, value ->> 2 FROM json_each($rows)`,
    { finish, product: product.id, rows: asJson(units.map((u) => [u.serial, u.item, u.part])) },
  );
}

/** Brings the build's own figures forward: what is done, what was used, what lies on the bench and is still reserved. */
async function writeProgress(ctx: Writing, { build, lines, finish, plan, body }: Finished): Promise<void> {
  const done = finish.done.plus(finish.good).plus(finish.rejected);
  const ends = body.closeRest || done.gte(finish.planned);
  let benched = false;
  const planOfLine = new Map(plan.lines.map((line) => [line.line, line]));
  await addLines(ctx, build, lines.slice(lines.length - body.extra.length, lines.length));
  const rows = lines.map((line) => {
    const booked = planOfLine.get(line.line);
    if (!booked) throw new Error(`Line ${line.line} of ${build.number} was not planned`);
    const after = lineAfter(build, finish, line, booked);
    benched ||= after.bench.gt(0);
    return {
      line: line.line,
      used: quantityToWhole(line.used.plus(booked.used)),
      open: quantityToWhole(after.open),
      wasted: quantityToWhole(line.wasted.plus(booked.wasted)),
      bench: quantityToWhole(after.bench),
    };
  });
  const lineRows = ctx.sql.run(
    `UPDATE build_line SET used = r.value ->> 'used', open = r.value ->> 'open', scrapped = r.value ->> 'wasted',
            bench = r.value ->> 'bench'
       FROM json_each($rows) r WHERE build_id = $build AND line = r.value ->> 'line'`,
    { build: build.id, rows: asJson(rows) },
  );
  const head = ctx.sql.run(
    `UPDATE build SET good = good + $good, rejected = rejected + $rejected, stage = $stage, finished_by = $by, finished_at = $at
      WHERE id = $id`,
    {
      id: build.id,
      good: quantityToWhole(finish.good),
      rejected: quantityToWhole(finish.rejected),
      ...(ends
        ? { stage: "finished", by: ctx.person.id, at: ctx.moment }
        : { stage: benched ? "on the bench" : "queued", by: null, at: null }),
    },
  );
  await together(lineRows, head);
}

/** Keeps the lines that a finish added, so that what they took is told with the rest. */
async function addLines(ctx: Writing, build: BuildTableRow, added: readonly KeptLine[]): Promise<void> {
  if (added.length === 0) return;
  await ctx.sql.run(
    `INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open, drawn_at, note, added, instead_of)
     SELECT $build, value ->> 0, value ->> 1, 0, value ->> 2, 0, 0, 0, 0, 0, 'finish', '', 1, value ->> 3 FROM json_each($rows)`,
    { build: build.id, rows: asJson(added.map((l) => [l.line, l.item, l.unit.code, l.insteadOf])) },
  );
}
