import { type BodyOf, type Kit, type KitBody, type PriceRow, Refusal, type routes } from "@yosegi/contract";
import {
  checkKit,
  codeKey,
  decimal,
  eachAt,
  free,
  isBelow,
  type KitDraft,
  margin,
  moneyToWhole,
  priceForMargin,
  quantityFromWhole,
  quantityToWhole,
  setsAvailable,
  sharePrice,
} from "@yosegi/core";
import { asJson, type ItemTableRow, type Reading, rateOrNull, type Writing } from "../db/index.ts";
import { stockFigures } from "../ledger/index.ts";
import { currentCosts } from "./costs.ts";
import { factsFor, type NamedFacts } from "./facts.ts";
import { briefs, costTexts, itemById, kitPrice, prices, priceText, rateText } from "./items.ts";
import { type KeptKit, loadKits } from "./kits.ts";
import { checkCurrency } from "./pricing.ts";
import { refuseProblems } from "./refuse.ts";

/** A kit as its sheet shows it; an item of the kind without contents yet is an empty one. */
export async function kitAnswer(ctx: Reading, item: ItemTableRow): Promise<Kit> {
  const kit = (await loadKits(ctx, [item.id])).get(item.id) ?? EMPTY;
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

const EMPTY: KeptKit = {
  contentsShown: true,
  mayBeAddedTo: false,
  priceRule: "own",
  discount: decimal(0),
  contents: [],
};

/** Writes a kit typed in a form. */
export async function saveKit(ctx: Writing, id: number, body: KitBody): Promise<Kit> {
  const item = await itemById(ctx, id);
  const draft: KitDraft = {
    ...body,
    kit: item.code,
    discount: decimal(body.discount),
    contents: body.contents.map((content, row) => ({
      ...content,
      row,
      quantity: decimal(content.quantity),
    })),
  };
  const facts = await factsFor(ctx, [item.code, ...body.contents.flatMap((c) => [c.item, ...c.swaps])]);
  refuseProblems(checkKit(draft, -1, facts), (p) => (p.row < 0 ? p.field : `contents.${p.row}.${p.field}`));
  if (body.price !== null) checkCurrency(ctx, "price", decimal(body.price));
  await ctx.models.item.update(
    { price: body.price === null ? null : moneyToWhole(decimal(body.price)) },
    { where: { id }, transaction: ctx.transaction },
  );
  await writeKits(ctx, [draft], facts.items);
  return kitAnswer(ctx, await itemById(ctx, id));
}

/** Writes checked kits, each once, in the place of what they were. */
export async function writeKits(
  ctx: Writing,
  drafts: readonly KitDraft[],
  items: NamedFacts["items"],
): Promise<void> {
  const idOf = (code: string) => {
    const item = items.get(codeKey(code));
    if (!item) throw new Error(`${code} was checked and is not there`);
    return item.id;
  };
  const kits = drafts.map((draft) => ({ id: idOf(draft.kit), draft }));
  await ctx.sql.run(
    `INSERT INTO kit (item_id, contents_shown, may_be_added_to, price_rule, discount)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4 FROM json_each($rows) WHERE true
         ON CONFLICT (item_id) DO UPDATE SET contents_shown = excluded.contents_shown,
            may_be_added_to = excluded.may_be_added_to, price_rule = excluded.price_rule, discount = excluded.discount`,
    {
      rows: asJson(
        kits.map(({ id, draft }) => [
          id,
          draft.contentsShown ? 1 : 0,
          draft.mayBeAddedTo ? 1 : 0,
          draft.priceRule,
          quantityToWhole(draft.discount),
        ]),
      ),
    },
  );
  await ctx.sql.run("DELETE FROM kit_content WHERE kit_id IN (SELECT value FROM json_each($ids))", {
    ids: asJson(kits.map(({ id }) => id)),
  });
  const contents = kits.flatMap(({ id, draft }) =>
    draft.contents.map((content, i) => ({ kit: id, line: i + 1, content })),
  );
  await ctx.sql.run(
    `INSERT INTO kit_content (kit_id, line, item_id, quantity, swap, quantity_may_change, may_be_left_out)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3, value ->> 4, value ->> 5, value ->> 6 FROM json_each($rows)`,
    {
      rows: asJson(
        contents.map(({ kit, line, content }) => [
          kit,
          line,
          idOf(content.item),
          quantityToWhole(content.quantity),
          content.swap,
          content.quantityMayChange ? 1 : 0,
          content.mayBeLeftOut ? 1 : 0,
        ]),
      ),
    },
  );
  await ctx.sql.run(
    `INSERT INTO kit_swap (kit_id, line, position, item_id)
     SELECT value ->> 0, value ->> 1, value ->> 2, value ->> 3 FROM json_each($rows)`,
    {
      rows: asJson(
        contents.flatMap(({ kit, line, content }) =>
          content.swaps.map((swap, position) => [kit, line, position, idOf(swap)]),
        ),
      ),
    },
  );
}

/** The contents of one kit for another. */
export async function copyKit(ctx: Writing, from: number, to: number): Promise<void> {
  const [kit, contents, swaps] = [
    "contents_shown, may_be_added_to, price_rule, discount",
    "line, item_id, quantity, swap, quantity_may_change, may_be_left_out",
    "line, position, item_id",
  ];
  await ctx.sql.run(`INSERT INTO kit (item_id, ${kit}) SELECT $to, ${kit} FROM kit WHERE item_id = $from`, {
    from,
    to,
  });
  await ctx.sql.run(`INSERT INTO kit_content SELECT $to, ${contents} FROM kit_content WHERE kit_id = $from`, {
    from,
    to,
  });
  await ctx.sql.run(`INSERT INTO kit_swap SELECT $to, ${swaps} FROM kit_swap WHERE kit_id = $from`, {
    from,
    to,
  });
}

const WISH = decimal(30);

/** Products and kits whose margin at today's costs is below the wish, the worst first. */
export async function lowMargins(
  ctx: Reading,
  asked: string | undefined,
): Promise<{ wish: string; rows: PriceRow[] }> {
  const kept = ctx.company?.margin_wish ?? null;
  const wish = asked !== undefined ? decimal(asked) : kept === null ? WISH : quantityFromWhole(kept);
  const sold = await ctx.sql.all<{ id: number }>(
    `SELECT i.id FROM item i LEFT JOIN kit k ON k.item_id = i.id
      WHERE i.kind IN ('built', 'kit') AND i.state <> 'archived' AND (i.price IS NOT NULL OR k.price_rule = 'sum')
      ORDER BY i.code_key`,
  );
  const ids = sold.map((row) => row.id);
  const kits = await loadKits(ctx, ids);
  const contents = [...kits.values()].flatMap((kit) => kit.contents.map((c) => c.item));
  const listPrice = await prices(ctx, [...ids, ...contents]);
  const unitCost = await currentCosts(ctx, ids);
  const brief = await briefs(ctx, ids);
  const rows = ids.flatMap((id) => {
    const kit = kits.get(id);
    const cost = unitCost(id);
    const price = kit ? kitPrice(ctx, kit, listPrice(id), listPrice) : listPrice(id);
    if (cost === null || price === null) return [];
    const [each, sold] = [eachAt(cost), eachAt(price)];
    const has = margin(sold, each);
    if (!isBelow(has, wish)) return [];
    return [{ id, cost: each, price: sold, has, ownPrice: kit?.priceRule !== "sum" }];
  });
  rows.sort((a, b) => (a.has.percent ?? a.has.money).cmp(b.has.percent ?? b.has.money));
  return {
    wish: wish.toFixed(),
    rows: rows.map(({ id, cost, price, has, ownPrice }) => ({
      ...brief(id),
      unitCost: cost.toFixed(4),
      price: price.toFixed(ctx.currencyDecimals),
      margin: has.money.toFixed(4),
      percent: has.percent?.toFixed(1) ?? null,
      suggested: priceForMargin(cost, wish, ctx.currencyDecimals)?.toFixed(ctx.currencyDecimals) ?? null,
      ownPrice,
    })),
  };
}

/** Gives several items new prices at once, and remembers the margin wished for. */
export async function reprice(ctx: Writing, body: BodyOf<typeof routes.reprice>): Promise<number> {
  const ids = body.prices.map(({ item }) => item);
  const brief = await briefs(ctx, ids);
  const kits = await loadKits(ctx, ids);
  for (const [i, { item, price }] of body.prices.entries()) {
    const { code } = brief(item);
    checkCurrency(ctx, `prices.${i}.price`, decimal(price));
    if (kits.get(item)?.priceRule === "sum") throw Refusal.at(`prices.${i}.price`, "price-follows", { code });
  }
  // What is told here is told for one of each.
  await ctx.sql.run(
    `UPDATE item SET price = r.value ->> 'price', price_per = 1000000, price_unit = ''
       FROM json_each($rows) r WHERE item.id = r.value ->> 'item'`,
    { rows: asJson(body.prices.map(({ item, price }) => ({ item, price: moneyToWhole(decimal(price)) }))) },
  );
  await ctx.sql.run("UPDATE company SET margin_wish = $wish", { wish: quantityToWhole(decimal(body.wish)) });
  return body.prices.length;
}
