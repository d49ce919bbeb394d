import { DATE_STYLES } from "@yosegi/core";
import { longText, version } from "./fields.ts";
import { ask, replace } from "./route.ts";
import { z } from "./zod.ts";

/** The words of papers and letters for customers, as they are until a company writes others; `{names}` are filled in. */
export const PAPER_WORDS = {
  sender: "",
  "quote title": "Quote",
  "quote opening": "",
  "quote closing": "",
  "confirmation title": "Order confirmation",
  "confirmation opening": "Thank you for your order.",
  "confirmation closing": "",
  "delivery note title": "Delivery note",
  "delivery note opening": "",
  "delivery note closing": "",
  "bill title": "Pro forma bill",
  "bill opening": "",
  "bill closing": "This is not a tax invoice.",
  "credit title": "Credit",
  "credit opening": "",
  "credit closing": "This is not a tax document.",
  "account title": "Account of work done",
  "account opening": "",
  "account closing": "",
  "restocking fee": "Restocking fee",
  "damaged or missing": "Damaged or missing parts",
  shipment: "Shipment",
  date: "Date",
  order: "Order",
  reference: "Your reference",
  "deliver to": "Deliver to",
  "valid until": "Valid until",
  "delivery date": "Delivery",
  item: "Item",
  quantity: "Quantity",
  price: "Price",
  less: "less",
  total: "Total",
  tax: "Tax",
  "total with tax": "Total with tax",
  terms: "Terms",
  parcels: "Parcels",
  weight: "Weight",
  lot: "Lot",
  "serial number": "Serial number",
  "in part": "in part",
  "to follow": "Still to follow",
  "letter opening": "Dear {name},",
  "quote letter": "please find attached our quote {number}.",
  "confirmation letter": "please find attached our confirmation of your order {number}.",
  "credit letter": "please find attached the credit for what you sent back, {number}.",
  "shipment letter": "please find attached the papers of shipment {number} of your order {order}.",
  "rework letter": "please find attached the papers of our work on what you sent us, {number}.",
  "letter closing": "With kind regards,\n{person}\n{company}",
} as const;
export type PaperWord = keyof typeof PAPER_WORDS;
const NAMES = Object.keys(PAPER_WORDS) as [PaperWord, ...PaperWord[]];

const words = z.partialRecord(z.enum(NAMES), longText("The text", 1000));

export const paperRoutes = {
  paperSettings: ask("/api/papers", {
    permission: "look",
    summary: "What papers and letters for customers say, and how they write dates",
    answer: z.object({
      dates: z.enum(DATE_STYLES),
      words: z.record(z.enum(NAMES), z.string()),
      version,
    }),
  }),
  setPapers: replace("/api/papers", {
    permission: "company",
    summary: "Say what papers for customers say; what is left out is as it was delivered",
    body: z.object({
      dates: z.enum(DATE_STYLES, { error: `A date is written as one of: ${DATE_STYLES.join(", ")}.` }),
      words,
    }),
    answer: z.object({ version }),
  }),
};
