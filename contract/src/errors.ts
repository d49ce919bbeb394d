import type { ErrorAnswer, FieldError } from "./erroranswer.ts";
import { at, type Entry, type ErrorParams, NOT_SELECTABLE, PROBLEMS } from "./problems.ts";

/** Every error the server can answer with: one catalogue, one handler. */
export const ERRORS = {
  ...PROBLEMS,
  ...NOT_SELECTABLE,
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
      ? `An amount in ${p.currency} is a whole number.`
      : `An amount in ${p.currency} may have up to ${p.allowed} decimals.`,
  ),
  "firm-archived": at(422, (p) => `${p.name} is archived. Make it active again first.`),
  "store-taken": at(409, (p) => `Another store or workplace is already called ${p.name}.`),
  "bin-taken": at(409, (p) => `${p.store} already has a bin ${p.bin}.`),
  "bin-counted": at(409, (p) => `${p.number} counts bin ${p.bin}. Post or cancel that count first.`),
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
  "no-such-bin": at(422, (p) => `${p.store} has no bin ${p.bin}.`),
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
  "written-otherwise": at(
    409,
    (p) => `${p.what === "lot" ? "Lot" : "Serial"} ${p.code} is known as ${p.known}. Enter it like that.`,
  ),
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
  "substitute-too-many": at(409, (p) => `Only ${p.open} ${p.unit} of ${p.code} are still to be handed out.`),
  "substitute-at-finish": at(
    409,
    (p) => `Some of ${p.number} is finished already. Take the substitute when you finish the rest.`,
  ),
  "substitute-unknown": at(409, (p) => `${p.code} was not taken as a substitute while picking ${p.number}.`),
  "substitute-handed-out": at(
    409,
    (p) => `${p.quantity} ${p.unit} of ${p.code} are handed out already. Undo that first.`,
  ),
  "return-of-nobody": at(422, () => "Choose the shipment it came with, or the customer."),
  "return-before-shipment": at(422, (p) => `${p.number} was shipped on ${p.day} only.`),
  "return-not-shipped": at(409, (p) => `${p.piece} did not leave with ${p.number}.`),
  "return-too-many": at(409, (p) => `Only ${p.open} ${p.unit} of ${p.piece} are still with the customer.`),
  "return-credit-needed": at(422, () => "Enter what is credited; 0 for nothing."),
  "return-credit-given": at(422, () => "The credit follows from what was paid."),
  "return-undone": at(409, (p) => `${p.number} is undone.`),
  "day-before-return": at(422, (p) => `It came back on ${p.day} only.`),
  "return-inspected": at(409, (p) => `Some of ${p.number} is inspected already. Undo that first.`),
  "return-replaced": at(409, (p) => `${p.number} is replaced by ${p.order} already.`),
  "return-inspect-too-many": at(
    409,
    (p) => `Only ${p.open} ${p.unit} of ${p.piece} are still to be inspected.`,
  ),
  "inspection-undone": at(409, () => "This is undone already."),
  "scrap-reason": at(422, () => "Enter why it is scrapped."),
  "shipment-returned": at(409, (p) => `Some of ${p.number} came back with ${p.returns}. Undo that first.`),
  "take-apart-built": at(422, (p) => `${p.code} is not built: choose a product.`),
  "take-apart-other-build": at(422, (p) => `${p.number} did not make ${p.code}.`),
  "take-apart-none-made": at(409, (p) => `Nothing of ${p.number} is made yet.`),
  "take-apart-of-build": at(409, (p) => `Only ${p.left} ${p.unit} of ${p.number} are not taken apart yet.`),
  "take-apart-build-says": at(
    422,
    () => "The build says what is inside. Choose no build to go by a parts list.",
  ),
  "take-apart-sum": at(422, (p) => `Good, damaged and missing must add up to ${p.expected} ${p.unit}.`),
  "inspection-reworked": at(409, () => "This went into a rework. Undo the rework."),
  "rework-finished": at(409, (p) => `${p.number} is finished. Undo its finish first.`),
  "rework-not-finished": at(409, (p) => `${p.number} is not finished.`),
  "rework-customer-needed": at(422, () => "Choose the customer whose own it is."),
  "rework-no-customer": at(409, (p) => `${p.number} is for no customer, so it has no quote and no bill.`),
  "rework-theirs-from": at(422, () => "A customer's own unit comes from the customer, not out of our stock."),
  "day-before-rework": at(422, (p) => `The rework began on ${p.day} only.`),
  "rework-place-needed": at(422, () => "Choose where it is."),
  "rework-theirs-back": at(422, () => "A customer's own unit goes back to the customer."),
  "rework-units-all": at(422, (p) => `Say what becomes of all ${p.count} units of ${p.number}.`),
  "rework-steps-open": at(
    409,
    (p) => `${p.number} has steps that are not done: ${p.steps}. Mark them as done, or remove them.`,
  ),
  "rework-parts-planned": at(
    409,
    (p) => `${p.number} has planned parts that are not taken: ${p.parts}. Take them, or remove them.`,
  ),
  "step-removed": at(404, () => "Somebody removed this step meanwhile."),
  "rework-part-taken": at(409, () => "This part is taken already."),
  "rework-unit-unknown": at(422, (p) => `${p.number} has no unit ${p.unit}.`),
  "rework-scrap-reason": at(422, () => "Enter why it is scrapped."),
  "rework-other-tracking": at(
    422,
    (p) => `${p.code} is kept otherwise (${p.tracking}) than what goes in, so its number can't be kept.`,
  ),
  "rework-other-unit": at(422, (p) => `${p.code} is counted in ${p.unit}, not as what goes in.`),
  "rework-parts-none": at(422, () => "Enter at least one good part that is taken out of it."),
  "unit-registered": at(409, (p) => `${p.code} ${p.serial} is with ${p.customer} already.`),
  "step-two-do-it": at(422, () => "One does it: a person, or a subcontractor."),
  "rework-parts-only": at(422, () => "Parts are taken only out of what is scrapped for parts."),
  "step-no-subcontractor": at(409, (p) => `No subcontractor does “${p.what}”.`),
  "step-no-service": at(409, (p) => `Choose which service is ordered for “${p.what}”.`),
  "step-ordered": at(409, (p) => `“${p.what}” is ordered with ${p.number}.`),
  "plan-name-used": at(409, (p) => `There is a starting point ${p.name} already.`),
  "inspection-sent-back": at(409, () => "This went back to its supplier. Undo the return to the supplier."),
  "supplier-return-replaced": at(409, (p) => `${p.number} is replaced by a purchase order already.`),
  "work-needed": at(422, () => "Choose the work that the time was spent on."),
  "work-not-by-time": at(422, (p) => `${p.code} is not measured by time.`),
  "work-no-cost": at(422, (p) => `No cost is known of ${p.code}.`),
  "charge-no-return": at(422, () => "Only what comes from a customer's return can be charged."),
  "inspection-taken-apart": at(409, () => "This is taken apart. Undo the take-apart."),
  "not-substitute": at(422, (p) => `${p.by} isn't a substitute for ${p.part}.`),
  cancelled: at(409, () => "Stopped. Nothing was saved."),
  "job-running": at(409, (p) => `${p.job} is already running.`),
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
  "hand-out-too-many": at(422, (p) => `${p.number} has fewer units left that parts were not handed out for.`),
  "hand-out-of-round": at(
    409,
    (p) => `${p.number} was fetched in ${p.round}. Undo its fetches there, one by one.`,
  ),
  "no-certificate": at(404, () => "This server has no certificate of its own."),
  "built-here": at(409, (p) => `${p.serial} was built as ${p.number}, which says what is in it.`),
  "not-itself": at(422, (p) => `${p.code} can't be inside itself.`),
  "email-needed": at(422, () => "Enter the e-mail address that messages go to."),
  "piece-needed": at(422, () => "Enter a lot or a serial number, and not both."),
  "no-bins": at(409, (p) => `${p.store} has no bins yet.`),
  "nothing-to-count": at(409, () => "Nothing is in stock there that is to be counted."),
  "count-too-long": at(422, (p) => `A count sheet has up to ${p.most} lines. Choose fewer bins or items.`),
  "count-ended": at(409, (p) => `${p.number} is ${p.state} already.`),
  "count-line-there": at(409, (p) => `${p.code} in ${p.bin} is on the sheet already.`),
  "nothing-counted": at(409, (p) => `Nothing was counted on ${p.number} yet.`),
  "count-changed": at(
    409,
    (p) =>
      `${p.number} was changed meanwhile, by an entry, a movement or a cost. Look at it again, then post it.`,
  ),
  "count-overtaken": at(
    409,
    (p) => `More ${p.code} has left ${p.bin} since it was counted than was counted there. Count it again.`,
  ),
  "document-not-undone": at(409, (p) => `${p.document} can't be undone here.`),
  "document-undone": at(409, (p) => `${p.document} was undone already.`),
  "packed-differs": at(409, (p) => `${p.packed} of ${p.code} are packed, ${p.found} were scanned.`),
  "packed-more": at(409, (p) => `More was scanned than is packed for ${p.number}.`),
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
  "expiry-before-made": at(422, () => "The use-by day is before the day it was made."),
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
