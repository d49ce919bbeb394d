import type { ProblemCode } from "@yosegi/core";

/** What a message needs to say what was wrong and what is allowed. */
export type ErrorParams = Record<string, string | number>;

/** A message and the HTTP status of its answer. */
export interface Entry {
  status: number;
  message: (params: ErrorParams) => string;
}

export const at = (status: number, message: Entry["message"]): Entry => ({ status, message });

/** Messages for single rows and fields: the core finds the problem, the words are here. */
export const PROBLEMS = {
  archived: at(422, (p) => `${p.code} is archived. Make it active again in the catalog first.`),
  "barcode-taken": at(409, (p) => `This barcode belongs to ${p.code}.`),
  "bin-without-store": at(422, () => "A bin needs its store: fill in the store too."),
  "code-repeated": at(422, (p) => `Same code as row ${p.row}.`),
  "code-taken": at(
    409,
    (p) => `${p.code} is already in the catalog. Capital and small letters count as the same.`,
  ),
  "content-fixed": at(422, (p) => `${p.code} is fixed in this kit, so it can't be swapped for ${p.by}.`),
  "content-needed": at(422, (p) => `${p.code} can't be left out of this kit.`),
  "content-not-added": at(422, (p) => `Nothing can be added to this kit, so ${p.code} is a line of its own.`),
  "content-not-listed": at(
    422,
    (p) => `In this kit ${p.code} can be swapped for ${p.allowed} only, not for ${p.by}.`,
  ),
  "content-quantity-fixed": at(
    422,
    (p) => `The quantity of ${p.code} is fixed in this kit: ${p.quantity} a set.`,
  ),
  "content-unknown": at(422, (p) => `${p.code} stands for a content that this kit does not have, or twice.`),
  "cost-needed": at(422, (p) => `Enter a unit cost: ${p.code} has no standard cost.`),
  decimals: at(422, (p) =>
    p.allowed === 0
      ? `A quantity in ${p.unit} is a whole number.`
      : `A quantity in ${p.unit} may have up to ${p.allowed} decimals.`,
  ),
  "expiry-differs": at(422, (p) => `Lot ${p.lot} already has another expiry date: ${p.expiry}.`),
  "expiry-without-lot": at(422, () => "Enter the lot, or leave the expiry date empty."),
  "has-stock": at(422, (p) => `${p.code} already has stock movements; opening stock is only for new items.`),
  "in-use": at(
    409,
    (p) =>
      `You can't change the ${p.field} of ${p.code}: it has ${p.what}. Copy it to a new item and change that.`,
  ),
  "item-unknown": at(422, (p) => `${p.code} is not in the catalog.`),
  "list-differs": at(
    422,
    (p) => `Row ${p.row} of the same product has “${p.value}” here. Enter it once, or the same each time.`,
  ),
  "kit-no-tracking": at(422, () => "A kit has no stock of its own, so no lots or serials: choose “none”."),
  "kit-not-bought": at(422, (p) => `${p.code} is a kit: buy its contents instead.`),
  "kit-unit": at(422, (p) => `Kits are sold in whole sets, not in ${p.unit}.`),
  "list-held": at(422, (p) => `${p.code} was skipped because another of its rows has an error.`),
  "lot-needed": at(422, (p) => `Enter the lot: ${p.code} is tracked by lot.`),
  "lot-not-tracked": at(422, (p) => `${p.code} is not tracked by lot; leave this empty.`),
  "not-built": at(
    422,
    (p) =>
      `${p.code} is ${p.kind === "service" ? "a service" : p.kind === "kit" ? "a kit" : "bought"}, so it has no parts list. Only built items have one.`,
  ),
  "not-stock-tracked-tracking": at(
    422,
    () => "An item that is not stock-tracked has no lots or serials: choose “none”.",
  ),
  "not-kit": at(422, (p) => `${p.code} isn't a kit. Only a kit has contents.`),
  "not-stocked": at(
    422,
    (p) =>
      `${p.code} is ${p.kind === "service" ? "a service" : p.kind === "kit" ? "a kit" : "not stock-tracked"} and has no stock.`,
  ),
  "pack-repeated": at(422, (p) => `There are two packs called ${p.name}.`),
  "part-is-kit": at(422, (p) => `${p.code} is a kit. Use its contents instead.`),
  "part-is-product": at(422, (p) => `${p.code} can't be a part of itself.`),
  "person-for-work": at(422, (p) => `${p.part} isn't a service; only services are done by a person.`),
  "person-unknown": at(422, (p) => `No person called ${p.name}.`),
  "price-follows": at(422, (p) => `The price of ${p.code} is calculated from its contents.`),
  "price-unit": at(
    422,
    (p) =>
      `${p.code} has no unit or pack “${p.per}” that a price can be for. Choose its unit, one of its packs, or a unit that converts to it.`,
  ),
  "preferred-twice": at(422, (p) => `Row ${p.row} is already preferred; only one supplier per item can be.`),
  "parts-circle": at(422, (p) => `This would put the product among its own parts: ${p.path}.`),
  "serial-needed": at(422, (p) => `Enter the serial number: ${p.code} is tracked by serial number.`),
  "serial-not-tracked": at(422, (p) => `${p.code} is not tracked by serial number; leave this empty.`),
  "serial-one": at(422, () => "A serial number is one piece: the quantity is 1."),
  "serial-taken": at(409, (p) => `Serial ${p.serial} is already used: ${p.where}.`),
  "serial-unit": at(422, (p) => `Items with serial numbers are counted in whole units, not in ${p.unit}.`),
  "service-no-tracking": at(422, () => "A service has no lots or serials: choose “none”."),
  "shares-sum": at(
    422,
    (p) => `The recovery shares add up to ${p.total} %. They must add up to 100 %, or all be empty.`,
  ),
  "store-unknown": at(422, (p) =>
    p.store === "" ? "Choose a store." : `There is no store ${p.store}, or it is archived.`,
  ),
  "substitute-same": at(422, (p) => `${p.code} can't replace itself.`),
  "customer-or-group": at(422, () => "Name a customer or a group of customers, one of the two."),
  "customer-unknown": at(422, (p) => `There is no customer ${p.code}.`),
  "supplier-unknown": at(422, (p) => `There is no supplier ${p.code}.`),
  "swap-unit": at(422, (p) => `${p.code} is counted in ${p.unit}, not in ${p.wanted}.`),
  "swaps-needed": at(422, (p) => `Choose which items may replace ${p.code}.`),
  "swaps-not-listed": at(
    422,
    () => "List other items only where the content may be swapped for listed items.",
  ),
  "unit-dimension": at(
    422,
    (p) => `${p.unit} does not convert to ${p.stockUnit}, in which ${p.part} is stocked.`,
  ),
  "unit-unknown": at(422, (p) => `Unknown unit. Use one of: ${p.units}.`),
} as const satisfies Record<ProblemCode, Entry>;

/** Why an item can't be chosen, besides the problems that a row may have. */
export const NOT_SELECTABLE = {
  "not-for-sale": at(422, (p) => `${p.code} is not for sale. Change that in the catalog first.`),
  "not-bought": at(422, (p) => `${p.code} is a kit: order its contents.`),
  "not-work": at(422, (p) => `${p.code} is not work.`),
  "not-wanted": at(
    422,
    (p) => `${p.code} is ${p.kind === "service" ? "a service" : "bought"}: choose a product or a kit.`,
  ),
  "no-list": at(422, (p) => `${p.code} has no parts list yet.`),
} as const satisfies Record<string, Entry>;

const WORDS = { ...PROBLEMS, ...NOT_SELECTABLE };

/** What a person is told of a problem with a row, a field, or the choice of an item. */
export const problemMessage = (code: keyof typeof WORDS, params: ErrorParams = {}): string =>
  WORDS[code].message(params);
