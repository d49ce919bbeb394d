import type { ProblemCode } from "@yosegi/core";
import { z } from "zod";

/** What a message needs to say what was wrong and what is allowed. */
export type ErrorParams = Record<string, string | number>;

interface Entry {
  status: number;
  message: (params: ErrorParams) => string;
}

const at = (status: number, message: Entry["message"]): Entry => ({ status, message });

/** Messages for single rows and fields: the core finds the problem, the words are here. */
const PROBLEMS = {
  archived: at(422, (p) => `${p.code} is archived. Bring it back first: change its state in the catalog.`),
  "barcode-taken": at(409, (p) => `${p.code} has this barcode already.`),
  "bin-without-store": at(422, () => "A bin needs its store: fill in the store too."),
  "code-repeated": at(422, (p) => `Row ${p.row} has this code already.`),
  "code-taken": at(
    409,
    (p) => `${p.code} is in the catalog already. Codes that differ only in case are the same.`,
  ),
  "cost-needed": at(422, (p) => `What does one cost? ${p.code} has no standard cost to fall back on.`),
  decimals: at(422, (p) =>
    p.allowed === 0
      ? `A quantity in ${p.unit} is a whole number.`
      : `A quantity in ${p.unit} may have up to ${p.allowed} decimals.`,
  ),
  "expiry-differs": at(422, (p) => `Lot ${p.lot} is known with another expiry day: ${p.expiry}.`),
  "expiry-without-lot": at(422, () => "Only a lot expires: fill in the lot, or leave the expiry out."),
  "has-stock": at(
    422,
    (p) => `${p.code} has movements on the books already; opening stock is only for new items.`,
  ),
  "in-use": at(
    409,
    (p) =>
      `${p.code} has ${p.what}, so its ${p.field} stays as it is. Copy it to a new item and change that.`,
  ),
  "item-unknown": at(422, (p) => `${p.code} is not in the catalog.`),
  "list-differs": at(
    422,
    (p) => `Row ${p.row} of the same product says “${p.value}” here. Give it once, or the same each time.`,
  ),
  "kit-no-tracking": at(422, () => "A kit is never stocked, so it has no lots or serials: choose “none”."),
  "kit-not-bought": at(422, (p) => `${p.code} is a kit: it is put together from its contents, not bought.`),
  "kit-unit": at(422, (p) => `Kits are sold in whole sets, not by the ${p.unit}.`),
  "list-held": at(422, (p) => `Another row of ${p.code} is wrong, so it is held back whole.`),
  "lot-needed": at(422, (p) => `${p.code} is kept by lot: which lot?`),
  "lot-not-tracked": at(422, (p) => `${p.code} is not kept by lot; leave this empty.`),
  "not-built": at(
    422,
    (p) =>
      `${p.code} is ${p.kind === "service" ? "work" : p.kind === "kit" ? "a kit" : "bought"}, so it has no parts list. Only built items have one.`,
  ),
  "not-stock-tracked-tracking": at(422, () => "What is not counted has no lots or serials: choose “none”."),
  "not-kit": at(422, (p) => `${p.code} is no kit. Only a kit has contents.`),
  "not-stocked": at(
    422,
    (p) =>
      `${p.code} is ${p.kind === "service" ? "work" : p.kind === "kit" ? "a kit" : "not counted"} and is never stocked.`,
  ),
  "pack-repeated": at(422, (p) => `There are two packs called ${p.name}.`),
  "part-is-kit": at(422, (p) => `${p.code} is a kit, a set that is only sold. Name its contents instead.`),
  "part-is-product": at(422, (p) => `${p.code} cannot be a part of itself.`),
  "person-for-work": at(422, (p) => `${p.part} is no work; only work is done by a person.`),
  "person-unknown": at(422, (p) => `There is no ${p.name} here.`),
  "price-unit": at(
    422,
    (p) =>
      `${p.code} has no unit or pack “${p.per}” that a price can be for. Choose its unit, one of its packs, or a unit that converts to it.`,
  ),
  "preferred-twice": at(422, (p) => `Row ${p.row} is preferred already; one supplier an item is.`),
  "parts-circle": at(422, (p) => `This would put the product among its own parts: ${p.path}.`),
  "serial-needed": at(422, (p) => `Each ${p.code} has a serial number: which one?`),
  "serial-not-tracked": at(422, (p) => `${p.code} is not kept by serial number; leave this empty.`),
  "serial-one": at(422, (p) => `Serial ${p.serial} is one piece: the quantity is 1.`),
  "serial-taken": at(409, (p) => `Serial ${p.serial} is used already: ${p.where}.`),
  "serial-unit": at(422, (p) => `Items with serial numbers are counted in whole units, not in ${p.unit}.`),
  "service-no-tracking": at(422, () => "Work has no lots or serials: choose “none”."),
  "shares-sum": at(
    422,
    (p) => `The recovery shares add up to ${p.total} %. They add up to 100 %, or are all left empty.`,
  ),
  "store-unknown": at(422, (p) => `There is no store ${p.store}, or it is archived.`),
  "substitute-same": at(422, (p) => `${p.code} cannot stand in for itself.`),
  "supplier-unknown": at(422, (p) => `There is no supplier ${p.code}.`),
  "swap-unit": at(422, (p) => `${p.code} is counted in ${p.unit}, not in ${p.wanted}.`),
  "swaps-needed": at(422, (p) => `Which items may take the place of ${p.code}?`),
  "swaps-not-listed": at(
    422,
    () => "Name other items only where the content may change to one of those named.",
  ),
  "unit-dimension": at(
    422,
    (p) => `${p.unit} does not convert to ${p.stockUnit}, in which ${p.part} is stocked.`,
  ),
  "unit-unknown": at(422, (p) => `This unit is not known. There are: ${p.units}.`),
} as const satisfies Record<ProblemCode, Entry>;

/** Every error the server can answer with: one catalogue, one handler. */
export const ERRORS = {
  ...PROBLEMS,
  "invalid-input": at(400, () => "Some of this cannot be right; see the fields."),
  "text-unreadable": at(400, () => "This text has a character that can't be read."),
  "not-json": at(400, () => "The body of the request is no JSON."),
  "too-large": at(413, (p) => `This is more than can be read at once; the limit is ${p.limit} MB.`),
  "unsupported-type": at(415, () => "Send the body as application/json."),
  "host-unknown": at(
    403,
    (p) => `This server is not called ${p.host}. Name it in YOSEGI_HOSTS where it is started, if it is.`,
  ),
  "origin-foreign": at(403, (p) => `A page of ${p.origin} may not ask this server for anything.`),
  "not-found": at(404, (p) => `There is no ${p.what} ${p.id}.`),
  "no-route": at(404, (p) => `There is nothing at ${p.path}.`),
  "not-set-up": at(409, () => "This database is still empty: name the company first."),
  "already-set-up": at(409, () => "The company has been set up already."),
  "person-needed": at(400, () => "Say who is working: choose a person at the top right."),
  "person-taken": at(409, (p) => `There is a ${p.name} already.`),
  "key-needed": at(400, () => "A command needs an idempotency-key header."),
  stale: at(409, (p) => `${p.person} changed this at ${p.time}, after you opened it.`),
  "key-reused": at(409, () => "This idempotency key was used for another request."),
  "time-zone-unknown": at(422, (p) => `${p.zone} is no time zone; write it like Europe/Vienna.`),
  "amount-too-large": at(422, () => "A figure grows too large to be kept exactly."),
  "item-used": at(
    409,
    (p) => `${p.code} has ${p.what}, so it stays. Archive it: then it is offered nowhere.`,
  ),
  "archive-used": at(409, (p) => `${p.code} cannot be archived yet: ${p.what}.`),
  "currency-decimals": at(422, (p) =>
    p.allowed === 0
      ? `A price in ${p.currency} is a whole number.`
      : `A price in ${p.currency} may have up to ${p.allowed} decimals.`,
  ),
  "firm-archived": at(422, (p) => `${p.name} is archived. Bring it back first: change its state.`),
  "store-taken": at(409, (p) => `Another store or workplace is called ${p.name} already.`),
  "bin-taken": at(409, (p) => `${p.store} has a bin ${p.bin} already.`),
  "store-used": at(409, (p) => `${p.name} can't be archived: ${p.what}.`),
  "bin-used": at(409, (p) => `${p.bin} stays: ${p.what}.`),
  "last-one": at(409, (p) => `${p.name} is the only ${p.what}, so it stays.`),
  "person-working": at(409, (p) => `You are ${p.name} on this device. Switch to somebody else first.`),
  "currency-posted": at(
    409,
    () =>
      "Stock is recorded in the old currency, so it stays. A company with another one begins with a new database.",
  ),
  "currency-prices": at(
    409,
    (p) => `${p.what} has a price with more decimals than ${p.currency} allows. Change that first.`,
  ),
  "still-used": at(409, () => "Something else still uses this, so it stays."),
  "receive-empty": at(
    422,
    () => "Nothing was received: fill in a quantity, or close what is not coming any more.",
  ),
  "count-not-part": at(422, (p) => `${p.code} is no part of this build, so it is not counted here.`),
  "bin-unknown": at(
    422,
    (p) => `${p.store} has no bin ${p.bin}. Choose one of its bins, or say that it is a new one.`,
  ),
  "file-in-message": at(409, () => "This file belongs to a message in the outbox, so it stays."),
  "split-too-few": at(
    409,
    (p) => `${p.number} is to give ${p.rest} ${p.unit} more: too few to be split like this.`,
  ),
  "firm-taken": at(409, (p) => `${p.name} has the code ${p.code} already.`),
  "name-taken": at(409, (p) => `There is a ${p.name} already.`),
  "unit-taken": at(409, (p) => `There is a unit ${p.code} already.`),
  "unit-in-use": at(409, (p) => `${p.code} is used by ${p.what}, so its ${p.field} stays as it is.`),
  "unit-decimals": at(
    409,
    (p) => `${p.decimals} decimals are too few for what is there: ${p.places}. Change these first.`,
  ),
  "supplier-repeated": at(422, (p) => `${p.code} stands here twice.`),
  "custom-number": at(422, (p) => `${p.name} is a number. Write it like 12.5.`),
  "custom-day": at(422, (p) => `${p.name} is a day. Write it like 2026-12-31.`),
  "custom-yes": at(422, (p) => `${p.name} is yes or no.`),
  "file-type": at(422, () => "A picture is a PNG, JPEG or WebP file; this is none of these."),
  "revision-state": at(409, (p) => `Revision ${p.number} is ${p.state}: it cannot be ${p.step}.`),
  "revision-built": at(409, (p) => `Revision ${p.number} was used by ${p.builds}, so it stays.`),
  "revision-only": at(
    409,
    (p) => `${p.code} would have no list to be built from. Lock another revision first.`,
  ),
  "start-day": at(422, () => "From which day is it used?"),
  "start-part": at(422, () => "Which part must have run out?"),
  "price-follows": at(422, (p) => `The price of ${p.code} follows from its contents.`),
  "replace-same": at(422, () => "Choose another item as the successor."),
  "replace-nothing": at(422, () => "Choose at least one list or kit."),
  "replace-changed": at(409, (p) => `${p.code} has changed since: ${p.why}. Look at it again.`),
  "replace-undone": at(409, () => "This replacement has been undone already."),
  "replace-blocked": at(409, (p) => `This can no longer be undone: ${p.why}.`),
  "replace-inexact": at(422, (p) => `The quantity of ${p.part} would have to be rounded.`),
  "not-enough": at(409, (p) => `The books hold too little of ${p.parts}.`),
  "serial-elsewhere": at(
    409,
    (p) => `Serial ${p.serial} is ${p.where}. One number is one unit; check the number.`,
  ),
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
  "price-same": at(422, (p) => `This is the price that ${p.code} has in this receipt.`),
  "receipt-undone": at(409, (p) => `${p.number} has been undone already.`),
  "over-delivery": at(
    409,
    (p) => `${p.code}: ${p.open} ${p.unit} were still to come. Keep the ${p.more} more?`,
  ),
  "lots-sum": at(422, (p) => `The lots of ${p.code} add up to ${p.given}, not to ${p.quantity}.`),
  "line-ended": at(409, (p) => `Nothing of ${p.code} is waited for any more.`),
  "supplier-none": at(422, (p) => `Nobody supplies ${p.code} yet: say who, in the catalog.`),
  "not-supplier": at(422, (p) => `${p.name} does not supply ${p.code}.`),
  "pack-unknown": at(422, (p) => `${p.code} has no pack called ${p.pack}.`),
  "not-bought": at(422, (p) => `${p.code} is a kit: order what is in it.`),
  "not-substitute": at(422, (p) => `${p.by} may not be taken instead of ${p.part}.`),
  cancelled: at(409, () => "It was stopped. Nothing was written."),
  "job-running": at(409, (p) => `${p.job} is the name of something that runs already.`),
  "not-wanted": at(
    422,
    (p) => `${p.code} is ${p.kind === "service" ? "work" : "bought"}: check a product or a kit.`,
  ),
  "no-list": at(422, (p) => `${p.code} has no parts list yet.`),
  "stage-wrong": at(409, (p) => `${p.number} is ${p.stage}: it cannot be ${p.step} now.`),
  "build-empty": at(422, () => "Good and rejected together must be more than zero."),
  "build-too-many": at(422, (p) => `Only ${p.open} ${p.unit} are still to be made.`),
  "build-begun": at(409, (p) => `Some of ${p.number} is made or handed out; ${p.why}.`),
  "build-as-it-is": at(
    409,
    (p) =>
      `${p.number} is ${p.stage}: its ${p.field} can no longer change. Move it back to draft, or split it.`,
  ),
  "order-ended": at(409, (p) => `${p.number} is ${p.stage}: nothing of it changes any more.`),
  "order-builds-none": at(409, (p) => `${p.number} misses nothing that could be built.`),
  "line-linked": at(409, (p) => `${p.builds} works for this line. Unlink it there first.`),
  "link-other": at(422, (p) => `${p.number} does not ask for ${p.code}.`),
  "link-nothing": at(409, (p) => `${p.number} has nothing left: ${p.why}.`),
  "link-too-many": at(422, (p) => `Up to ${p.most} ${p.unit} can be linked.`),
  "split-too-many": at(422, (p) => `${p.number} has ${p.open} ${p.unit} still to be made; leave some of it.`),
  "join-differs": at(409, (p) => `${p.other} cannot be put into ${p.number}: ${p.why}.`),
  "nothing-to-hand-out": at(409, (p) => `${p.number} has nothing left to be handed out.`),
  "nothing-made": at(409, (p) => `Nothing of ${p.number} has been finished yet.`),
  "nothing-used": at(409, (p) => `${p.number} has used nothing yet, so there is nothing to take over.`),
  "scrapped-too-much": at(422, (p) => `Only ${p.used} ${p.unit} were used.`),
  "waste-reason": at(422, () => "Say why it was scrapped."),
  "work-sum": at(422, (p) => `${p.given} ${p.unit} of work are told, ${p.used} used.`),
  "serial-part-unknown": at(422, (p) => `${p.part} was not taken for this build.`),
  "code-128": at(422, (p) => `“${p.code}” has letters that Code 128 cannot write. Take a QR code.`),
  "labels-none": at(409, () => "There is no label to print."),
  "line-unknown": at(422, (p) => `This build has no line ${p.line}.`),
  "reason-needed": at(422, () => "Say why they were rejected."),
  "serial-count": at(422, (p) => `${p.good} good units need ${p.good} serial numbers; there are ${p.given}.`),
  "serial-repeated": at(422, (p) => `Given more than once: ${p.serials}.`),
  "day-future": at(422, () => "This day has not come yet."),
  "file-shape": at(422, (p) => `This file cannot be read: ${p.why}`),
  "sheet-too-large": at(
    422,
    (p) =>
      `This workbook is too large to be read: up to ${p.rows} rows and ${p.columns} columns. Save only the rows you need, or as CSV.`,
  ),
  "numbers-unclear": at(
    422,
    (p) => `“${p.example}” can be read in two ways. Say how this file writes decimals: 1.5 or 1,5.`,
  ),
  "file-encoding": at(422, () => "This file is not in UTF-8. Save it again as “CSV UTF-8”, or as XLSX."),
  "file-too-large": at(413, (p) => `The file has ${p.size} MB; the limit is ${p.limit} MB.`),
  "file-twice": at(422, () => "There are two files of this kind; choose one."),
  "import-problems": at(422, (p) => `${p.count} problems: mend the files, or import only the good rows.`),
  "import-changed": at(
    409,
    () => "The catalog has changed since these files were checked. Look at the new result, then confirm.",
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

  constructor(
    code: ErrorCode,
    params: ErrorParams = {},
    fields: FieldError[] = [],
    details: Pick<ErrorAnswer, "shorts" | "largest"> = {},
  ) {
    super(messageOf(code, params));
    this.name = "Refusal";
    this.code = code;
    this.fields = fields;
    this.details = details;
  }

  get status(): number {
    return ERRORS[this.code].status;
  }

  /** Refuses one field: the message stands at it. */
  static at(field: string, code: ErrorCode, params: ErrorParams = {}): Refusal {
    return new Refusal(code, params, [{ field, code, message: messageOf(code, params) }]);
  }
}
