import { PLAIN_ORDER_LINE, PLAIN_SHIPMENT, routes, type ShipBody } from "@yosegi/contract";
import { TODAY, type World } from "./world.ts";

/** An order of items by code, with quantities and prices; the first customer's. */
export async function orderOf(
  world: World,
  lines: readonly (readonly [code: string, quantity: string, price?: string])[],
  due: string | null = null,
) {
  const { firms } = await world.ok(routes.firms, { query: { kind: "customer" } });
  const typed = lines.map(async ([code, quantity, price = null]) => ({
    ...PLAIN_ORDER_LINE,
    item: await world.idOf(code),
    quantity,
    price,
  }));
  return world.ok(routes.newOrder, {
    body: { customer: firms[0]?.id ?? 0, due, lines: await Promise.all(typed) },
  });
}

type Lines = ShipBody["lines"];

/** A shipment of lines as they are named. */
export const shipmentOf = (lines: Lines, change: Partial<ShipBody> = {}): ShipBody => ({
  ...PLAIN_SHIPMENT,
  day: TODAY,
  lines,
  ...change,
});

/** A line of which so much leaves; null: all that is open. */
export const leaving = (
  line: { id: number } | undefined,
  quantity: string | null = null,
  change: Partial<Lines[number]> = {},
): Lines[number] => ({ line: line?.id ?? 0, quantity, pieces: [], only: [], ...change });
