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
  "item-unknown": at(422, (p) => `${p.code} is not in the catalog.`),
  "list-differs": at(
    422,
    (p) => `Row ${p.row} of the same product says “${p.value}” here. Give it once, or the same each time.`,
  ),
  "list-exists": at(409, (p) => `${p.code} has a parts list already.`),
  "list-held": at(422, (p) => `Another row of ${p.code} is wrong, so its whole list is held back.`),
  "lot-needed": at(422, (p) => `${p.code} is kept by lot: which lot?`),
  "lot-not-tracked": at(422, (p) => `${p.code} is not kept by lot; leave this empty.`),
  "not-built": at(
    422,
    (p) =>
      `${p.code} is ${p.kind === "service" ? "work" : "bought"}, so it has no parts list. Only built items have one.`,
  ),
  "not-stocked": at(422, (p) => `${p.code} is work and is never stocked.`),
  "part-is-product": at(422, (p) => `${p.code} cannot be a part of itself.`),
  "parts-circle": at(422, (p) => `This would put the product among its own parts: ${p.path}.`),
  "serial-needed": at(422, (p) => `Each ${p.code} has a serial number: which one?`),
  "serial-not-tracked": at(422, (p) => `${p.code} is not kept by serial number; leave this empty.`),
  "serial-one": at(422, (p) => `Serial ${p.serial} is one piece: the quantity is 1.`),
  "serial-taken": at(409, (p) => `Serial ${p.serial} is used already.`),
  "serial-unit": at(422, (p) => `Items with serial numbers are counted in whole units, not in ${p.unit}.`),
  "service-no-tracking": at(422, () => "Work has no lots or serials: choose “none”."),
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
  "not-json": at(400, () => "The body of the request is no JSON."),
  "too-large": at(413, (p) => `This is more than can be read at once; the limit is ${p.limit} MB.`),
  "unsupported-type": at(415, () => "Send the body as application/json."),
  "not-found": at(404, (p) => `There is no ${p.what} ${p.id}.`),
  "no-route": at(404, (p) => `There is nothing at ${p.path}.`),
  "not-set-up": at(409, () => "This database is still empty: name the company first."),
  "already-set-up": at(409, () => "The company has been set up already."),
  "person-needed": at(400, () => "Say who is working: choose a person at the top right."),
  "person-taken": at(409, (p) => `There is a ${p.name} already.`),
  "key-needed": at(400, () => "A command needs an idempotency-key header."),
  "key-reused": at(409, () => "This idempotency key was used for another request."),
  "time-zone-unknown": at(422, (p) => `${p.zone} is no time zone; write it like Europe/Vienna.`),
  "store-unknown": at(422, (p) => `There is no store ${p.store}.`),
  "amount-too-large": at(422, () => "A figure grows too large to be kept exactly."),
  "kind-in-use": at(409, (p) => `${p.code} has ${p.what}, so its ${p.field} stays as it is.`),
  "not-enough": at(409, (p) => `The books hold too little of ${p.parts}.`),
  "below-zero": at(409, (p) => `This would take ${p.code} below zero.`),
  "no-list": at(422, (p) => `${p.code} has no parts list yet.`),
  "stage-wrong": at(409, (p) => `${p.number} is ${p.stage}: it cannot be ${p.step} now.`),
  "build-empty": at(422, () => "Good and rejected together must be more than zero."),
  "build-too-many": at(422, (p) => `Only ${p.open} ${p.unit} are still to be made.`),
  "line-unknown": at(422, (p) => `This build has no line ${p.line}.`),
  "reason-needed": at(422, () => "Say why they were rejected."),
  "serial-count": at(422, (p) => `${p.good} good units need ${p.good} serial numbers; there are ${p.given}.`),
  "serial-repeated": at(422, (p) => `Given more than once: ${p.serials}.`),
  "day-future": at(422, () => "This day has not come yet."),
  "file-header": at(
    422,
    (p) => `The header is wrong. Missing: ${p.missing}. Not known: ${p.unknown}. Wanted: ${p.wanted}.`,
  ),
  "file-shape": at(422, (p) => `This is no CSV file: ${p.why}`),
  "file-too-large": at(413, (p) => `The file has ${p.size} MB; the limit is ${p.limit} MB.`),
  "file-none": at(422, () => "Choose at least one file."),
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
