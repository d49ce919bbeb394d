import { type BodyOf, type LineRead, type messageRoutes, quantity as quantitySchema } from "@yosegi/contract";
import { decimal, partsTooMany, quantitiesLeft, type SettledLine, ZERO } from "@yosegi/core";

type Item = LineRead["items"][number];
type Change = LineRead["changes"][number];

/** A line of a message while a person settles it. */
export interface Settling {
  /** Its place among the lines, which stays. */
  place: number;
  line: LineRead;
  quantity: string;
  /** What it asks for; null while that is open. */
  item: Item | null;
  /** What it changes of the line before. */
  change: Change | null;
  /** It is part of the line that it changes, and not more of it. */
  isPart: boolean;
  isLeftOut: boolean;
}

/** What is not certain begins open: nothing is taken that nobody looked at. What names no item and no quantity, as a greeting, is left out. */
export const beginSettling = (line: LineRead, place: number): Settling => ({
  place,
  line,
  quantity: line.quantity ?? "",
  item: line.certain ? (line.items[0] ?? null) : null,
  change: null,
  isPart: false,
  isLeftOut: line.quantity === null && line.items.length === 0 && line.changes.length === 0,
});

const hasQuantity = ({ quantity }: Settling): boolean => quantitySchema.safeParse(quantity).success;

/** Whether a line says what it asks for, and how many. */
export const isSettled = (one: Settling): boolean => one.isLeftOut || (one.item !== null && hasQuantity(one));

const settledLines = (all: readonly Settling[]): SettledLine[] =>
  all.map((one) => ({
    quantity: !one.isLeftOut && hasQuantity(one) ? decimal(one.quantity) : ZERO,
    of: one.isPart && !one.isLeftOut ? (one.change?.line ?? null) : null,
  }));

/** Places of lines that are part of the one before, and more than it asks for. */
export const tooMany = (all: readonly Settling[]): number[] => partsTooMany(settledLines(all));

/** A line as an order takes it. */
export interface TakenLine {
  item: Item;
  quantity: string;
  price: string;
  pricePer: string;
  discount: string;
  contents: Change["contents"] | null;
}

/** The lines that an order takes; of a line that others are part of, what is left. */
export function takenLines(all: readonly Settling[]): TakenLine[] {
  const left = quantitiesLeft(settledLines(all));
  return all.flatMap(({ line, item, change, isLeftOut }, i) => {
    const quantity = left[i] ?? ZERO;
    if (isLeftOut || item === null || quantity.lte(0)) return [];
    return {
      item,
      quantity: quantity.toFixed(),
      price: line.price ?? "",
      pricePer: line.pricePer,
      discount: line.discount === "0" ? "" : line.discount,
      contents: change?.contents ?? null,
    };
  });
}

type Words = BodyOf<typeof messageRoutes.rememberWords>["words"];

/** What a person settled of the customer's words, to be remembered; what was certain needs no remembering. */
export function wordsToRemember(all: readonly Settling[]): Words {
  const found = new Map<string, Words[number]>();
  for (const { line, item, change, isLeftOut } of all) {
    if (isLeftOut || line.certain || item === null || line.words.trim() === "") continue;
    found.set(line.words.toLowerCase(), { words: line.words, item: change?.swapped.id ?? item.id });
  }
  return [...found.values()];
}
