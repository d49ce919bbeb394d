import { type ItemRow, type OrderInput, Refusal, rateFrom } from "@yosegi/contract";
import {
  checkDecimals,
  type Day,
  type Decimal,
  decimal,
  isStocked,
  ONE,
  type Problem,
  quantityFromScaled,
  type Rate,
  reasonNotSelectable,
  reporter,
  takenBySet,
  type Units,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading } from "../db/index.ts";
import { checkCurrency, loadUnits, pricedRate, unitNamed } from "../items/index.ts";
import { itemRows } from "../itemsheets/index.ts";
import { type ListPrice, listPrices, type PricedSerial, pricedSerials } from "../prices/index.ts";
import { refuseProblems } from "../problems.ts";
import { refuseSerials } from "./serials.ts";
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
  /** Where the price is from. */
  priceFrom: PriceSource;
  /** What the line would cost if no price were typed; null where none is known. */
  offer: PriceOffer;
  /** Percent. */
  taxRate: Decimal;
  /** The one unit that it asks for; "": any. */
  serial: string;
  /** null: as its item says. */
  finishWhenShipped: boolean | null;
  /** Its supplier delivers it straight to the customer. */
  bySupplier: boolean;
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
  /** Units of the lines' items that have a price of their own. */
  serials: readonly PricedSerial[];
}

export type TypedLine = Omit<OrderInput["lines"][number], "promised"> & { promised?: Day | null };

/** Where the price of a line is from; of what a list says, from how many on. */
export type PriceSource =
  | { of: "typed" | "contents" | "item" | "serial" }
  | { of: ListPrice["of"]; from: Decimal };

/** Checks the lines of an order for a customer and says what each takes: itself, or what is in its set; work takes nothing. */
export async function checkLines(
  ctx: Reading,
  customer: number | null,
  typed: readonly TypedLine[],
): Promise<CheckedLines> {
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
  const listPrice = await listPrices(ctx, customer, items.keys());
  const taxRate = await taxRates(ctx, customer);
  const serials = await pricedSerials(ctx, items.keys());
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
    const listed = listPrice(item.id, line.quantity);
    const set = own
      ? { ...own.set, offered: offeredPrice(ctx, own.set, listed?.rate ?? rateFrom(item.priceRate), rowOf) }
      : null;
    const saved = sameAsSaved.get(i);
    const {
      id,
      quantity,
      discount,
      promised = null,
      toBuild,
      proposeBuild,
      serial,
      finishWhenShipped,
      bySupplier,
    } = line;
    if (bySupplier && item.kind !== "bought")
      throw Refusal.at(`lines.${i}.bySupplier`, "not-by-supplier", { code: item.code });
    const unit =
      serial === "" ? undefined : serials.find((one) => one.item === item.id && one.serial === serial);
    if (toBuild !== null) refuseToBuild(toBuild, quantity, item, units, i);
    return {
      toBuild,
      proposeBuild,
      finishWhenShipped,
      bySupplier,
      id,
      promised,
      serial,
      item: item.id,
      sold: item,
      quantity,
      discount,
      ...priceOf(ctx, line, item, { set, listed, unit }, units, i),
      taxRate: saved?.customer === customer ? saved.taxRate : taxRate(item),
      takes: set ? takenBySet(set.contents, stockedIn(rowOf)) : takenAlone(item),
      set,
    };
  });
  refuseProblems(problems, (p) => `lines.${p.row}.${p.field}`);
  await refuseSerials(ctx, lines, (at) => {
    const line = lines[at];
    return line !== undefined && sameAsSaved.get(at)?.serial === line.serial;
  });
  return { lines, rowOf, serials };
}

/** A line as it is saved. */
interface SavedTerms {
  customer: number;
  /** Percent. */
  taxRate: Decimal;
  serial: string;
}

/** The lines that are saved already with the same item, by their place. */
async function linesThatStay(
  ctx: Reading,
  typed: readonly TypedLine[],
): Promise<ReadonlyMap<number, SavedTerms>> {
  const rows = await ctx.sql.all<{
    id: number;
    item: number;
    customer: number;
    tax_rate: number;
    serial: string;
  }>(
    `SELECT l.id, l.item_id AS item, o.customer_id AS customer, l.tax_rate, l.serial
       FROM json_each($ids) ids JOIN sales_line l ON l.id = ids.value JOIN sales_order o ON o.id = l.order_id`,
    { ids: asJson(typed.flatMap((line) => line.id ?? [])) },
  );
  const saved = new Map(rows.map((row) => [row.id, row]));
  return new Map(
    typed.flatMap(({ id, item }, i): [number, SavedTerms][] => {
      const row = saved.get(id ?? 0);
      if (row?.item !== item) return [];
      return [[i, { customer: row.customer, taxRate: quantityFromScaled(row.tax_rate), serial: row.serial }]];
    }),
  );
}

/** The tax rate of an item for a customer: its own, else the company's; an exempt customer pays none (docs/rules.md § 12). */
export async function taxRates(
  ctx: Reading,
  customer: number | null,
): Promise<(item: Pick<ItemRow, "taxRate">) => Decimal> {
  const firm = await ctx.sql.one<{ tax_exempt: number }>(
    "SELECT tax_exempt FROM firm_head WHERE id = $customer",
    {
      customer,
    },
  );
  if (firm?.tax_exempt === 1) return () => ZERO;
  const usual = quantityFromScaled(ctx.company?.tax_rate ?? 0);
  return ({ taxRate }) => (taxRate === null ? usual : decimal(taxRate));
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

/** The price of a line as it was typed, else what a set with its contents is offered at, a list says, or the item's own. */
function priceOf(
  ctx: Reading,
  { price, pricePer }: Pick<TypedLine, "price" | "pricePer">,
  item: ItemRow,
  { set, listed, unit }: Offers,
  units: Units,
  at: number,
): Pick<CheckedLine, "price" | "pricePer" | "priceFrom" | "offer"> {
  if (set?.kit.priceRule === "sum" && price !== null)
    throw Refusal.at(`lines.${at}.price`, "kit-price-follows", { code: item.code });
  const offer = offerFor(item, { set, listed, unit });
  const { amount, per, priceFrom }: PriceOffer =
    price === null ? offer : { amount: price, per: pricePer, priceFrom: { of: "typed" } };
  if (amount === null) return { price: null, pricePer: "", priceFrom, offer };
  checkCurrency(ctx, `lines.${at}.price`, amount);
  return {
    price: pricedRate(`lines.${at}.pricePer`, amount, per, item, units),
    pricePer: per,
    priceFrom,
    offer,
  };
}

/** What may say a line's price, where none was typed. */
interface Offers {
  set: CheckedLine["set"];
  listed: ListPrice | null;
  unit: PricedSerial | undefined;
}

/** A price, and where it is from; `amount` is null where none is known. */
export interface PriceOffer {
  amount: Decimal | null;
  /** The unit or pack that it is for; "" for the stock unit. */
  per: string;
  priceFrom: PriceSource;
}

function offerFor(item: ItemRow, { set, listed, unit }: Offers): PriceOffer {
  if (set?.kit.priceRule === "sum") return { amount: set.offered, per: "", priceFrom: { of: "contents" } };
  if (unit) return { amount: unit.price, per: "", priceFrom: { of: "serial" } };
  const priceFrom: PriceSource = listed ? { of: listed.of, from: listed.from } : { of: "item" };
  if (set) return { amount: set.offered, per: "", priceFrom };
  if (listed) return { amount: listed.rate.amount, per: listed.per, priceFrom };
  return { amount: item.price === null ? null : decimal(item.price), per: item.pricePer, priceFrom };
}
