import { Refusal, type ShipInput } from "@yosegi/contract";
import {
  type Decimal,
  expiredOf,
  moneyToScaled,
  quantityOf,
  quantityToScaled,
  sum,
  ZERO,
} from "@yosegi/core";
import { undoReceipt } from "../buying/index.ts";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { record, serialsElsewhere, undo } from "../ledger/index.ts";
import { bookLeft, type LeftNow, orderById, refuseCredit } from "../orders/index.ts";
import { finishWithShipment, keepFinishes, undoFinishes } from "./finishing.ts";
import { type PlanChoices, type Planned, type PlannedLine, planShipment } from "./plan.ts";
import { SHIPMENT, SHIPMENT_COMPONENT, SHIPMENT_LINE } from "./tables.ts";

/** Ships an order, whole or in part: what leaves goes out of stock, and the order's stage follows. Gives the shipment's id. */
export async function shipOrder(ctx: Writing, id: number, body: ShipInput): Promise<number> {
  const finishes = await finishWithShipment(ctx, await orderById(ctx, id), body.finishes);
  const shipment = await recordShipment(ctx, id, body, { isFinished: true }, null);
  await keepFinishes(ctx, shipment, finishes);
  return shipment;
}

/** Records what leaves of an order; of what a supplier delivered also with which receipt. Gives the shipment's id. */
export async function recordShipment(
  ctx: Writing,
  id: number,
  body: ShipInput,
  choices: PlanChoices,
  receipt: number | null,
): Promise<number> {
  const planned = await planShipment(ctx, id, body, choices);
  const { order, lines, picked, posted, books } = planned;
  if (lines.length === 0) throw Refusal.at("lines", "ship-nothing", { number: order.number });
  await refuseChosen(ctx, planned, body);
  refuseShort(planned, body);
  const accepted = planned.terms && refuseCredit(ctx, planned.terms, planned.worth, body.goOn, planned.stop);
  refuseFromOthers(planned, body);
  if (posted === null) throw new Error(`What leaves of ${order.number} is in stock, and is not posted`);
  const number = await nextNumber(ctx, "S");
  const write = async (posting: number | null) => {
    await writeShipment(ctx, planned, { number, posting, accepted, receipt, body });
  };
  if (picked.length === 0 || posted.movements.length === 0) await write(null);
  else
    await record(ctx, {
      kind: "shipment",
      document: number,
      day: body.day,
      reason: body.note,
      movements: posted.movements,
      books,
      posted,
      lots: [],
      beside: write,
    });
  await bookLeft(
    ctx,
    id,
    lines.flatMap((line) => leftNow(line, planned.packed)),
  );
  return idOf(ctx, number);
}

async function idOf(ctx: Reading, number: string): Promise<number> {
  const row = await ctx.sql.one<{ id: number }>("SELECT id FROM shipment WHERE number = $number", { number });
  if (!row) throw new Error(`${number} was written`);
  return row.id;
}

function leftNow({ line, units, leaving, components }: PlannedLine, packed: number | null): LeftNow[] {
  if (line.components.length === 0)
    return [{ line: line.id, item: null, quantity: quantityToScaled(units), packed: 0 }];
  const fromBin = (item: number) =>
    (components.find((own) => own.item === item)?.picked?.taken ?? []).filter(
      ({ from }) => from.location === packed,
    );
  return leaving.map(({ item, quantity }) => ({
    line: line.id,
    item,
    quantity: quantityToScaled(quantity),
    packed: quantityToScaled(quantityOf(fromBin(item))),
  }));
}

interface Written {
  number: string;
  posting: number | null;
  accepted: ReturnType<typeof refuseCredit>;
  receipt: number | null;
  body: ShipInput;
}

async function writeShipment(
  ctx: Writing,
  { order, lines }: Planned,
  { number, posting, accepted, receipt, body }: Written,
): Promise<void> {
  const [id = 0] = await ctx.sql.insert(SHIPMENT, [
    {
      number,
      order_id: order.id,
      posting_id: posting,
      day: body.day,
      person_id: ctx.person.id,
      moment: ctx.moment,
      note: body.note,
      address: order.address,
      parcels: body.parcels,
      weight: body.weight && quantityToScaled(body.weight),
      accepted,
      undone_by: null,
      undone_at: null,
      receipt_id: receipt,
    },
  ]);
  const costOf = (components: PlannedLine["components"]) => sum(components.map(({ cost }) => cost ?? ZERO));
  await ctx.sql.insert(
    SHIPMENT_LINE,
    lines.map(({ line, complete, revenue, components }) => ({
      shipment_id: id,
      line_id: line.id,
      units: quantityToScaled(complete),
      revenue: moneyToScaled(revenue),
      cost: moneyToScaled(costOf(components)),
    })),
  );
  await ctx.sql.insert(
    SHIPMENT_COMPONENT,
    lines.flatMap(({ line, components }) =>
      components.map(({ item, stocked, quantity, revenue, cost }, position) => ({
        shipment_id: id,
        line_id: line.id,
        position,
        item_id: item,
        stocked: stocked ? 1 : 0,
        quantity: quantityToScaled(quantity),
        revenue: moneyToScaled(revenue),
        cost: moneyToScaled(cost ?? ZERO),
      })),
    ),
  );
}

/** Refuses lots and serials that were chosen and can't leave: expired, elsewhere, or not as many as units. */
async function refuseChosen(ctx: Reading, { lines, ready, brief }: Planned, body: ShipInput): Promise<void> {
  const chosen = lines.flatMap(({ at, leaving }) =>
    leaving.flatMap(({ item, quantity, only }) =>
      at === null || only.length === 0 ? [] : [{ at, item, quantity, only }],
    ),
  );
  if (chosen.length === 0) return;
  const numbered = chosen.flatMap(({ item, only }) => only.map((serial) => ({ item, serial })));
  const elsewhere = await serialsElsewhere(ctx, numbered, "shipped");
  for (const { at, item, quantity, only } of chosen) {
    const field = `lines.${at}.only.${body.lines[at]?.only.findIndex((one) => one.item === item) ?? 0}`;
    const { code, tracking } = brief(item);
    if (tracking === "none") throw Refusal.at(field, "lot-not-tracked", { code });
    for (const name of only) {
      const here = ready.filter(
        (b) => b.item === item && (tracking === "serial" ? b.serial : b.lot) === name,
      );
      if (here.length === 0)
        throw Refusal.at(field, "not-in-stock", {
          name,
          code,
          where: (tracking === "serial" && elsewhere({ item, serial: name })) || "",
        });
      if (expiredOf(here, { item, only: [name] }, body.day).gt(0))
        throw Refusal.at(field, "lot-expired", { lot: name, day: here[0]?.expiry ?? "" });
    }
    if (tracking === "serial" && !quantity.eq(new Set(only).size))
      throw Refusal.at(field, "serial-count", { good: quantity.toFixed(), given: only.length });
  }
}

/** Refuses what there is no stock for, at its line. */
function refuseShort({ lines, picked, ready, brief }: Planned, body: ShipInput): void {
  const short = picked.find((own) => own.short.gt(0));
  if (!short) return;
  const at = lines.find(({ line }) => line.id === short.line)?.at ?? null;
  const { code, unit } = brief(short.item);
  throw Refusal.at(at === null ? "lines" : `lines.${at}.quantity`, "ship-short", {
    code,
    unit,
    needed: short.quantity.toFixed(),
    there: short.quantity.minus(short.short).toFixed(),
    expired: shownExpired(expiredOf(ready, short, body.day)),
  });
}

const shownExpired = (quantity: Decimal): string => (quantity.gt(0) ? quantity.toFixed() : "");

/** What is in stock for others in their turn leaves only where the person says so. */
function refuseFromOthers({ takesFrom, brief }: Planned, body: ShipInput): void {
  const [first] = takesFrom;
  if (!first || body.takeFromOthers) return;
  throw Refusal.at("takeFromOthers", "ship-from-others", {
    quantity: first.quantity.toFixed(),
    unit: brief(first.item).unit,
    code: brief(first.item).code,
    documents: [...new Set(takesFrom.flatMap(({ documents }) => documents))].join(", "),
  });
}

/** What came back of a shipment is undone before the shipment. */
async function refuseReturned(ctx: Reading, id: number, number: string): Promise<void> {
  const rows = await ctx.sql.all<{ number: string }>(
    "SELECT number FROM return_head WHERE shipment_id = $id AND undone_at IS NULL ORDER BY id",
    { id },
  );
  if (rows.length === 0) return;
  throw new Refusal("shipment-returned", { number, returns: rows.map((row) => row.number).join(", ") });
}

/** Takes a shipment back: what left is in stock again with the value it had, and open. What was finished with it too, if so asked. */
export async function undoShipment(ctx: Writing, id: number, finishes: boolean): Promise<void> {
  const row = await ctx.model(SHIPMENT).findByPk(id);
  if (!row) throw new Refusal("not-found", { what: "shipment", id });
  const {
    number,
    order_id: order,
    posting_id: posting,
    receipt_id: receipt,
    undone_at,
  } = row.get({ plain: true });
  if (undone_at !== null) throw new Refusal("shipment-undone", { number });
  await refuseReturned(ctx, id, number);
  if (posting !== null) await undo(ctx, { kind: "shipment", document: number, reason: "", undoes: posting });
  await ctx.model(SHIPMENT).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  // What was packed is packed again.
  const stocked = await ctx.sql.all<{ line: number; item: number; quantity: number; packed: number }>(
    `SELECT c.line_id AS line, c.item_id AS item, -c.quantity AS quantity, -COALESCE(SUM(m.quantity), 0) AS packed
       FROM shipment_component c
       LEFT JOIN (stock_movement m JOIN location_head p ON p.id = m.from_location AND p.kind = 'packed')
         ON m.posting_id = $posting AND m.source_line = c.line_id AND m.item_id = c.item_id
      WHERE c.shipment_id = $id AND c.stocked = 1 GROUP BY c.line_id, c.position`,
    { id, posting },
  );
  const units = await ctx.sql.all<{ line: number; quantity: number }>(
    `SELECT l.line_id AS line, -l.units AS quantity FROM shipment_line l
      WHERE l.shipment_id = $id AND l.line_id NOT IN (SELECT line_id FROM shipment_component WHERE shipment_id = $id AND stocked = 1)`,
    { id },
  );
  await bookLeft(ctx, order, [...stocked, ...units.map((own) => ({ ...own, item: null, packed: 0 }))]);
  if (finishes) await undoFinishes(ctx, id);
  // What a supplier delivered straight to the customer never was here: its receipt goes with it.
  if (receipt !== null) await undoReceipt(ctx, receipt);
}
