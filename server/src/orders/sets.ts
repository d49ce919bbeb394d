import { type ItemRow, type OrderedSet, type OrderInput, Refusal, rateFrom } from "@yosegi/contract";
import {
  checkContents,
  checkDecimals,
  contentsAsDefined,
  type Decimal,
  isAsDefined,
  isStocked,
  type KitCopy,
  type OrderedContent,
  type PriceRule,
  type Problem,
  priceAsChanged,
  quantityFromScaled,
  quantityToScaled,
  type Rate,
  reasonNotSelectable,
  reporter,
  type Swap,
  sameKit,
  sharePrice,
  type Units,
  valueAt,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { unitNamed } from "../items/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { loadKits } from "../kits/index.ts";
import { IDS } from "../ledger/index.ts";

/** A set on an order line: the line's own copy of its kit, and what is in it. */
export interface OrderedKit {
  kit: KitCopy;
  contents: OrderedContent[];
}

/** A kit as a line keeps it. */
interface StoredCopy {
  shown: number;
  added: number;
  rule: PriceRule;
  discount: number;
  contents: {
    item: number;
    quantity: number;
    stocked: number;
    swap: Swap;
    swaps: number[];
    changes: number;
    leftOut: number;
  }[];
}

const flag = (yes: boolean): number => (yes ? 1 : 0);

/** A kit as the text that a line keeps of it. */
export function copyText({ contents, ...kit }: KitCopy): string {
  const stored: StoredCopy = {
    shown: flag(kit.contentsShown),
    added: flag(kit.mayBeAddedTo),
    rule: kit.priceRule,
    discount: quantityToScaled(kit.discount),
    contents: contents.map((content) => ({
      item: content.item,
      quantity: quantityToScaled(content.quantity),
      stocked: flag(content.stocked),
      swap: content.swap,
      swaps: [...content.swaps],
      changes: flag(content.quantityMayChange),
      leftOut: flag(content.mayBeLeftOut),
    })),
  };
  return JSON.stringify(stored);
}

function copyFrom(text: string): KitCopy {
  const stored = JSON.parse(text) as StoredCopy;
  return {
    contentsShown: stored.shown === 1,
    mayBeAddedTo: stored.added === 1,
    priceRule: stored.rule,
    discount: quantityFromScaled(stored.discount),
    contents: stored.contents.map((content) => ({
      item: content.item,
      quantity: quantityFromScaled(content.quantity),
      stocked: content.stocked === 1,
      swap: content.swap,
      swaps: content.swaps,
      quantityMayChange: content.changes === 1,
      mayBeLeftOut: content.leftOut === 1,
    })),
  };
}

/** The sets on order lines as they are saved, by line. */
export async function savedSets(ctx: Reading, lines: Iterable<number>): Promise<Map<number, OrderedKit>> {
  const bind = { ids: asJson(lines) };
  const kits = await ctx.sql.all<{ line: number; kit: string }>(
    "SELECT l.id AS line, l.kit FROM json_each($ids) ids JOIN sales_line l ON l.id = ids.value WHERE l.kit IS NOT NULL",
    bind,
  );
  if (kits.length === 0) return new Map();
  const rows = await ctx.sql.all<{ line: number; of: number | null; item: number; quantity: number }>(
    `SELECT c.line_id AS line, c.defined AS "of", c.item_id AS item, c.quantity
       FROM json_each($ids) ids JOIN order_content c ON c.line_id = ids.value ORDER BY c.line_id, c.position`,
    bind,
  );
  const contents = groupBy(rows, (row) => row.line);
  return new Map(
    kits.map(({ line, kit }) => [
      line,
      {
        kit: copyFrom(kit),
        contents: (contents.get(line) ?? []).map(({ of, item, quantity }) => ({
          of,
          item,
          quantity: quantityFromScaled(quantity),
        })),
      },
    ]),
  );
}

/** What is known of the items that are in sets, or may be. */
export async function setItems(
  ctx: Reading,
  sets: Iterable<OrderedKit>,
): Promise<(item: number) => ItemRow | undefined> {
  const ids = new Set(
    [...sets].flatMap(({ kit, contents }) => [
      ...contents.map(({ item }) => item),
      ...kit.contents.flatMap(({ item, swaps }) => [item, ...swaps]),
    ]),
  );
  // A kit that a line keeps may name what has left the catalog since.
  const there = await ctx.sql.all<{ id: number }>(`SELECT id FROM item_head WHERE id IN (${IDS})`, {
    ids: asJson(ids),
  });
  const found = await itemRows(
    ctx,
    there.map((row) => row.id),
  );
  const rows = new Map(found.map((row) => [row.id, row]));
  return (item) => rows.get(item);
}

type LineContents = Pick<OrderInput["lines"][number], "id" | "item" | "contents" | "newDefinition">;

/**
 * A set for each line of a kit, by place: its own copy where the line has one, else the kit as it is now. `staying` are the places of
 * lines that are saved with the same item.
 */
export async function setsOf(
  ctx: Reading,
  lines: readonly LineContents[],
  staying: Pick<ReadonlySet<number>, "has">,
): Promise<Map<number, { set: OrderedKit; kept: OrderedKit | null }>> {
  const kits = await loadKits(
    ctx,
    lines.map((line) => line.item),
  );
  const saved = await savedSets(
    ctx,
    lines.flatMap(({ id, newDefinition }, i) => (staying.has(i) && !newDefinition ? (id ?? []) : [])),
  );
  const found = new Map<number, { set: OrderedKit; kept: OrderedKit | null }>();
  for (const [i, line] of lines.entries()) {
    const kept = (line.id !== null && saved.get(line.id)) || null;
    const kit = kept?.kit ?? kits.get(line.item);
    if (!kit) continue;
    const contents = line.contents ?? kept?.contents ?? contentsAsDefined(kit);
    found.set(i, { kept, set: { kit, contents } });
  }
  return found;
}

/** Refuses contents of a line that its kit does not allow, or that can't be sold; what was on the line before may stay. */
export function refuseContents(
  { set, kept }: { set: OrderedKit; kept: OrderedKit | null },
  rowOf: (item: number) => ItemRow | undefined,
  units: Units,
  at: number,
): void {
  const before = new Set(kept?.contents.map(({ item }) => item));
  const codeOf = (item: number) => rowOf(item)?.code ?? `item ${item}`;
  const field = (place: number | null, name: string) =>
    place === null ? `lines.${at}.item` : `lines.${at}.contents.${place}.${name}`;
  for (const [place, { item, quantity }] of set.contents.entries()) {
    const row = rowOf(item);
    if (!row) throw Refusal.at(field(place, "item"), "not-found", { what: "item", id: item });
    const why = before.has(item) ? null : reasonNotSelectable("content", row);
    if (why) throw Refusal.at(field(place, "item"), why, { code: row.code, kind: row.kind });
    const problems: Problem[] = [];
    checkDecimals("quantity", quantity, unitNamed(units, row.unit), reporter(place, problems));
    for (const problem of problems) throw Refusal.at(field(place, "quantity"), problem.code, problem.params);
  }
  for (const problem of checkContents(set.kit, set.contents, codeOf))
    throw Refusal.at(field(problem.at, problem.field), problem.code, problem.params);
}

/** What one set takes from stock: contents that are stock-tracked. */
export const stockedIn =
  (rowOf: (item: number) => ItemRow | undefined) =>
  (item: number): boolean => {
    const row = rowOf(item);
    return row !== undefined && isStocked(row);
  };

export const moneyIn = (rowOf: (item: number) => ItemRow | undefined) => (item: number) => ({
  price: rateFrom(rowOf(item)?.priceRate ?? null),
  cost: rateFrom(rowOf(item)?.currentCost ?? null),
});

/** What one set is offered at with the contents it has; `own` is the kit's own price. */
export const offeredPrice = (
  ctx: Reading,
  { kit, contents }: OrderedKit,
  own: Rate | null,
  rowOf: (item: number) => ItemRow | undefined,
): Decimal | null =>
  priceAsChanged(kit, contents, own?.amount.div(own.per) ?? null, moneyIn(rowOf), ctx.currencyDecimals);

/** A set as the order shows it. `price` is that of one set after discount; null where it has none. `current` is the kit as it is now; undefined where it is none any more. */
export function setAnswer(
  ctx: Reading,
  { kit, contents }: OrderedKit,
  price: Decimal | null,
  current: KitCopy | undefined,
  rowOf: (item: number) => ItemRow | undefined,
): OrderedSet {
  const decimals = ctx.currencyDecimals;
  const moneyOf = moneyIn(rowOf);
  const money = contents.map(({ item, quantity }) => ({ quantity, ...moneyOf(item) }));
  const shares = price === null ? [] : sharePrice(price, money, decimals);
  return {
    contentsShown: kit.contentsShown,
    mayBeAddedTo: kit.mayBeAddedTo,
    priceRule: kit.priceRule,
    changed: !isAsDefined(kit, contents),
    movedOn: current !== undefined && !sameKit(kit, current),
    contents: contents.flatMap(({ of, item, quantity }, i) => {
      const row = rowOf(item);
      if (!row) return [];
      const share = shares[i] ?? null;
      const cost = money[i]?.cost ?? null;
      return {
        of,
        item: briefOf(row),
        quantity: quantity.toFixed(),
        share: share?.toFixed(decimals) ?? null,
        margin: share === null || cost === null ? null : share.minus(valueAt(quantity, cost)).toFixed(4),
      };
    }),
    defined: kit.contents.flatMap((content, of) => {
      const row = rowOf(content.item);
      // What has left the catalog can't be in a set again.
      if (!row) return [];
      return {
        of,
        item: briefOf(row),
        quantity: content.quantity.toFixed(),
        swap: content.swap,
        swaps: content.swaps.flatMap((swap) => {
          const other = rowOf(swap);
          return other ? briefOf(other) : [];
        }),
        quantityMayChange: content.quantityMayChange,
        mayBeLeftOut: content.mayBeLeftOut,
      };
    }),
  };
}

const briefOf = ({
  id,
  code,
  name,
  kind,
  tracking,
  unit,
  decimals,
  state,
  notStockTracked,
  packs,
  thumbnail,
  free,
}: ItemRow) => ({
  id,
  code,
  name,
  kind,
  tracking,
  unit,
  decimals,
  state,
  notStockTracked,
  packs,
  thumbnail,
  free,
});
