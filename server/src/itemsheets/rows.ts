import { type ItemRow, Refusal } from "@yosegi/contract";
import {
  type Decimal,
  type DrawnAt,
  free,
  lacks,
  moneyFromScaled,
  NO_STOCK,
  quantityFromScaled,
  type StockFigures,
  setsAvailable,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading, rateOrNull } from "../db/index.ts";
import { BRIEF, type BriefRow, briefFrom, costTexts, prices, priceText, rateText } from "../items/index.ts";
import { costsWithKits, kitPrice, loadKits, type StoredKit } from "../kits/index.ts";
import { IDS, joinStock, STOCK_COLUMNS, type StockRow, stockFigures, stockOf } from "../ledger/index.ts";
import { COST_COLUMNS, type CostRow, mainInForce } from "../lists/index.ts";

interface FullRow extends BriefRow, CostRow, StockRow {
  price: number | null;
  price_per: number;
  price_unit: string;
  group: string;
  drawn_at: DrawnAt;
  not_for_sale: number;
  always_build: number;
  finish_when_shipped: number;
  lot_fixed: number;
  tax_rate: number | null;
  has_list: number;
  has_supplier: number;
}

/** Items with their figures, in the order of the ids. All that one row says is read at once: lists are long. */
export async function itemRows(ctx: Reading, ids: readonly number[]): Promise<ItemRow[]> {
  const rows = await ctx.sql.all<FullRow>(
    `SELECT ${BRIEF}, ${COST_COLUMNS}, ${STOCK_COLUMNS}, s.price, s.price_per, s.price_unit, i.not_for_sale, i.always_build, i.finish_when_shipped, i.lot_fixed, i.tax_rate,
            COALESCE(g.name, '') AS "group", COALESCE(g.drawn_at, 'pick') AS drawn_at,
            CASE i.kind WHEN 'built' THEN ${mainInForce("i.id")} IS NOT NULL
                        WHEN 'kit' THEN EXISTS (SELECT 1 FROM kit_part WHERE kit_id = i.id) ELSE 0 END AS has_list,
            EXISTS (SELECT 1 FROM item_supplier WHERE item_id = i.id) AS has_supplier
       FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value
       JOIN item_cost c ON c.item_id = i.id JOIN item_price s ON s.item_id = i.id
       LEFT JOIN item_group g ON g.id = i.group_id ${joinStock("i.id", IDS)}`,
    { ids: asJson(ids), today: ctx.today },
  );
  const byId = new Map(rows.map((row) => [row.id, row]));
  const sets = rows.filter((row) => row.kind === "kit").map((row) => row.id);
  const kits = await loadKits(ctx, sets);
  const unitCost = await costsWithKits(ctx, rows, kits);
  const contents = [...kits.values()].flatMap((kit) => kit.contents.map((content) => content.item));
  const contentStock = contents.length === 0 ? () => NO_STOCK : await stockFigures(ctx, contents);
  const contentPrice = contents.length === 0 ? () => null : await prices(ctx, contents);
  return ids.map((id) => {
    const row = byId.get(id);
    if (!row) throw new Refusal("not-found", { what: "item", id });
    const { kind, state } = row;
    const figures = stockOf(row);
    const kit = kits.get(id);
    const cost = unitCost(id);
    const ownPrice = rateOrNull(row.price, row.price_per);
    const price = kit ? kitPrice(ctx, kit, ownPrice, contentPrice) : ownPrice;
    const hasList = row.has_list === 1;
    // Assigned, not spread: V8 keeps what is spread among so many properties in a slow form.
    return Object.assign(briefFrom(row), {
      group: row.group,
      drawnAt: row.drawn_at,
      notForSale: row.not_for_sale === 1,
      alwaysBuild: row.always_build === 1,
      finishWhenShipped: row.finish_when_shipped === 1,
      lotFixed: row.lot_fixed === 1,
      taxRate: row.tax_rate === null ? null : quantityFromScaled(row.tax_rate).toFixed(),
      hasList,
      onHand: figures.onHand.toFixed(),
      reserved: figures.reserved.toFixed(),
      free: (kit ? freeSets(kit, contentStock) : free(figures)).toFixed(),
      value: moneyFromScaled(row.value).toFixed(4),
      ...costTexts(cost),
      price: priceText(ctx, price),
      pricePer: kit?.priceRule === "sum" ? "" : row.price_unit,
      priceRate: rateText(price),
      lacks: lacks({
        kind,
        state,
        hasCost: cost !== null,
        hasPrice: price !== null,
        hasList,
        hasSupplier: row.has_supplier === 1,
      }),
    });
  });
}

/** Whole sets of a kit; a kit that nothing limits has none to count. */
function freeSets(kit: StoredKit, stock: (item: number) => StockFigures): Decimal {
  const { sets } = setsAvailable(kit.contents, stock);
  return sets === "no limit" ? ZERO : sets;
}
