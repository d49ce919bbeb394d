import { type Decimal, decimal } from "../amounts/index.ts";

/** A line of a customer's message or list, as it was written. */
export interface WrittenLine {
  text: string;
  /** null where none is named, or where it may mean two things, as 1.200 does. */
  quantity: Decimal | null;
  /** The word after the quantity, which may be a unit or pack; "" where there is none. */
  unit: string;
  /** What is asked for, with that word. */
  words: string;
  /** It changes what the line before asks for, such as "3 with large suits". */
  isChange: boolean;
}

const NUMBERS =
  "one two three four five six seven eight nine ten eleven twelve thirteen fourteen fifteen sixteen seventeen eighteen nineteen twenty".split(
    " ",
  );
const DOZENS: Record<string, string> = { "half a dozen": "6", "a dozen": "12", dozen: "12" };

/** What a message says around its quantities. */
const FILLER =
  /^(?:please|kindly|hello|hi|dear|and|also|plus|then|we|i|us|me|you|need|want|would|could|can|like|take|have|get|send|order|ordering|for|to|the|my|our|another|with it|[-–•*·>]+|\d+[.)](?=\s+\S*\d))[\s,:]+/i;

const WORD = `${Object.keys(DOZENS).join("|")}|${NUMBERS.join("|")}`;
const QUANTITY = `\\d+(?:[.,]\\d+)*|${WORD}`;
const LEADING = new RegExp(
  `^(${QUANTITY})(?:\\s*[x×]\\s+|\\s*[x×](?=\\s*\\p{L})|\\s+|(?=\\p{L}))(.+)$`,
  "iu",
);
const TRAILING = new RegExp(
  `^(.+?)(?:\\s*[:=;\\t–]\\s*|\\s+[x×-]\\s*|\\s+)(${QUANTITY})(?:\\s*(pcs?|pieces?))?[.!]?$`,
  "iu",
);
/** A new quantity begins after it, so that what stands before it is a line of its own. */
const BETWEEN = new RegExp(
  `(?:\\s*[,;]\\s+(?:and\\s+|plus\\s+)?|\\s+(?:and|plus)\\s+)(?=(?:${QUANTITY})(?:\\s|[x×]\\s))`,
  "iu",
);

/** The lines of a message: each line of it, and each quantity within a line, is one. */
export const readMessage = (text: string): WrittenLine[] =>
  text
    .split(/\r?\n/)
    .flatMap((line) => line.split(BETWEEN))
    .map((line) => line.trim())
    .map(readLine)
    // What only leads up to the lines is none.
    .filter(({ words }) => /[\p{L}\d]/u.test(words));

function readLine(text: string): WrittenLine {
  const plain = withoutFiller(text);
  const leading = LEADING.exec(plain);
  if (leading) return lineOf(text, leading[1] ?? "", leading[2] ?? "");
  const trailing = TRAILING.exec(plain);
  if (trailing) return { ...lineOf(text, trailing[2] ?? "", trailing[1] ?? ""), unit: "" };
  return lineOf(text, "", plain);
}

function withoutFiller(text: string): string {
  const rest = text.replace(FILLER, "");
  return rest === text ? text : withoutFiller(rest);
}

function lineOf(text: string, quantity: string, rest: string): WrittenLine {
  const words = rest.replace(/^of\s+/i, "").replace(/[\s.!?,;]+$/, "");
  const [unit = "", ...others] = words.split(/\s+/);
  return {
    text,
    quantity: writtenQuantity(quantity),
    unit: others.length > 0 ? unit : "",
    words,
    isChange: /^with\s/i.test(words),
  };
}

/** A quantity as people write it; null where there is none, or where a mark may part thousands or decimals. */
export function writtenQuantity(text: string): Decimal | null {
  const word = text.toLowerCase();
  const spelled = DOZENS[word] ?? (NUMBERS.includes(word) ? String(NUMBERS.indexOf(word) + 1) : word);
  return /^\d+(?:[.,](?:\d{1,2}|\d{4,6}))?$/.test(spelled) ? decimal(spelled.replace(",", ".")) : null;
}

/** Which cell of a row says what, by the heads of a list; of a list without heads by what its cells look like. */
interface Heads {
  quantity: number;
  words: readonly number[];
  price: number;
  per: number;
  discount: number;
}

const HEADS = {
  quantity: /^(quantity|qty|pcs|pieces|count|ordered|number wanted)$/i,
  words:
    /^(item|code|article|article no\.?|item no\.?|product|part|sku|their code|your code|name|description)$/i,
  price: /^(price|unit price|net price)$/i,
  per: /^price[_ ]per$/i,
  discount: /^(discount|discount %)$/i,
};

/** A row of a customer's list: what it asks for by each of its cells, the likeliest first. */
export interface WrittenRow extends WrittenLine {
  cells: string[];
  /** As they stand there; "" where the list has none. */
  price: string;
  pricePer: string;
  discount: string;
}

/** The lines of a list in rows and cells; a first row without a quantity is its heads. */
export function readRows(rows: readonly (readonly string[])[]): WrittenRow[] {
  const filled = rows.map((row) => row.map((cell) => cell.trim())).filter((row) => row.some(Boolean));
  const [first = [], ...rest] = filled;
  const named = headsIn(first);
  const hasHeads =
    named !== null ||
    (rest.length > 0 && !first.some(isQuantity) && rest.some((row) => row.some(isQuantity)));
  return (hasHeads ? rest : filled).map((row) => rowOf(row, named ?? headsBy(row)));
}

/** Codes may be all digits, but no quantity is as long as a barcode. */
const isQuantity = (cell: string): boolean => cell.length < 8 && writtenQuantity(cell) !== null;

function headsIn(row: readonly string[]): Heads | null {
  const at = (pattern: RegExp) => row.findIndex((cell) => pattern.test(cell));
  const words = row.flatMap((cell, i) => (HEADS.words.test(cell) ? i : []));
  const quantity = at(HEADS.quantity);
  if (quantity === -1 || words.length === 0) return null;
  return { quantity, words, price: at(HEADS.price), per: at(HEADS.per), discount: at(HEADS.discount) };
}

function headsBy(row: readonly string[]): Heads {
  const quantity = row.findIndex(isQuantity);
  const words = row.flatMap((cell, i) => (i !== quantity && cell !== "" && !isQuantity(cell) ? i : []));
  return { quantity, words, price: -1, per: -1, discount: -1 };
}

function rowOf(row: readonly string[], heads: Heads): WrittenRow {
  const cell = (at: number) => row[at] ?? "";
  const cells = heads.words.map(cell).filter(Boolean);
  return {
    text: row.filter(Boolean).join(" · "),
    quantity: writtenQuantity(cell(heads.quantity)),
    unit: "",
    words: cells.join(" "),
    isChange: false,
    cells,
    price: cell(heads.price),
    pricePer: cell(heads.per),
    discount: cell(heads.discount),
  };
}

/** What parts the cells of a list that was pasted; null where it is a message. */
export function delimiterOf(text: string): string | null {
  const lines = text.split(/\r?\n/).filter((line) => line.trim() !== "");
  const isRow = (line: string, mark: string) => {
    const cells = line.split(mark).map((cell) => cell.trim().replace(/^"(.*)"$/, "$1"));
    return cells.length > 1 && cells.some(isQuantity);
  };
  // A first row may be heads.
  const enough = (mark: string) => {
    const rows = lines.filter((line) => isRow(line, mark)).length;
    return rows > 0 && rows >= lines.length - 1 && lines.every((line) => line.includes(mark));
  };
  return ["\t", ";", ","].find(enough) ?? null;
}
