import { type Decimal, decimal, quantityFromScaled, quantityToScaled } from "@yosegi/core";
import { standingsOf } from "../allocations/index.ts";
import { groupBy, type Reading } from "../db/index.ts";
import { reservations, stockRows, usableOf } from "../ledger/index.ts";
import { type OrderedLine, ordersById } from "../orders/index.ts";

/** What is in stock for others in their turn, and would leave. */
export interface InTurn {
  item: number;
  quantity: Decimal;
  /** Numbers of the orders and builds whose it is. */
  documents: string[];
}

/** What of a shipment is in stock for other orders or builds in their turn (docs/rules.md § 11); those served last lose first. `leaving` is in whole millionths. */
export async function takenFromOthers(
  ctx: Reading,
  all: readonly OrderedLine[],
  leaving: ReadonlyMap<number, number>,
  finished: ReadonlyMap<number, Decimal>,
): Promise<InTurn[]> {
  // What is finished for it with the shipment is its own.
  const ready = new Map([...finished].map(([item, quantity]) => [item, quantityToScaled(quantity)]));
  // Where there is enough for all that is reserved, nobody loses anything: turns are worked out only for the rest.
  const stock = await stockRows(ctx, leaving.keys());
  const contested = [...leaving.keys()].filter(
    (item) => usableOf(stock(item)) + (ready.get(item) ?? 0) < stock(item).reserved,
  );
  if (contested.length === 0) return [];
  const lines = new Set(all.map((line) => line.id));
  const found = await standingsOf(ctx, contested);
  for (const own of found)
    if (lines.has(own.line)) ready.set(own.item, (ready.get(own.item) ?? 0) + own.ready);
  const beyond = contested.flatMap((item) => {
    const more = (leaving.get(item) ?? 0) - (ready.get(item) ?? 0);
    return more > 0 ? [{ item, more }] : [];
  });
  if (beyond.length === 0) return [];
  const items = beyond.map(({ item }) => item);
  const standings = groupBy(
    found.filter((own) => !lines.has(own.line) && own.ready > 0),
    (own) => own.item,
  );
  const orders = await ordersById(
    ctx,
    [...standings.values()].flatMap((own) => own.map(({ order }) => order)),
  );
  const numberOf = new Map(orders.map(({ id, number }) => [id, number]));
  const reserved = groupBy(
    (await reservations(ctx, items)).filter(({ build }) => build !== null),
    ({ item }) => item,
  );
  return beyond.map(({ item, more }) => {
    const documents = new Set<string>();
    let rest = more;
    for (const { order, ready: has } of [...(standings.get(item) ?? [])].reverse()) {
      if (rest <= 0) break;
      documents.add(numberOf.get(order) ?? "");
      rest -= has;
    }
    for (const { number, quantity } of [...(reserved.get(item) ?? [])].reverse()) {
      if (rest <= 0) break;
      documents.add(number);
      rest -= quantityToScaled(decimal(quantity));
    }
    return { item, quantity: quantityFromScaled(more), documents: [...documents].reverse() };
  });
}
