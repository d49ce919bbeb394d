import { itemBrief } from "./brief.ts";
import { byId, chosen, figure, longText, moment, once, priceFigure, ref } from "./fields.ts";
import { LARGEST_FILE } from "./imports.ts";
import { ask, askWith, command } from "./route.ts";
import { z } from "./zod.ts";

/** Bytes of a list that is read into an order. */
export const LARGEST_LIST = LARGEST_FILE / 5;

/** A change to what the line before asks for, such as "3 with large suits". */
const changeRead = z.object({
  line: z.int().meta({ description: "Place of the line whose kit it changes, counted from 0" }),
  swapped: itemBrief.meta({ description: "What goes in" }),
  instead: itemBrief.meta({ description: "What it stands for" }),
  contents: z.array(z.object({ of: z.int(), item: itemBrief, quantity: figure })),
});

const lineRead = z.object({
  text: z.string().meta({ description: "As it was written" }),
  words: z
    .string()
    .meta({ description: "What names the item; remembered for the customer once it is settled" }),
  quantity: figure.nullable().meta({ description: "null: none is named, or it may mean two" }),
  certain: z.boolean().meta({ description: "false: a person has to settle it" }),
  items: z.array(itemBrief).meta({ description: "What may be meant, the likeliest first" }),
  changes: z.array(changeRead).meta({ description: "What may be meant where it changes the line before" }),
  price: priceFigure.nullable().meta({ description: "As the list says; null: it says none" }),
  pricePer: z.string(),
  discount: figure,
});
export type LineRead = z.infer<typeof lineRead>;

const customerWord = z.object({ words: z.string(), item: itemBrief, person: z.string(), moment });

const words = longText("The words", 200).min(1, "The words are missing.");

export const messageRoutes = {
  readMessage: askWith("/api/messages/read", {
    permission: "look",
    summary:
      "Read a customer's message or list as lines of an order, matched by code, name, and what the customer calls items; records nothing",
    body: z.object({
      customer: ref.nullable().default(null),
      text: longText("The message", 100_000).default(""),
      file: z
        .object({
          name: z.string().max(200).meta({ description: "With its ending: .csv or .xlsx" }),
          content: z.base64("The content is not in base64."),
        })
        .nullable()
        .default(null)
        .meta({ description: "A list in the place of the text" }),
    }),
    answer: z.object({ lines: z.array(lineRead) }),
  }),
  customerWords: ask("/api/customers/:id/words", {
    permission: "look",
    summary: "What a customer calls items, as it was settled",
    ...byId,
    answer: z.object({ words: z.array(customerWord) }),
  }),
  rememberWords: command("/api/customers/:id/words", {
    permission: "sell",
    summary: "Remember what a customer calls items; what was remembered of the same words is forgotten",
    ...byId,
    body: z.object({
      words: z
        .array(z.object({ words, item: chosen("an item") }))
        .max(500, "Up to 500 at once.")
        .check(once((one) => one.words.toLowerCase(), "These words are named")),
    }),
    answer: z.object({ words: z.array(customerWord) }),
  }),
  forgetWords: command("/api/customers/:id/words/forget", {
    permission: "sell",
    summary: "Forget what a customer calls an item",
    ...byId,
    body: z.object({ words }),
    answer: z.object({ words: z.array(customerWord) }),
  }),
};
