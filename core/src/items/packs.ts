import {
  type Decimal,
  decimal,
  divideExact,
  type NumberMarks,
  parseNumber,
  QUANTITY_DECIMALS,
  type Unit,
} from "../amounts/index.ts";
import { codeKey } from "../keys.ts";

/** A pack of an item, such as a box of 200: `quantity` is in the item's stock unit. */
export interface Pack {
  name: string;
  quantity: Decimal;
}

const TYPED = /^(?<number>[^\p{L}%]*\d[^\p{L}%]*?)\s*(?<word>\p{L}.*)?$/u;

/**
 * Reads a quantity as a person types it, in the stock unit: "12", "2 boxes", "250 g". A pack of the item goes before a
 * unit of the same name. Gives plain decimal text; null where it is no number, the word is not known, the dimension is
 * another, or the result is not exact in the six decimals that are kept.
 */
export function parseQuantity(
  text: string,
  marks: NumberMarks,
  stock: Unit | undefined,
  units: Iterable<Unit>,
  packs: readonly Pack[],
): string | null {
  const { number = "", word } = TYPED.exec(text.trim())?.groups ?? {};
  const plain = parseNumber(number, marks);
  if (plain === null || word === undefined) return plain;
  const pack = packs.find(({ name }) => isNamed(name, word));
  if (pack) return decimal(plain).times(pack.quantity).toFixed();
  const all = [...units];
  const unit =
    all.find(({ code }) => code === word) ?? all.find((u) => isNamed(u.code, word) || isNamed(u.name, word));
  if (!unit || unit.dimension !== stock?.dimension) return null;
  const exact = divideExact(decimal(plain).times(unit.factor), stock.factor, QUANTITY_DECIMALS);
  return exact?.toFixed() ?? null;
}

const PLAIN: NumberMarks = { decimal: ".", group: "," };

/**
 * How much of the stock unit a price is for that is said per unit or pack: 1000 for "kg" of what is kept in grams, 1
 * where nothing is said. Null where the word is not known, or the quantity is not exact in the decimals that are kept.
 */
export function pricedQuantity(
  per: string,
  stock: Unit | undefined,
  units: Iterable<Unit>,
  packs: readonly Pack[],
): Decimal | null {
  const pack = packs.find(({ name }) => isNamed(name, per));
  if (pack) return pack.quantity;
  // A word alone: after the "1" that is put before it, a figure would be read on as part of it, "3" as 13.
  if (per !== "" && !/^\p{L}/u.test(per)) return null;
  const quantity = parseQuantity(per === "" ? "1" : `1 ${per}`, PLAIN, stock, units, packs);
  return quantity === null ? null : decimal(quantity);
}

/** Whether a word says this name, in any case, alone or in the plural. */
function isNamed(name: string, word: string): boolean {
  const key = codeKey(name);
  return [key, `${key}S`, `${key}ES`].includes(codeKey(word));
}
