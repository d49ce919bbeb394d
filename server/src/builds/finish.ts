import { type FinishInput, Refusal } from "@yosegi/contract";
import {
  buildLine,
  type Finish,
  type FinishPlan,
  finishEntries,
  MONEY_DECIMALS,
  type Movement,
  moneyToScaled,
  ONE,
  quantityToScaled,
  split,
  sum,
  ZERO,
} from "@yosegi/core";
import { firstOf, groupBy, settleAll, type Writing } from "../db/index.ts";
import { ensureBins, record, storeWithBin } from "../ledger/index.ts";
import { checkNumbers, partsOfUnits } from "./numbers.ts";
import { lineAfter, type Planned, planOf } from "./planning.ts";
import type { FinishedProduct, StoredLine } from "./rows.ts";
import { notEnough } from "./short.ts";
import type { BuildTableRow } from "./tables.ts";
import { BUILD_LINE, FINISH, FINISH_LINE, FINISH_WORK, SERIAL_PART } from "./tables.ts";

/** Finishes all or some of a build: the parts leave stock, the product arrives with what they and the work cost. */
export async function finishBuild(ctx: Writing, id: number, body: FinishInput): Promise<void> {
  checkReasons(body);
  if (body.day > ctx.today) throw Refusal.at("day", "day-future");
  const [planned, { location, known }] = await Promise.all([planOf(ctx, id, body), storeWithBin(ctx, body)]);
  const newBins = body.counts.flatMap((count, i) =>
    count.newBin ? (planned.finish.counts[i]?.at ?? []) : [],
  );
  const { build, product, lines, finish, plan } = planned;
  await checkNumbers(ctx, product, finish, body);
  if (!plan.ok) throw await notEnough(ctx, plan.shorts, lines, plan.largest);
  const units = partsOfUnits(product, finish, body, plan.lines);

  const spot = { location, bin: body.bin };
  const finished = { ...planned, plan, body, location };
  // Sent together, for each has to wait for the disk only once; they run one after the other in this transaction.
  await settleAll(
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
          : [{ item: product.id, lot: body.lot, expiry: body.expiry, madeOn: body.madeOn ?? body.day }],
      units: body.serials.map((serial) => ({
        item: product.id,
        serial,
        expiry: body.expiry,
        madeOn: body.madeOn ?? body.day,
      })),
      beside: async (posting) => {
        const made = await writeFinish(ctx, finished, posting);
        await writeWork(ctx, made, body);
        await writeSerialParts(ctx, made, product, units);
      },
    }),
    writeProgress(ctx, finished),
  );
}

function checkReasons(body: FinishInput): void {
  if (body.rejected.gt(0) && body.reason === "") throw Refusal.at("reason", "reason-needed");
  for (const [list, entries] of [
    ["lines", body.lines],
    ["extra", body.extra],
  ] as const)
    for (const [i, entry] of entries.entries())
      if (entry.scrapped.gt(0) && entry.reason === "")
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
  body: FinishInput,
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
  body: FinishInput;
  location: number;
}

async function writeFinish(
  ctx: Writing,
  { build, finish, plan, body, location }: Finished,
  posting: number,
): Promise<number> {
  const { cost } = plan;
  // By SQL, not by the model: what is written beside the posting is sent together with it.
  const [id = 0] = await ctx.sql.insert(FINISH, [
    {
      build_id: build.id,
      posting_id: posting,
      good: quantityToScaled(finish.good),
      rejected: quantityToScaled(finish.rejected),
      location_id: location,
      bin: body.bin,
      lot: finish.good.gt(0) ? body.lot : "",
      expiry: finish.good.gt(0) ? body.expiry : null,
      parts: moneyToScaled(cost.parts),
      work: moneyToScaled(cost.work),
      overhead: moneyToScaled(cost.overhead),
      extra: moneyToScaled(cost.extra),
      fee: moneyToScaled(cost.subcontractor),
      total: moneyToScaled(cost.total),
      stage_before: build.stage,
    },
  ]);
  const reasons = new Map(body.lines.map((line) => [line.line, line.reason]));
  const own = plan.lines.length - body.extra.length;
  await ctx.sql.insert(
    FINISH_LINE,
    plan.lines.map((line, i) => ({
      finish_id: id,
      line: line.line,
      planned: quantityToScaled(line.planned),
      used: quantityToScaled(line.used),
      cost: moneyToScaled(line.cost),
      difference_cost: moneyToScaled(line.differenceCost),
      scrapped: quantityToScaled(line.scrapped),
      from_bench: quantityToScaled(line.fromBench),
      returned: quantityToScaled(line.back),
      reason: reasons.get(line.line) ?? body.extra[i - own]?.reason ?? "",
    })),
  );
  return id;
}

async function writeWork(ctx: Writing, finish: number, { work }: FinishInput): Promise<void> {
  // Two entries of one person for the same work are one.
  const groups = groupBy(work, (w) => `${w.line} ${w.person}`);
  await ctx.sql.insert(
    FINISH_WORK,
    [...groups.values()].map((same) => {
      const { line, person } = firstOf(same);
      return {
        finish_id: finish,
        line,
        person_id: person,
        quantity: quantityToScaled(sum(same.map((w) => w.quantity))),
      };
    }),
  );
}

async function writeSerialParts(
  ctx: Writing,
  finish: number,
  product: FinishedProduct,
  units: ReturnType<typeof partsOfUnits>,
): Promise<void> {
  await ctx.sql.insert(
    SERIAL_PART,
    units.map((unit) => ({
      finish_id: finish,
      item_id: product.id,
      serial: unit.serial,
      part_id: unit.item,
      part_serial: unit.part,
    })),
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
      build_id: build.id,
      line: line.line,
      used: quantityToScaled(line.used.plus(booked.used)),
      open: quantityToScaled(after.open),
      scrapped: quantityToScaled(line.scrapped.plus(booked.scrapped)),
      bench: quantityToScaled(after.bench),
    };
  });
  const lineRows = ctx.sql.update(BUILD_LINE, ["build_id", "line"], rows);
  const head = ctx.sql.run(
    `UPDATE build SET good = good + $good, rejected = rejected + $rejected, stage = $stage, finished_by = $by, finished_at = $at
      WHERE id = $id`,
    {
      id: build.id,
      good: quantityToScaled(finish.good),
      rejected: quantityToScaled(finish.rejected),
      ...(ends
        ? { stage: "finished", by: ctx.person.id, at: ctx.moment }
        : { stage: benched ? "on the bench" : "queued", by: null, at: null }),
    },
  );
  await settleAll(lineRows, head);
}

/** Keeps the lines that a finish added, so that what they took is told with the rest. */
async function addLines(ctx: Writing, build: BuildTableRow, added: readonly StoredLine[]): Promise<void> {
  await ctx.sql.insert(
    BUILD_LINE,
    added.map((line) => ({
      build_id: build.id,
      line: line.line,
      item_id: line.item,
      quantity: 0,
      unit: line.unit.code,
      waste: 0,
      once: 0,
      need: 0,
      used: 0,
      open: 0,
      drawn_at: "finish" as const,
      note: "",
      added: 1,
      instead_of: line.insteadOf,
    })),
  );
}
