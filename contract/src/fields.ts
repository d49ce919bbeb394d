import {
  decimal,
  decimalsOf,
  isDay,
  LOT_PATTERN_WORDS,
  lotPatternFault,
  MONEY_DECIMALS,
  QUANTITY_DECIMALS,
} from "@yosegi/core";
import { type Amount, asAmount } from "./amounts.ts";
import { marked } from "./marks.ts";
import { z } from "./zod.ts";

/** No typed amount is larger, so that sums of them still fit the database. */
export const LARGEST_AMOUNT = "999999999";

/**
 * A screen puts this before text that is no number in the person's language, so that it is not taken for one in another:
 * "251.4" is no German number, and must not become one on its way. Messages quote the text without it.
 */
export const UNREADABLE = "\u200b";

/** How a number is written; a page says it as the device writes numbers. */
export const NUMBER_HINT = "Write it like 12.5.";

interface AmountRule {
  decimals: number;
  least: "above zero" | "zero" | "any";
  what: string;
}

function amount({ decimals, least, what }: AmountRule): Amount {
  const schema = z
    .string({ error: `${what} is missing.` })
    .trim()
    .regex(/^-?\d{1,15}(\.\d{1,15})?$/, {
      abort: true,
      error: (issue) =>
        issue.input === ""
          ? `${what} is missing.`
          : `“${String(issue.input).replace(UNREADABLE, "").slice(0, 40)}” is not a number. ${NUMBER_HINT}`,
    })
    .superRefine((text, ctx) => {
      const value = decimal(text);
      const refuse = (message: string) => ctx.addIssue({ code: "custom", message, input: text });
      if (least === "zero" && value.lt(0)) refuse(`${what} cannot be below zero.`);
      if (least === "above zero" && value.lte(0)) refuse(`${what} must be more than zero.`);
      if (decimalsOf(value) > decimals) refuse(`${what} may have up to ${decimals} decimals.`);
      if (value.abs().gt(LARGEST_AMOUNT)) refuse(`${what} may be up to ${LARGEST_AMOUNT}.`);
    })
    .meta({ description: `${what}: an exact decimal as text, up to ${decimals} decimals` });
  return asAmount(schema);
}

export const quantity = amount({ decimals: QUANTITY_DECIMALS, least: "above zero", what: "The quantity" });
export const quantityOrZero = amount({ decimals: QUANTITY_DECIMALS, least: "zero", what: "The quantity" });
export const weight = amount({ decimals: QUANTITY_DECIMALS, least: "above zero", what: "The weight" });
export const cost = amount({ decimals: MONEY_DECIMALS, least: "zero", what: "The cost" });
export const credit = amount({ decimals: MONEY_DECIMALS, least: "zero", what: "The credit" });
/** A sales price: as many decimals as the company's currency has, which the server knows. */
export const price = amount({ decimals: MONEY_DECIMALS, least: "zero", what: "The price" });

/** A percentage of which there is a most; what is no number at all is said by `amount`. */
const upTo = (most: number, tooMuch: string, limits: Parameters<typeof amount>[0]) =>
  amount(limits).refine((text) => !/^\d+(\.\d+)?$/.test(text) || decimal(text).lte(most), tooMuch);

export const percent = upTo(1000, "Waste can't be more than 1000 %.", {
  decimals: 4,
  least: "zero",
  what: "The percentage",
});

/** Of started units that come out good. */
export const yieldPercent = upTo(100, "Not more than 100 % can come out good.", {
  decimals: 6,
  least: "above zero",
  what: "The yield",
});
const upToAll = (name: string) =>
  upTo(100, `A ${name} is 100 % at most.`, { decimals: 4, least: "zero", what: `The ${name}` });

/** A share or a reduction of up to all of it. */
export const share = upToAll("share");
/** Of a line of an order. */
export const discount = upToAll("discount");
/** Percent of a net price. */
export const taxRate = upToAll("tax rate");

/** Refuses a list that names one thing twice, at the second place; what has no key yet may stand there often. */
export const once =
  <T>(key: (entry: T) => string | number | null, what: string): z.core.CheckFn<T[]> =>
  ({ value, issues }) => {
    const seen = new Set<string | number>();
    for (const [i, entry] of value.entries()) {
      const name = key(entry);
      if (name !== null && seen.has(name))
        issues.push({ code: "custom", message: `${what} twice.`, path: [i], input: entry });
      if (name !== null) seen.add(name);
    }
  };

/** How often a document was changed. */
export const version = z
  .int()
  .meta({ description: "Counts its changes; a change may say in a header which one it was made of" });

/** A list is asked for page by page, and searched. */
export const pageQuery = {
  search: z.string().max(200).default("").meta({ description: "Words that each of them must have" }),
  after: z.string().max(60).optional().meta({ description: "`next` of the page before" }),
  limit: z.coerce.number().int().min(1).max(1000).default(100),
};
/** What an answer says beside its page. */
export const pageEnd = {
  total: z.int().meta({ description: "How many there are, on this page or not" }),
  next: z.string().nullable().meta({ description: "Where the next page begins; null after the last" }),
};

/** Any exact decimal in an answer. */
export const figure = z.string().meta({ description: "An exact decimal as text" });

/**
 * What something costs us, and what it is sold at. They are marked, so that an answer can be without them for a person who
 * may not see them; `shows` reads the mark.
 */
export const costFigure = marked(figure, "cost");
export const priceFigure = marked(figure, "price");

/** The tax on what a document comes to, by rate. */
export const taxFigures = z
  .array(z.object({ rate: figure, net: priceFigure, tax: priceFigure }))
  .meta({ description: "The tax of each rate in percent, the highest first" });

const text = (what: string, most: number) =>
  z
    .string({ error: `${what} is missing.` })
    .trim()
    .max(most, `${what} may have up to ${most} characters.`)
    .regex(/^\P{Cc}*$/u, `${what} has a character that cannot be printed.`);

export const short = (what: string) => text(what, 60);
/** The unit or pack of an item that a cost or price is for. */
export const per = short("The unit of the price")
  .default("")
  .meta({ description: "The unit or pack of the item that it is for; empty: its stock unit" });
export const name = text("The name", 120).min(1, "The name is missing.");
/** The name of a parts list. */
export const listName = short("The name").min(1, "The name is missing.");
export const packName = text("The name of the pack", 40).min(1, "The pack has no name.");
export const note = text("The note", 500);
/** Text of several lines. */
export const longText = (what: string, most: number) =>
  z
    .string({ error: `${what} is missing.` })
    .trim()
    .max(most, `${what} may have up to ${most} characters.`)
    .regex(/^(\P{Cc}|[\n\r\t])*$/u, `${what} has a character that cannot be printed.`);
/** An address on the web, or nothing. */
export const web = text("The address", 500).refine(
  (address) => address === "" || /^https?:\/\/[^\s]+$/i.test(address),
  "A web address begins with http:// or https://.",
);
export const email = text("The e-mail address", 120).refine(
  (address) => address === "" || /^[^\s@]+@[^\s@]+$/.test(address),
  "An e-mail address has an @ with something on both sides.",
);
/** A whole number of days, months and the like. */
export const wholeNumber = (what: string, most: number) =>
  z
    .int(`${what} is a whole number.`)
    .min(0, `${what} cannot be below zero.`)
    .max(most, `${what} may be up to ${most}.`);
/** A number of days or months that need not be said. */
export const wholeOrNull = (what: string) => wholeNumber(what, 9999).nullable();
export const code = text("The code", 40)
  .min(1, "The code is missing.")
  .regex(/^[\p{L}\p{N}._/+#-]*$/u, "A code has letters, digits and . _ / + # - without spaces.");
export const bin = text("The bin", 20);
export const lot = text("The lot", 40);
export const lotPattern = text("The lot pattern", 40)
  .refine((pattern) => lotPatternFault(pattern) === null, {
    error: (issue) =>
      `“{${lotPatternFault(String(issue.input))}}” can't be in a lot pattern. Use: ${LOT_PATTERN_WORDS.map((word) => `{${word}}`).join(", ")}.`,
  })
  .meta({ description: "How lots are numbered where it is built, such as AF-{yy}{month}-{number}" });
export const serial = text("The serial number", 60);
export const day = z
  .string()
  .refine(isDay, {
    error: (issue) => `“${String(issue.input).slice(0, 40)}” isn't a date. Write it like 2026-12-31.`,
  })
  .meta({ description: "A calendar date in the company's time zone, such as 2026-12-31" });
export const moment = z.string().meta({ description: "A moment in UTC, ISO 8601" });
export const id = z.coerce
  .number({ error: "An id is a whole number." })
  .int("An id is a whole number.")
  .positive("An id is above zero.")
  .meta({ description: "Id" });
/** An id in a body or an answer, where it is a number already. */
export const ref = z.int().positive();
/** The same where a person chooses it; while nothing is chosen, a form says what is missing. */
export const chosen = (what: string) => z.int(`Choose ${what}.`).positive(`Choose ${what}.`);
/** Parameters of a route about one thing. */
export const byId = { params: z.object({ id }) };
