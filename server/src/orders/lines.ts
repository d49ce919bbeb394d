import { type ItemRow, type OrderInput, Refusal, rateFrom } from "@yosegi/contract";
import {
  checkDecimals,
  type Day,
  type Decimal,
  decimal,
  isStocked,
  ONE,
  type Problem,
  type Rate,
  reasonNotSelectable,
  reporter,
  takenBySet,
  type Units,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { checkCurrency, loadUnits, pricedRate, unitNamed } from "../items/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { refuseProblems } from "../problems.ts";
import { type OrderedKit, offeredPrice, refuseContents, setItems, setsOf, stockedIn } from "./sets.ts";

/** A line of an order as it may be written. */
export interface CheckedLine {
  id: number | null;
  item: number;
  /** The item as it is now. */
  sold: ItemRow;
  quantity: Decimal;
  price: Rate | null;
  pricePer: string;
  /** Percent. */
  discount: Decimal;
  /** The day promised to the customer. */
  promised: Day | null;
  /** So many from builds that are for this line; null: as proposed, or as it is. */
  toBuild: Decimal | null;
  proposeBuild: boolean;
  /** What one takes from stock. */
  takes: ReadonlyMap<number, Decimal>;
  /** Of a kit: the line's copy of it, its contents, and what a set with these is offered at. */
  set: (OrderedKit & { offered: Decimal | null }) | null;
}

/** Lines as they may be written, and what is known of the items in their sets. */
export interface CheckedLines {
  lines: CheckedLine[];
  rowOf: (item: number) => ItemRow | undefined;
}

export type TypedLine = Omit<OrderInput["lines"][number], "promised"> & { promised?: Day | null };

/** Checks the lines of an order and says what each takes: itself, or what is in its set; work takes nothing. */
export async function checkLines(ctx: Reading, typed: readonly TypedLine[]): Promise<CheckedLines> {
  const found = await ctx.sql.all<{ id: number }>(
    "SELECT DISTINCT i.id FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value",
    { ids: asJson(typed.map((line) => line.item)) },
  );
  const items = new Map(
    (
      await itemRows(
        ctx,
        found.map((item) => item.id),
      )
    ).map((item) => [item.id, item]),
  );
  const sameAsSaved = await linesThatStay(ctx, typed);
  const sets = await setsOf(ctx, typed, sameAsSaved);
  const rowOf = await setItems(
    ctx,
    [...sets.values()].map(({ set }) => set),
  );
  const units = await loadUnits(ctx);
  const problems: Problem[] = [];
  const lines = typed.map((line, i): CheckedLine => {
    const item = items.get(line.item);
    if (!item) throw Refusal.at(`lines.${i}.item`, "not-found", { what: "item", id: line.item });
    // A line that stays may keep an item that was archived since.
    const why = sameAsSaved.has(i) ? null : reasonNotSelectable("selling", item);
    if (why) throw Refusal.at(`lines.${i}.item`, why, { code: item.code, kind: item.kind });
    checkDecimals("quantity", line.quantity, unitNamed(units, item.unit), reporter(i, problems));
    const own = sets.get(i);
    if (!own && line.contents !== null)
      throw Refusal.at(`lines.${i}.contents`, "no-set", { code: item.code });
    if (own) refuseContents(own, rowOf, units, i);
    const set = own
      ? { ...own.set, offered: offeredPrice(ctx, own.set, rateFrom(item.priceRate), rowOf) }
      : null;
    const { id, quantity, discount, promised = null, toBuild, proposeBuild } = line;
    if (toBuild !== null) refuseToBuild(toBuild, quantity, item, units, i);
    return {
      toBuild,
      proposeBuild,
      id,
      promised,
      item: item.id,
      sold: item,
      quantity,
      discount,
      ...priceOf(ctx, line, item, set, units, i),
      takes: set ? takenBySet(set.contents, stockedIn(rowOf)) : takenAlone(item),
      set,
    };
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  return { lines, rowOf };
}

/** Places of the lines that are saved already, with the same item. */
async function linesThatStay(ctx: Reading, typed: readonly TypedLine[]): Promise<ReadonlySet<number>> {
  const saved = await ctx.sql.all<{ id: number; item: number }>(
    "SELECT l.id, l.item_id AS item FROM json_each($ids) ids JOIN sales_line l ON l.id = ids.value",
    { ids: asJson(typed.flatMap((line) => line.id ?? [])) },
  );
  const itemOf = new Map(saved.map((row) => [row.id, row.item]));
  const staying = typed.flatMap(({ id, item }, i) => (id !== null && itemOf.get(id) === item ? i : []));
  return new Set(staying);
}

/** Refuses a quantity to build of what can't be built, or of more than the line asks for. */
function refuseToBuild(toBuild: Decimal, quantity: Decimal, item: ItemRow, units: Units, at: number): void {
  const field = `lines.${at}.toBuild`;
  const why = toBuild.gt(0) ? reasonNotSelectable("product", item) : null;
  if (why) throw Refusal.at(field, why, { code: item.code, kind: item.kind });
  const problems: Problem[] = [];
  checkDecimals("toBuild", toBuild, unitNamed(units, item.unit), reporter(at, problems));
  refuseProblems(problems, () => field);
  if (toBuild.gt(quantity))
    throw Refusal.at(field, "to-build-too-many", { most: quantity.toFixed(), unit: item.unit });
}

const takenAlone = (item: ItemRow): ReadonlyMap<number, Decimal> =>
  isStocked(item) ? new Map([[item.id, ONE]]) : new Map();

/** The price of a line as it was typed, else what a set with its contents is offered at, else the item's own. */
function priceOf(
  ctx: Reading,
  { price, pricePer }: Pick<TypedLine, "price" | "pricePer">,
  item: ItemRow,
  set: CheckedLine["set"],
  units: Units,
  at: number,
): { price: Rate | null; pricePer: string } {
  if (set?.kit.priceRule === "sum" && price !== null)
    throw Refusal.at(`lines.${at}.price`, "kit-price-follows", { code: item.code });
  const own = item.price === null ? null : decimal(item.price);
  const [amount, per] = price !== null ? [price, pricePer] : set ? [set.offered, ""] : [own, item.pricePer];
  if (amount === null) return { price: null, pricePer: "" };
  checkCurrency(ctx, `lines.${at}.price`, amount);
  return { price: pricedRate(`lines.${at}.pricePer`, amount, per, item, units), pricePer: per };
}
