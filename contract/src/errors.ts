import type { ProblemCode } from "@yosegi/core";
import { z } from "./zod.ts";

/** What a message needs to say what was wrong and what is allowed. */
export type ErrorParams = Record<string, string | number>;

interface Entry {
  status: number;
  message: (params: ErrorParams) => string;
}

const at = (status: number, message: Entry["message"]): Entry => ({ status, message });

/** Messages for single rows and fields: the core finds the problem, the words are here. */
const PROBLEMS = {
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
  "store-unknown": at(422, (p) => `There is no store ${p.store}, or it is archived.`),
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

/** Every error the server can answer with: one catalogue, one handler. */
export const ERRORS = {
  ...PROBLEMS,
  "invalid-input": at(400, () => "Please check the marked fields."),
  "text-unreadable": at(400, () => "This text has a character that can't be read."),
  "not-json": at(400, () => "The request's body isn't JSON."),
  "too-large": at(413, (p) => `This is too large; the limit is ${p.limit} MB.`),
  "unsupported-type": at(415, () => "Send the body as application/json."),
  "host-unknown": at(
    403,
    (p) => `This server is not called ${p.host}. Name it in YOSEGI_HOSTS where it is started, if it is.`,
  ),
  "origin-foreign": at(403, (p) => `A page of ${p.origin} may not ask this server for anything.`),
  "not-found": at(404, (p) => `There is no ${p.what} ${p.id}.`),
  "no-route": at(404, (p) => `There is nothing at ${p.path}.`),
  "not-set-up": at(409, () => "Set up the company first."),
  "already-set-up": at(409, () => "The company is already set up."),
  "person-needed": at(400, () => "Choose who is working at the top right."),
  "person-taken": at(409, (p) => `“${p.name}” already exists.`),
  "key-needed": at(400, () => "A command needs an idempotency-key header."),
  stale: at(409, (p) => `${p.person} changed this at ${p.time}, after you opened it.`),
  "key-reused": at(409, () => "This idempotency key was used for another request."),
  "time-zone-unknown": at(422, (p) => `${p.zone} isn't a time zone; write it like Europe/Vienna.`),
  "amount-too-large": at(422, () => "That number is too large."),
  "item-used": at(409, (p) => `${p.code} has ${p.what}, so it can't be removed. Archive it instead.`),
  "archive-used": at(409, (p) => `${p.code} can't be archived yet: ${p.what}.`),
  "currency-decimals": at(422, (p) =>
    p.allowed === 0
      ? `A price in ${p.currency} is a whole number.`
      : `A price in ${p.currency} may have up to ${p.allowed} decimals.`,
  ),
  "firm-archived": at(422, (p) => `${p.name} is archived. Make it active again first.`),
  "store-taken": at(409, (p) => `Another store or workplace is already called ${p.name}.`),
  "bin-taken": at(409, (p) => `${p.store} already has a bin ${p.bin}.`),
  "store-used": at(409, (p) => `${p.name} can't be archived: ${p.what}.`),
  "bin-used": at(409, (p) => `Bin ${p.bin} can't be removed: ${p.what}.`),
  "last-one": at(409, (p) => `${p.name} is the only ${p.what}, so it can't be removed or archived.`),
  "person-working": at(409, (p) => `You are ${p.name} on this device. Switch to another person first.`),
  "currency-posted": at(
    409,
    () =>
      "The currency can't change once stock is recorded in it. Start a new database for another currency.",
  ),
  "currency-prices": at(
    409,
    (p) => `${p.what} has a price with more decimals than ${p.currency} allows. Change that first.`,
  ),
  "still-used": at(409, () => "This can't be removed: something else still uses it."),
  "receive-empty": at(
    422,
    () => "Nothing was received: enter a quantity, or close what is no longer expected.",
  ),
  "count-not-part": at(422, (p) => `${p.code} isn't a part of this build, so it can't be counted here.`),
  "bin-unknown": at(422, (p) => `${p.store} has no bin ${p.bin}. Choose one of its bins, or tick “New bin”.`),
  "file-in-message": at(409, () => "This file belongs to a message in the outbox, so it can't be removed."),
  "split-too-few": at(
    409,
    (p) => `${p.number} has only ${p.rest} ${p.unit} left: too few to split like this.`,
  ),
  "firm-taken": at(409, (p) => `${p.name} already has the code ${p.code}.`),
  "name-taken": at(409, (p) => `“${p.name}” already exists.`),
  "unit-taken": at(409, (p) => `Unit ${p.code} already exists.`),
  "unit-in-use": at(409, (p) => `You can't change the ${p.field} of ${p.code}: it is used by ${p.what}.`),
  "unit-decimals": at(
    409,
    (p) =>
      `${p.decimals} ${p.decimals === 1 ? "decimal is" : "decimals are"} too few for what is recorded: ${p.places}. Change these first.`,
  ),
  "supplier-repeated": at(422, (p) => `${p.code} is listed twice.`),
  "custom-number": at(422, (p) => `${p.name} must be a number, like 12.5.`),
  "custom-day": at(422, (p) => `${p.name} must be a date, like 2026-12-31.`),
  "custom-yes": at(422, (p) => `${p.name} must be yes or no.`),
  "file-type": at(422, () => "A picture must be a PNG, JPEG or WebP file."),
  "revision-state": at(409, (p) => `Revision ${p.number} is ${p.state}: it can't be ${p.step}.`),
  "revision-built": at(409, (p) => `Revision ${p.number} was used by ${p.builds}, so it can't be removed.`),
  "revision-only": at(409, (p) => `${p.code} would have no parts list in use. Lock another revision first.`),
  "start-day": at(422, () => "Enter the start date."),
  "start-part": at(422, () => "Choose the old part."),
  "message-too-long": at(413, (p) => `Up to ${p.most} lines are read at once.`),
  "serial-not-in-stock": at(409, (p) => `Serial ${p.serial} is not in stock.`),
  "serial-ordered": at(409, (p) => `${p.number} asks for serial ${p.serial}.`),
  "serial-twice": at(422, (p) => `Serial ${p.serial} is on two lines.`),
  "quote-lapsed": at(
    409,
    (p) => `${p.number} was valid until ${p.day}. Tick “Go on anyway” to order it all the same.`,
  ),
  "quote-not-ordered": at(409, (p) => `${p.number} is a quote. Make it an order first.`),
  "quote-until-needed": at(422, () => "A quote needs a day until which it is valid."),
  "order-no-quote": at(409, (p) => `${p.number} is an order already. Copy it to make a quote.`),
  "price-list-there": at(409, (p) => `${p.who} has a price list. Change that one.`),
  "replace-same": at(422, () => "Choose a different item as the successor."),
  "replace-nothing": at(422, () => "Choose at least one list or kit."),
  "replace-changed": at(409, (p) => `${p.code} has changed meanwhile: ${p.why}. Please check again.`),
  "replace-undone": at(409, () => "This replacement is already undone."),
  "replace-blocked": at(409, (p) => `This can no longer be undone: ${p.why}.`),
  "replace-inexact": at(422, (p) => `The quantity of ${p.part} would have to be rounded.`),
  "not-enough": at(409, (p) => `Not enough stock on record of ${p.parts}.`),
  "serial-elsewhere": at(409, (p) => `Serial ${p.serial} is ${p.where}. Please check the number.`),
  "too-early": at(
    422,
    (p) => `On ${p.day} there was not enough ${p.code} in stock. The earliest day that works is ${p.first}.`,
  ),
  "below-zero": at(409, (p) => `This would take ${p.code} below zero.`),
  "undo-blocked": at(
    409,
    (p) =>
      `This can no longer be undone: ${p.code} has moved since${p.documents === "" ? "" : `, in ${p.documents}`}.`,
  ),
  "count-same": at(422, (p) => `The books say ${p.quantity} too: there is nothing to put right.`),
  "price-same": at(422, (p) => `${p.code} already has this price in the receipt.`),
  "receipt-undone": at(409, (p) => `${p.number} is already undone.`),
  "over-delivery": at(
    409,
    (p) => `${p.more} ${p.unit} more than ordered. Tick “Accept the extra quantity” to keep them.`,
  ),
  "lots-sum": at(422, (p) => `The lots of ${p.code} add up to ${p.given}, not to ${p.quantity}.`),
  "line-ended": at(409, (p) => `Nothing more of ${p.code} is expected.`),
  "supplier-none": at(422, (p) => `${p.code} has no supplier yet: add one in the catalog.`),
  "not-supplier": at(422, (p) => `${p.name} does not supply ${p.code}.`),
  "pack-unknown": at(422, (p) => `${p.code} has no pack called ${p.pack}.`),
  "not-for-sale": at(422, (p) => `${p.code} is not for sale. Change that in the catalog first.`),
  "not-bought": at(422, (p) => `${p.code} is a kit: order its contents.`),
  "not-substitute": at(422, (p) => `${p.by} isn't a substitute for ${p.part}.`),
  cancelled: at(409, () => "Stopped. Nothing was saved."),
  "job-running": at(409, (p) => `${p.job} is already running.`),
  "not-wanted": at(
    422,
    (p) => `${p.code} is ${p.kind === "service" ? "a service" : "bought"}: choose a product or a kit.`,
  ),
  "no-list": at(422, (p) => `${p.code} has no parts list yet.`),
  "stage-wrong": at(409, (p) => `${p.number} is ${p.stage}: it can't be ${p.step} now.`),
  "build-empty": at(422, () => "Good and rejected together must be more than zero."),
  "build-too-many": at(422, (p) => `Only ${p.open} ${p.unit} are still to be made.`),
  "build-begun": at(409, (p) => `Some of ${p.number} is already made or handed out; ${p.why}.`),
  "build-as-it-is": at(
    409,
    (p) =>
      `${p.number} is ${p.stage}: its ${p.field} can no longer change. Move it back to draft, or split it.`,
  ),
  "import-undone": at(409, (p) => `${p.number} is undone already.`),
  "import-used": at(409, (p) => `${p.number} can't be undone any more: ${p.what} since.`),
  "import-back": at(409, (p) => `${p.number} can't be undone any more: ${p.why}`),
  "parts-own": at(
    409,
    (p) => `${p.number} has parts of its own: use its parts list again before you change its ${p.field}.`,
  ),
  "parts-not-own": at(409, (p) => `${p.number} follows its parts list already.`),
  "order-ended": at(409, (p) => `${p.number} is ${p.stage} and can't be changed.`),
  "order-part-shipped": at(409, (p) => `Part of ${p.number} has been shipped. Close the rest instead.`),
  "order-left": at(409, (p) => `Part of ${p.number} has been shipped; its customer stays.`),
  "line-left": at(
    409,
    (p) => `Part of this line of ${p.number} has been shipped. It can't be removed or ask for another item.`,
  ),
  "line-left-price": at(409, (p) => `All of ${p.code} has been shipped or closed; its price can't change.`),
  "quantity-left": at(409, (p) => `${p.left} ${p.unit} have been shipped. The quantity can't be less.`),
  "set-left": at(
    409,
    (p) => `All sets of ${p.code} have been shipped or closed. Raise the quantity to change the next ones.`,
  ),
  "set-in-pieces": at(
    409,
    (p) => `Single pieces of a set of ${p.code} have been shipped. Ship or close the rest of that set first.`,
  ),
  "ship-nothing": at(422, (p) => `Enter what leaves of ${p.number}.`),
  "ship-more-than-open": at(409, (p) => `Only ${p.open} ${p.unit} of ${p.code} are open.`),
  "ship-no-price": at(422, (p) => `${p.code} has no price on this order. Enter one first; 0 if it is free.`),
  "ship-short": at(409, (p) =>
    [
      `${p.there} of ${p.needed} ${p.unit} of ${p.code} are in stock.`,
      p.expired !== "" && `${p.expired} more have expired.`,
      "Ship fewer, or count the bin.",
    ]
      .filter(Boolean)
      .join(" "),
  ),
  "ship-from-others": at(
    409,
    (p) =>
      `${p.quantity} ${p.unit} of ${p.code} are in stock for others: ${p.documents}. Tick “Take it from them” to ship anyway.`,
  ),
  "finish-short": at(
    409,
    (p) =>
      `Not enough stock on record to finish ${p.number}: ${p.parts}. Open its finish to count or use substitutes.`,
  ),
  "build-not-for": at(409, (p) => `This build is not for ${p.number}.`),
  "finished-since": at(
    409,
    (p) => `More of ${p.number} was finished since. Undo that first, or undo the shipment alone.`,
  ),
  "round-ended": at(409, (p) => `${p.number} has ended. Start another round for what is left.`),
  "in-round": at(409, (p) => `${p.number} is in ${p.round}, which ${p.picker} is walking.`),
  "nothing-to-pick": at(409, (p) => `Nothing in stock is to be fetched for ${p.number}.`),
  "not-in-round": at(409, (p) => `${p.code} is not to be fetched in ${p.number}.`),
  "pick-too-many": at(
    409,
    (p) => `${p.wanted} ${p.unit} of ${p.code} are needed. Say that more is taken, or take less.`,
  ),
  "pick-more-for-order": at(
    409,
    (p) => `Orders need ${p.wanted} ${p.unit} of ${p.code}. More can't be packed.`,
  ),
  "pick-not-there": at(
    409,
    (p) => `The books have ${p.there} ${p.unit} of ${p.code} in ${p.bin}. Count the bin, or take less.`,
  ),
  "lot-fixed": at(409, (p) => `Lot ${p.expected} of ${p.code} is to be taken. Enter why it is lot ${p.lot}.`),
  "fetch-nothing": at(422, () => "Enter how many were fetched, or count the bin."),
  "fetch-undone": at(409, () => "This fetch was undone already."),
  "move-same": at(422, () => "It is there already. Choose another bin."),
  "stock-short-here": at(409, (p) => `Only ${p.there} ${p.unit} of ${p.code} are in ${p.bin}.`),
  "document-not-undone": at(409, (p) => `${p.document} can't be undone here.`),
  "document-undone": at(409, (p) => `${p.document} was undone already.`),
  "nothing-packed": at(409, (p) => `Nothing is packed for ${p.number}.`),
  "shipment-undone": at(409, (p) => `${p.number} was undone already.`),
  "not-in-line": at(422, (p) => `This item is not in ${p.line}.`),
  "not-in-stock": at(409, (p) =>
    p.where === "" ? `${p.name} of ${p.code} is not in stock.` : `${p.name} of ${p.code} is ${p.where}.`,
  ),
  "lot-expired": at(409, (p) => `Lot ${p.lot} expired on ${p.day}.`),
  "direct-line": at(409, (p) => `${p.number} goes straight to a customer: change the order to add items.`),
  "direct-receipt": at(409, (p) => `${p.number} goes straight to a customer. Confirm its delivery instead.`),
  "not-direct": at(409, (p) => `${p.number} comes to us. Receive it instead.`),
  "direct-undo": at(
    409,
    (p) => `${p.number} was shipped as ${p.shipment}. Undo that shipment; it undoes both.`,
  ),
  "line-by-supplier": at(
    409,
    (p) => `${p.code} is delivered by its supplier. Confirm the delivery on the purchase order.`,
  ),
  "not-by-supplier": at(422, (p) => `${p.code} isn't bought, so no supplier can deliver it.`),
  "line-at-supplier": at(409, (p) => `${p.number} delivers this line. Cancel it first.`),
  "nothing-open": at(409, (p) => `Nothing of ${p.number} is open.`),
  "nothing-closed": at(409, (p) => `Nothing of ${p.number} was closed.`),
  "order-builds-none": at(409, (p) => `Nothing missing on ${p.number} can be built.`),
  "customer-on-hold": at(409, (p) =>
    [`${p.name} is on hold.`, p.note, "Tick “Go on anyway” to continue."].filter(Boolean).join(" "),
  ),
  "credit-exceeded": at(
    409,
    (p) =>
      `Open orders of ${p.name} would come to ${p.sum}, over the credit limit of ${p.limit}. Tick “Go on anyway” to continue.`,
  ),
  "to-build-too-many": at(
    422,
    (p) => `The line asks for ${p.most} ${p.unit}, so no more can be built for it.`,
  ),
  "kit-price-follows": at(
    422,
    (p) => `The price of ${p.code} follows from its contents. Leave it empty, or give a discount.`,
  ),
  "no-set": at(422, (p) => `${p.code} isn't a kit, so it has no contents to change.`),
  "line-linked": at(409, (p) => `${p.builds} is linked to this line. Unlink it there first.`),
  "link-other": at(422, (p) => `${p.number} has no line for ${p.code}.`),
  "link-nothing": at(409, (p) => `${p.number} has nothing left: ${p.why}.`),
  "link-too-many": at(422, (p) => `Up to ${p.most} ${p.unit} can be linked.`),
  "split-too-many": at(422, (p) => `${p.number} has ${p.open} ${p.unit} left to make; leave some of it.`),
  "join-differs": at(409, (p) => `${p.other} can't be merged into ${p.number}: ${p.why}.`),
  "nothing-to-hand-out": at(409, (p) => `${p.number} has nothing left to hand out.`),
  "nothing-made": at(409, (p) => `Nothing of ${p.number} has been finished yet.`),
  "nothing-used": at(409, (p) => `${p.number} has used nothing yet, so there is nothing to copy.`),
  "scrapped-too-much": at(422, (p) => `Only ${p.used} ${p.unit} were used.`),
  "waste-reason": at(422, () => "Enter why it was scrapped."),
  "work-sum": at(
    422,
    (p) => `Time entered (${p.given} ${p.unit}) doesn't match work used (${p.used} ${p.unit}).`,
  ),
  "serial-part-unknown": at(422, (p) => `${p.part} was not taken for this build.`),
  "code-128": at(422, (p) => `“${p.code}” has letters that Code 128 can't show. Use a QR code.`),
  "labels-none": at(409, () => "No labels to print."),
  "line-unknown": at(422, (p) => `This build has no line ${p.line}.`),
  "reason-needed": at(422, () => "Enter why they were rejected."),
  "serial-count": at(422, (p) => `${p.good} good units need ${p.good} serial numbers; ${p.given} given.`),
  "serial-repeated": at(422, (p) => `Entered more than once: ${p.serials}.`),
  "day-future": at(422, () => "The date is in the future."),
  "file-shape": at(422, (p) => `This file can't be read: ${p.why}`),
  "sheet-too-large": at(
    422,
    (p) =>
      `This workbook is too large to be read: up to ${p.rows} rows and ${p.columns} columns. Save only the rows you need, or as CSV.`,
  ),
  "numbers-unclear": at(
    422,
    (p) => `“${p.example}” can be read in two ways. Choose how this file writes decimals: 1.5 or 1,5.`,
  ),
  "file-encoding": at(422, () => "This file is not in UTF-8. Save it again as “CSV UTF-8”, or as XLSX."),
  "file-too-large": at(413, (p) => `The file has ${p.size} MB; the limit is ${p.limit} MB.`),
  "file-twice": at(422, () => "There are two files of this kind; choose one."),
  "import-problems": at(422, (p) => `${p.count} problems: fix the files, or import only the good rows.`),
  "import-changed": at(
    409,
    () => "The catalog has changed since these files were checked. Check the new result, then confirm.",
  ),
  "import-nothing": at(422, () => "There is no good row to import."),
  unexpected: at(500, (p) => `Something went wrong on our side. It is in the log under ${p.reference}.`),
} as const satisfies Record<string, Entry>;

export type ErrorCode = keyof typeof ERRORS;

export function messageOf(code: ErrorCode, params: ErrorParams = {}): string {
  return ERRORS[code].message(params);
}

export const fieldError = z.object({
  field: z.string().meta({ description: "Path of the field in the body, such as lines.0.quantity" }),
  code: z.string(),
  message: z.string(),
});
export type FieldError = z.infer<typeof fieldError>;

/** A part that a build cannot get enough of, as told with `not-enough`. */
export const partShort = z.object({
  item: z.int(),
  code: z.string(),
  name: z.string(),
  unit: z.string(),
  needed: z.string(),
  there: z.string(),
  short: z.string(),
});

export const errorAnswer = z
  .object({
    code: z.string(),
    message: z.string(),
    fields: z.array(fieldError),
    shorts: z.array(partShort).optional(),
    largest: z
      .string()
      .optional()
      .meta({ description: "With not-enough: the largest quantity that could be finished" }),
  })
  .meta({ id: "Error" });
export type ErrorAnswer = z.infer<typeof errorAnswer>;

/** Thrown by services and turned into an answer by the one handler. */
export class Refusal extends Error {
  readonly code: ErrorCode;
  readonly fields: FieldError[];
  readonly details: Pick<ErrorAnswer, "shorts" | "largest">;
  readonly #params: ErrorParams;

  constructor(
    code: ErrorCode,
    params: ErrorParams = {},
    fields: FieldError[] = [],
    details: Pick<ErrorAnswer, "shorts" | "largest"> = {},
  ) {
    super(messageOf(code, params));
    this.name = "Refusal";
    this.code = code;
    this.#params = params;
    this.fields = fields;
    this.details = details;
  }

  get status(): number {
    return ERRORS[this.code].status;
  }

  /** The same refusal of what stands at a path of a larger body. */
  under(path: string): Refusal {
    const fields = this.fields.map((error) => ({ ...error, field: `${path}.${error.field}` }));
    return new Refusal(this.code, this.#params, fields, this.details);
  }

  /** Refuses one field: the message stands at it. */
  static at(field: string, code: ErrorCode, params: ErrorParams = {}): Refusal {
    return new Refusal(code, params, [{ field, code, message: messageOf(code, params) }]);
  }
}
