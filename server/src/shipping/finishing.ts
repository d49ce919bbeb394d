import { Refusal, type ShipInput } from "@yosegi/contract";
import { type Decimal, decimal, ONE, type PickableStock, ZERO } from "@yosegi/core";
import { linkedBuilds } from "../allocations/index.ts";
import { buildsById, finishBuild, lastFinish, queueBuild, undoFinish } from "../builds/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { type OrderTableRow, orderedLines } from "../orders/index.ts";
import { SHIPMENT_FINISH } from "./tables.ts";

type Finishes = ShipInput["finishes"];

/** Where units stand that a shipment is to finish and that are not in stock yet: in no location. */
const NOT_YET = 0;

/** What builds that are finished with a shipment bring, as if it were in stock; refuses those that are not for the order. */
export async function stockToFinish(
  ctx: Reading,
  order: Pick<OrderTableRow, "id" | "number">,
  finishes: Finishes,
): Promise<PickableStock[]> {
  if (finishes.length === 0) return [];
  await refuseOthers(ctx, order, finishes);
  const builds = await buildsById(
    ctx,
    finishes.map(({ build }) => build),
  );
  return finishes.flatMap(({ build, good, lot, expiry, serials }) => {
    const item = builds.get(build)?.product_id ?? 0;
    const unit = { item, lot, location: NOT_YET, bin: "", expiry, received: ctx.today, home: false };
    const numbered = serials.filter(Boolean);
    return numbered.length === 0
      ? [{ ...unit, serial: "", quantity: good }]
      : numbered.map((serial) => ({ ...unit, serial, quantity: ONE }));
  });
}

/** How many good units of each product are finished with a shipment. */
export const finishedOf = (stock: readonly PickableStock[]): Map<number, Decimal> => {
  const found = new Map<number, Decimal>();
  for (const { item, quantity } of stock) found.set(item, (found.get(item) ?? ZERO).plus(quantity));
  return found;
};

/** Finishes builds for an order; a draft is queued first. Gives the ids of the finishes, in their order. */
export async function finishWithShipment(
  ctx: Writing,
  order: Pick<OrderTableRow, "id" | "number">,
  finishes: Finishes,
): Promise<number[]> {
  if (finishes.length === 0) return [];
  await refuseOthers(ctx, order, finishes);
  const builds = await buildsById(
    ctx,
    finishes.map(({ build }) => build),
  );
  const made: number[] = [];
  for (const [i, { build, ...finish }] of finishes.entries()) {
    await within(`finishes.${i}`, builds.get(build)?.number ?? "", async () => {
      if (builds.get(build)?.stage === "draft") await queueBuild(ctx, build);
      await finishBuild(ctx, build, finish);
    });
    made.push((await lastFinish(ctx, build)) ?? 0);
  }
  return made;
}

/** Finishes a build within a shipment: what is refused stands at its path, and parts that are short are named. */
async function within(path: string, number: string, work: () => Promise<void>): Promise<void> {
  try {
    await work();
  } catch (error) {
    if (!(error instanceof Refusal)) throw error;
    const { shorts = [] } = error.details;
    if (shorts.length === 0) throw error.under(path);
    const parts = shorts.map(({ code, short, unit }) => `${code} ${short} ${unit} short`).join(", ");
    throw Refusal.at(path, "finish-short", { number, parts });
  }
}

async function refuseOthers(
  ctx: Reading,
  { id, number }: Pick<OrderTableRow, "id" | "number">,
  finishes: Finishes,
): Promise<void> {
  const lines = await orderedLines(ctx, [id]);
  const own = await linkedBuilds(
    ctx,
    lines.map((line) => line.id),
  );
  const other = finishes.findIndex(({ build }) => !own.some((link) => link.id === build));
  if (other !== -1) throw Refusal.at(`finishes.${other}.build`, "build-not-for", { number });
}

/** Serial numbers that leave because they were finished for it, where as many are finished as leave and none were chosen. */
export const serialsFinished = (
  finishes: Finishes,
  product: (build: number) => number,
  item: number,
  quantity: Decimal,
): string[] => {
  const serials = finishes.flatMap(({ build, serials: own }) =>
    product(build) === item ? own.filter(Boolean) : [],
  );
  return quantity.eq(decimal(serials.length)) ? serials : [];
};

export const keepFinishes = (ctx: Writing, shipment: number, finishes: readonly number[]): Promise<unknown> =>
  ctx.sql.insert(
    SHIPMENT_FINISH,
    finishes.map((finish) => ({ shipment_id: shipment, finish_id: finish })),
  );

/** Builds that were finished with a shipment, the last first, as far as that was not undone since. */
export const finishesOf = (ctx: Reading, shipment: number) =>
  ctx.sql.all<{ finish: number; build: number; number: string }>(
    `SELECT h.id AS finish, b.id AS build, b.number
       FROM shipment_finish f JOIN finish_head h ON h.id = f.finish_id AND h.undone_at IS NULL JOIN build_head b ON b.id = h.build_id
      WHERE f.shipment_id = $shipment ORDER BY h.id DESC`,
    { shipment },
  );

/** Undoes what was finished with a shipment, the last first; refused where a build was finished further since. */
export async function undoFinishes(ctx: Writing, shipment: number): Promise<void> {
  for (const { finish, build, number } of await finishesOf(ctx, shipment)) {
    if ((await lastFinish(ctx, build)) !== finish) throw new Refusal("finished-since", { number });
    await undoFinish(ctx, build, false);
  }
}
