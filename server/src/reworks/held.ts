import { type AnswerOf, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import type { Day } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { briefs } from "../items/index.ts";
import { serialsElsewhere } from "../ledger/index.ts";
import { contentsOf, insideOf, reworksOf, warrantiesOf } from "../pieces/index.ts";
import { refuseTracking } from "../stock/index.ts";
import { REGISTERED_UNIT } from "./tables.ts";

interface HeldRow {
  item: number;
  serial: string;
  day: Day | null;
  by_hand: number;
  note: string;
}

/** Most units that are listed of one customer. */
const LISTED = 500;

/**
 * Units by serial number that a customer has: what was shipped to them or given back, and did not come back since; and what somebody
 * wrote down that we never shipped.
 */
export async function heldUnits(ctx: Reading, customer: number): Promise<AnswerOf<typeof routes.heldUnits>> {
  const rows = await ctx.sql.all<HeldRow>(
    `SELECT s.item_id AS item, s.serial, o.day, 0 AS by_hand, '' AS note
       FROM serial_state s JOIN posting_head o ON o.id = s.posting_id
       LEFT JOIN shipment_head h ON h.posting_id = s.posting_id LEFT JOIN order_head d ON d.id = h.order_id
       LEFT JOIN rework_out w ON w.posting_id = s.posting_id
      WHERE s.purpose = 'shipped' AND (d.customer_id = $customer OR w.customer_id = $customer)
      UNION ALL
     SELECT u.item_id, u.serial, u.since, 1, u.note FROM registered_unit u
      WHERE u.customer_id = $customer
        AND NOT EXISTS (SELECT 1 FROM serial_state s WHERE s.item_id = u.item_id AND s.serial = u.serial)
      ORDER BY 3 DESC, 1, 2 LIMIT $listed`,
    { customer, listed: LISTED },
  );
  const reworks = await reworksOf(ctx, rows);
  const inside = await insideOf(ctx, rows, reworks);
  const warranty = await warrantiesOf(ctx, rows);
  const brief = await briefs(
    ctx,
    rows.flatMap((unit) => [unit.item, ...inside(unit).parts.map((part) => part.item)]),
  );
  return {
    units: rows.map(({ by_hand, day, note, ...unit }) => ({
      item: brief(unit.item),
      serial: unit.serial,
      since: day,
      warrantyUntil: warranty(unit)?.until ?? null,
      contents: contentsOf(inside(unit).parts, brief),
      byHand: by_hand === 1,
      note,
      reworks: reworks(unit).map(({ id, number }) => ({ id, number })),
    })),
  };
}

/** Writes down a unit that a customer has; refused where we know of it already. */
export async function registerUnit(
  ctx: Writing,
  customer: number,
  { item, serial, since, note }: ParsedBody<typeof routes.registerUnit>,
): Promise<void> {
  await refuseFirm(ctx, "customer", "customer", { id: customer });
  if (since !== null && since > ctx.today) throw Refusal.at("since", "day-future");
  const { code, tracking } = (await briefs(ctx, [item]))(item);
  refuseTracking(
    (field) => (field === "serial" && tracking !== "serial" ? "item" : field),
    { lot: "", serial },
    { code, tracking },
  );
  const where = (await serialsElsewhere(ctx, [{ item, serial }], "opening"))({ item, serial });
  if (where !== null) throw Refusal.at("serial", "serial-taken", { serial, where });
  const known = await ctx.sql.one<{ name: string }>(
    "SELECT f.name FROM registered_unit u JOIN firm_head f ON f.id = u.customer_id WHERE u.item_id = $item AND u.serial = $serial",
    { item, serial },
  );
  if (known) throw Refusal.at("serial", "unit-registered", { code, serial, customer: known.name });
  await ctx.sql.insert(REGISTERED_UNIT, [
    {
      customer_id: customer,
      item_id: item,
      serial,
      since,
      note,
      person_id: ctx.person.id,
      moment: ctx.moment,
    },
  ]);
}

/** Forgets a unit that was written down. */
export async function forgetUnit(
  ctx: Writing,
  customer: number,
  { item, serial }: ParsedBody<typeof routes.removeRegisteredUnit>,
): Promise<void> {
  const removed = await ctx
    .model(REGISTERED_UNIT)
    .destroy({ where: { customer_id: customer, item_id: item, serial } });
  if (removed === 0) throw Refusal.at("serial", "not-found", { what: "unit", id: serial });
}
