import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import type { Writing } from "../db/index.ts";
import { briefs, loadUnits, pricedRate, setAgreedPrice } from "../items/index.ts";
import { linesOf, purchaseById } from "./purchases.ts";

/** Takes a price over as what the supplier of an order asks for one of its items from now on. Gives the order's id. */
export async function agreePrice(
  ctx: Writing,
  id: number,
  { item, price, pricePer }: ParsedBody<typeof routes.agreePrice>,
): Promise<number> {
  const purchase = await purchaseById(ctx, id);
  const lines = await linesOf(ctx, [id]);
  if (!lines.some((line) => line.item_id === item))
    throw Refusal.at("item", "not-found", { what: "item on this order", id: item });
  const rate = pricedRate(
    "pricePer",
    price,
    pricePer,
    (await briefs(ctx, [item]))(item),
    await loadUnits(ctx),
  );
  await setAgreedPrice(ctx, { item, supplier: purchase.supplier_id, rate, unit: pricePer });
  return id;
}
