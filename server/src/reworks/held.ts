import type { AnswerOf, routes } from "@yosegi/contract";
import { addMonths, type Day } from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";

interface HeldRow {
  item: number;
  serial: string;
  day: Day;
  months: number | null;
}

/** Units by serial number that a customer has: what was shipped to them or given back, and did not come back since. */
export async function heldUnits(ctx: Reading, customer: number): Promise<AnswerOf<typeof routes.heldUnits>> {
  const rows = await ctx.sql.all<HeldRow>(
    `SELECT s.item_id AS item, s.serial, o.day, CASE WHEN h.id IS NULL THEN NULL ELSE i.warranty_months END AS months
       FROM serial_state s JOIN posting_head o ON o.id = s.posting_id JOIN item_head i ON i.id = s.item_id
       LEFT JOIN shipment_head h ON h.posting_id = s.posting_id LEFT JOIN order_head d ON d.id = h.order_id
       LEFT JOIN rework_out w ON w.posting_id = s.posting_id
      WHERE s.purpose = 'shipped' AND (d.customer_id = $customer OR w.customer_id = $customer)
      ORDER BY o.day DESC, s.item_id, s.serial LIMIT 500`,
    { customer },
  );
  const reworks = await ctx.sql.all<{ id: number; number: string; item: number; serial: string }>(
    `SELECT DISTINCT r.id, r.number, r.item_id AS item, u.serial FROM json_each($serials) k
       JOIN rework_unit u ON u.serial = k.value JOIN rework r ON r.id = u.rework_id AND r.undone_at IS NULL ORDER BY r.id`,
    { serials: asJson(rows.map(({ serial }) => serial)) },
  );
  const brief = await briefs(
    ctx,
    rows.map(({ item }) => item),
  );
  return {
    units: rows.map(({ item, serial, day, months }) => ({
      item: brief(item),
      serial,
      since: day,
      warrantyUntil: months === null ? null : addMonths(day, months),
      reworks: reworks.flatMap((own) =>
        own.item === item && own.serial === serial ? [{ id: own.id, number: own.number }] : [],
      ),
    })),
  };
}
