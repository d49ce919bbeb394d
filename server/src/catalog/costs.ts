import {
  type CostFacts,
  costOfContents,
  type Decimal,
  type ItemKind,
  MONEY_DECIMALS,
  moneyFromWhole,
  quantityFromWhole,
  roundMoney,
  unitCosts,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { type KeptKit, loadKits } from "./kits.ts";
import { loadLists } from "./lists.ts";

interface Row {
  item: number;
  kind: ItemKind;
  standard: number | null;
  on_hand: number;
  value: number;
  issued: number | null;
  issued_value: number | null;
}

/**
 * Current unit cost of the items named (docs/rules.md § 5); of a kit, its contents'. Only what a cost depends on is
 * read: the list of a product that is in stock, or was, says nothing of its cost.
 */
export async function currentCosts(
  ctx: Reading,
  items: Iterable<number>,
): Promise<(item: number) => Decimal | null> {
  const facts = new Map<number, CostFacts>();
  const kits = new Map<number, KeptKit>();
  let wanted = new Set(items);
  // One turn for each level of lists: products, their parts, the parts of these.
  while (wanted.size > 0) {
    const rows = await costRows(ctx, wanted);
    const neverMade = rows.filter((row) => row.kind === "built" && row.on_hand === 0 && row.issued === null);
    const lists = await loadLists(ctx, neverMade.map(idOf));
    const sets = await loadKits(ctx, rows.filter((row) => row.kind === "kit").map(idOf));
    for (const row of rows) facts.set(row.item, factsOf(row, lists.get(row.item) ?? null));
    for (const [item, kit] of sets) kits.set(item, kit);
    const below = [
      ...[...lists.values()].flatMap((list) => list.lines.map(idOf)),
      ...[...sets.values()].flatMap((kit) => kit.contents.map(idOf)),
    ];
    wanted = new Set(below.filter((item) => !facts.has(item)));
  }
  const unitCost = unitCosts((item) => facts.get(item));
  return (item) => {
    const kit = kits.get(item);
    if (!kit) return unitCost(item);
    return costOfContents(
      kit.contents.map((content) => ({ ...content, price: null, cost: unitCost(content.item) })),
    );
  };
}

const idOf = ({ item }: { item: number }) => item;

async function costRows(ctx: Reading, items: Iterable<number>): Promise<Row[]> {
  return ctx.sql.all<Row>(
    `SELECT x.*, m.quantity AS issued, m.value AS issued_value FROM (
       SELECT i.id AS item, i.kind, i.standard_cost AS standard,
              (SELECT COALESCE(SUM(quantity), 0) FROM pool WHERE item_id = i.id) AS on_hand,
              (SELECT COALESCE(SUM(value), 0) FROM pool WHERE item_id = i.id) AS value
         FROM json_each($ids) ids JOIN item i ON i.id = ids.value) x
       LEFT JOIN movement m ON x.on_hand = 0
        AND m.id = (SELECT MAX(id) FROM movement WHERE item_id = x.item AND to_place IS NULL)`,
    { ids: asJson(items) },
  );
}

function factsOf(row: Row, list: CostFacts["list"]): CostFacts {
  return {
    onHand: quantityFromWhole(row.on_hand),
    value: moneyFromWhole(row.value),
    lastIssued:
      row.issued === null
        ? null
        : roundMoney(
            moneyFromWhole(row.issued_value ?? 0).div(quantityFromWhole(row.issued)),
            MONEY_DECIMALS,
          ),
    standard: row.standard === null ? null : moneyFromWhole(row.standard),
    list,
  };
}
