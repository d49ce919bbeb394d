import { type OrderInput, Refusal } from "@yosegi/contract";
import { type Decimal, quantityFromScaled, sameContents, sameKit, ZERO } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import type { CheckedLine } from "./lines.ts";
import { hasLeft, isLineOpen, type OrderedLine, type OrderTableRow, setsLeft, setsOpen } from "./rows.ts";
import { savedSets } from "./sets.ts";

// What may still be changed of an order of which something left.

/** A line to be written; `splitFrom` is the line that it takes the open sets of. */
export interface WrittenLine extends CheckedLine {
  splitFrom?: number;
}

/** The lines of an order as they may be written, in their order. */
export interface ChangedLines {
  /** As they were saved, by id. */
  before: ReadonlyMap<number, OrderedLine>;
  /** As they were typed; those that ask for another item are new ones. */
  kept: readonly CheckedLine[];
  /** Ids of lines that are taken off. */
  gone: readonly number[];
  typed: OrderInput["lines"];
}

/**
 * Refuses what can't be changed once a part of an order left, and splits lines whose sets are to have other contents: those that left
 * stay as they were, the others are a line of their own (docs/rules.md § 12).
 */
export async function afterShipping(
  ctx: Reading,
  order: OrderTableRow,
  customer: number,
  { before, kept, gone, typed }: ChangedLines,
): Promise<WrittenLine[]> {
  const left = new Map([...before].filter(([, line]) => hasLeft(line)));
  if (left.size === 0) return [...kept];
  if (customer !== order.customer_id) throw Refusal.at("customer", "order-left", { number: order.number });
  const taken = gone.find((line) => left.has(line));
  if (taken !== undefined) {
    const at = typed.findIndex((line) => line.id === taken);
    throw Refusal.at(at === -1 ? "lines" : `lines.${at}.item`, "line-left", { number: order.number });
  }
  const sets = await savedSets(ctx, left.keys());
  return kept.flatMap((line, at): WrittenLine[] => {
    const saved = left.get(line.id ?? 0);
    if (!saved) return [line];
    const set = sets.get(saved.id);
    const same =
      !set || !line.set || (sameKit(set.kit, line.set.kit) && sameContents(set.contents, line.set.contents));
    if (same || !set) return [withSavedPrice(line, saved, at)];
    const open = setsOpen(saved);
    refuseLoosePieces(saved, open, line, at);
    const stays = quantityFromScaled(saved.quantity).minus(open);
    if (line.quantity.lte(stays))
      throw Refusal.at(`lines.${at}.quantity`, "set-left", { code: line.sold.code });
    const { price, pricePer, discount } = saved;
    const as = { ...line, price, pricePer, discount, quantity: stays, toBuild: null, proposeBuild: false };
    return [
      { ...as, set: { ...set, offered: null }, takes: takesOf(saved) },
      { ...line, id: null, quantity: line.quantity.minus(stays), splitFrom: saved.id },
    ];
  });
}

/** A line that left whole keeps its price, for no shipment is to come that would count another. */
function withSavedPrice(line: CheckedLine, saved: OrderedLine, at: number): CheckedLine {
  const left = setsLeft(saved);
  const shipped = saved.components.reduce((most, own) => {
    const units = quantityFromScaled(own.shipped).div(quantityFromScaled(own.per));
    return units.gt(most) ? units : most;
  }, left);
  if (line.quantity.lt(shipped))
    throw Refusal.at(`lines.${at}.quantity`, "quantity-left", {
      left: ceiled(shipped),
      unit: line.sold.unit,
    });
  if (isLineOpen(saved) || line.quantity.gt(quantityFromScaled(saved.quantity))) return line;
  const { price, pricePer, discount } = saved;
  const samePrice =
    price === null
      ? line.price === null
      : line.price?.amount.eq(price.amount) && line.price.per.eq(price.per);
  const follows = line.priceFrom.of !== "typed";
  if ((!samePrice && !follows) || !discount.eq(line.discount))
    throw Refusal.at(`lines.${at}.price`, "line-left-price", { code: line.sold.code });
  return { ...line, price, pricePer };
}

const ceiled = (units: Decimal): string =>
  units.eq(units.round(6)) ? units.toFixed() : units.round(0, 3).toFixed();

/** Contents can't be changed while single pieces of a set left: what left of it belongs to a set that is not whole. */
function refuseLoosePieces(saved: OrderedLine, open: Decimal, line: CheckedLine, at: number): void {
  const loose = saved.components.some(
    (own) => !quantityFromScaled(own.open).eq(open.times(quantityFromScaled(own.per))),
  );
  if (loose || open.lte(ZERO))
    throw Refusal.at(`lines.${at}.item`, loose ? "set-in-pieces" : "set-left", { code: line.sold.code });
}

const takesOf = ({ components }: OrderedLine): ReadonlyMap<number, Decimal> =>
  new Map(components.map(({ item, per }) => [item, quantityFromScaled(per)]));
