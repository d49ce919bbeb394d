import { documentBrief, itemBrief } from "./brief.ts";
import {
  code,
  costFigure,
  day,
  email,
  id,
  longText,
  name,
  pageEnd,
  pageQuery,
  price,
  priceFigure,
  ref,
  short,
  version,
} from "./fields.ts";
import { orderStage } from "./orders.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

export const FIRM_KINDS = ["supplier", "customer"] as const;
export type FirmKind = (typeof FIRM_KINDS)[number];

export const customerGroup = short("The group");

const firmFields = {
  name,
  address: longText("The address", 500),
  contact: name.or(z.literal("")),
  email,
  phone: short("The phone number"),
  terms: longText("The terms", 500),
};
/** What counts when an order is taken of a customer. */
const customerTerms = {
  note: longText("The note", 2000).default("").meta({ description: "Shown when an order is taken" }),
  onHold: z.boolean().default(false).meta({ description: "Orders are taken only by going on anyway" }),
  creditLimit: price
    .nullable()
    .default(null)
    .meta({ description: "Most that open orders and unpaid shipments may come to; null: no limit" }),
  taxExempt: z.boolean().default(false).meta({ description: "Pays no tax, whatever the item" }),
  group: customerGroup.default("").meta({ description: "Of customers that have a price list together" }),
};
export const firmBody = z.object({ code, ...firmFields, ...customerTerms, archived: z.boolean() });
export type FirmBody = z.infer<typeof firmBody>;

export const firm = z
  .object({
    id: ref,
    kind: z.enum(FIRM_KINDS),
    code: z.string(),
    name: z.string(),
    address: z.string(),
    contact: z.string(),
    email: z.string(),
    phone: z.string(),
    terms: z.string(),
    archived: z.boolean(),
    note: z.string(),
    onHold: z.boolean(),
    creditLimit: priceFigure.nullable(),
    taxExempt: z.boolean(),
    group: z.string(),
    items: z.int().meta({ description: "Items that a supplier supplies" }),
  })
  .meta({ id: "Firm" });
export type Firm = z.infer<typeof firm>;

export const firmSheet = firm
  .extend({
    version,
    supplies: z.array(
      itemBrief.extend({
        theirCode: z.string(),
        price: costFigure.nullable(),
        pricePer: z.string(),
        leadDays: z.int().nullable(),
        preferred: z.boolean(),
      }),
    ),
    priceLists: z
      .array(z.object({ id: ref, of: z.enum(["customer", "group"]), prices: z.int() }))
      .meta({ description: "The price lists that count for a customer, their own first" }),
    orders: z
      .array(documentBrief.extend({ stage: orderStage, due: day.nullable(), lines: z.int() }))
      .meta({ description: "What a customer ordered, the latest first" }),
  })
  .meta({ id: "FirmSheet" });
export type FirmSheet = z.infer<typeof firmSheet>;

const kind = z.enum(FIRM_KINDS);

export const firmRoutes = {
  firms: ask("/api/firms", {
    permission: "look",
    summary: "Suppliers or customers",
    query: z.object({ kind, ...pageQuery }),
    answer: z.object({ firms: z.array(firm), ...pageEnd }),
  }),
  firm: ask("/api/firms/:id", {
    permission: "look",
    summary: "One supplier or customer",
    params: z.object({ id }),
    answer: firmSheet,
  }),
  newFirm: command("/api/firms", {
    permission: "firms",
    summary: "Make a supplier or customer",
    body: firmBody.omit({ archived: true }).extend({ kind }),
    answer: firm,
  }),
  changeFirm: replace("/api/firms/:id", {
    permission: "firms",
    summary: "Change a supplier or customer",
    params: z.object({ id }),
    body: firmBody,
    answer: firm,
  }),
  removeFirm: command("/api/firms/:id/remove", {
    permission: "firms",
    summary: "Remove a supplier or customer that nothing names",
    params: z.object({ id }),
    answer: z.object({}),
  }),
};
