import type { Kit } from "@yosegi/contract";
import { decimal, free, setsAvailable, sharePrice } from "@yosegi/core";
import { type Reading, rateOrNull } from "../db/index.ts";
import type { ItemTableRow } from "../items/index.ts";
import { briefs, costTexts, prices, priceText, rateText } from "../items/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { loadKits, type StoredKit } from "./kits.ts";
import { kitPrice } from "./price.ts";

/** A kit as its sheet shows it; an item of the kind without contents yet is an empty one. */
export async function kitAnswer(ctx: Reading, item: ItemTableRow): Promise<Kit> {
  const kit = (await loadKits(ctx, [item.id])).get(item.id) ?? EMPTY_KIT;
  const items = kit.contents.flatMap((content) => [content.item, ...content.swaps]);
  const brief = await briefs(ctx, items);
  const stock = await stockFigures(ctx, items);
  const unitCost = await currentCosts(ctx, items);
  const listPrice = await prices(ctx, items);
  const available = setsAvailable(kit.contents, stock);
  const decimals = ctx.currencyDecimals;
  const price = kitPrice(ctx, kit, rateOrNull(item.price, item.price_per), listPrice);
  const shares =
    price === null
      ? []
      : sharePrice(
          price.amount,
          kit.contents.map(({ item: content, quantity }) => ({
            quantity,
            price: listPrice(content),
            cost: unitCost(content),
          })),
          decimals,
        );
  return {
    version: kit.version,
    contentsShown: kit.contentsShown,
    mayBeAddedTo: kit.mayBeAddedTo,
    priceRule: kit.priceRule,
    discount: kit.discount.toFixed(),
    sets: available.sets === "no limit" ? null : available.sets.toFixed(),
    contents: kit.contents.map((content, i) => ({
      line: i + 1,
      item: {
        ...brief(content.item),
        free: free(stock(content.item)).toFixed(),
        ...costTexts(unitCost(content.item)),
        price: priceText(ctx, listPrice(content.item)),
        priceRate: rateText(listPrice(content.item)),
      },
      quantity: content.quantity.toFixed(),
      swap: content.swap,
      swaps: content.swaps.map((swap) => ({
        code: brief(swap).code,
        name: brief(swap).name,
        free: free(stock(swap)).toFixed(),
        unit: brief(swap).unit,
      })),
      quantityMayChange: content.quantityMayChange,
      mayBeLeftOut: content.mayBeLeftOut,
      sets: available.each[i]?.toFixed() ?? null,
      limiting: available.limiting.includes(content.item),
      share: shares[i]?.toFixed(decimals) ?? null,
    })),
  };
}

/** What stands for a kit that has no contents yet. */
export const EMPTY_KIT: StoredKit = {
  version: 0,
  contentsShown: true,
  mayBeAddedTo: false,
  priceRule: "own",
  discount: decimal(0),
  contents: [],
};
