import {
  type AnswerOf,
  LARGEST_LIST,
  type LineRead,
  type ParsedBody,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  contentsAsDefined,
  type Decimal,
  decimal,
  delimiterOf,
  ItemNames,
  readMessage as linesOfMessage,
  type Matched,
  type NamedItem,
  parseQuantity,
  readRows,
  type Units,
  type WrittenLine,
  type WrittenRow,
  wordsKey,
  wordsOf,
  writtenQuantity,
} from "@yosegi/core";
import { CsvError, parse } from "csv-parse/sync";
import { asJson, type Reading } from "../db/index.ts";
import { refuseFirm } from "../firms/index.ts";
import { readSheet } from "../imports/index.ts";
import { briefs, loadUnits } from "../items/index.ts";
import { loadKits, type StoredKit } from "../kits/index.ts";
import { wordsOfCustomer } from "./words.ts";

/** So many lines of a message are read at most: as many as an order has. */
const MOST_LINES = 500;

type Body = ParsedBody<typeof routes.readMessage>;

/** Reads a customer's message or list as lines of an order. What is not certain is for a person to settle. */
export async function readMessage(
  ctx: Reading,
  { customer, ...message }: Body,
): Promise<AnswerOf<typeof routes.readMessage>> {
  if (customer !== null) await refuseFirm(ctx, "customer", "customer", { id: customer, before: customer });
  const written = await linesIn(message);
  if (written.length > MOST_LINES) throw Refusal.at("text", "message-too-long", { most: MOST_LINES });
  const items = await ctx.sql.all<NamedItem>(
    "SELECT id, code, name, barcode FROM item_head WHERE state <> 'archived' AND not_for_sale = 0",
  );
  const own = await wordsOfCustomer(ctx, customer);
  const sold = new Set(items.map((item) => item.id));
  const names = new ItemNames(items, new Map([...own].filter(([, item]) => sold.has(item))));
  const matched = written.map((line) => matchesOf(line, names));
  const isOwnWord = (line: WrittenLine) => own.has(wordsKey(line.words));
  const kits = await loadKits(
    ctx,
    matched.flatMap(({ matches }) => matches.map((match) => match.item)),
  );
  const changes = await changesIn(ctx, written, matched, kits, own);
  const brief = await briefs(ctx, [
    ...matched.flatMap(({ matches }) => matches.map((match) => match.item)),
    ...changes
      .flat()
      .flatMap((change) => [change.swapped, change.instead, ...change.contents.map((c) => c.item)]),
  ]);
  const units = await loadUnits(ctx);
  return {
    lines: written.map((line, i): LineRead => {
      const { certain, matches } = matched[i] ?? NOTHING;
      const found = line.isChange ? [] : matches.map((match) => brief(match.item));
      // Of items that are alike the one is likelier that is measured so.
      if (!certain) found.sort((a, b) => Number(b.unit === line.unit) - Number(a.unit === line.unit));
      const [first] = found;
      const quantity = first ? quantityIn(line, first, units) : line.quantity;
      return {
        text: line.text,
        words: line.isChange ? line.words.replace(/^with\s+/i, "") : line.words,
        quantity: quantity?.toFixed() ?? null,
        certain:
          certain &&
          !line.isChange &&
          (quantity?.gt(0) ?? false) &&
          first !== undefined &&
          (isOwnWord(line) || isMeasured(line, first, units)),
        items: found,
        changes: (changes[i] ?? []).map(({ line: at, swapped, instead, contents }) => ({
          line: at,
          swapped: brief(swapped),
          instead: brief(instead),
          contents: contents.map((content) => ({ ...content, item: brief(content.item) })),
        })),
        ...moneyIn(line, ctx.currencyDecimals),
      };
    }),
  };
}

const NOTHING: Matched = { certain: false, matches: [] };

/** The lines of a file, of rows that were pasted, or of a message. */
async function linesIn({ text, file }: Omit<Body, "customer">): Promise<(WrittenLine | WrittenRow)[]> {
  if (file) {
    const content = Buffer.from(file.content, "base64");
    if (content.length > LARGEST_LIST)
      throw Refusal.at("file", "file-too-large", {
        size: (content.length / 1e6).toFixed(1),
        limit: LARGEST_LIST / 1e6,
      });
    return readRows((await readSheet("file", content)).rows);
  }
  const delimiter = delimiterOf(text);
  if (delimiter === null) return linesOfMessage(text);
  try {
    return readRows(parse(text, { delimiter, relax_column_count: true, relax_quotes: true }) as string[][]);
  } catch (error) {
    // A quote that never ends: what is no list is a message.
    if (error instanceof CsvError) return linesOfMessage(text);
    throw error;
  }
}

function matchesOf(line: WrittenLine | WrittenRow, names: ItemNames): Matched {
  if (line.isChange || line.words === "") return NOTHING;
  if ("cells" in line) return names.find([...line.cells, line.words]);
  const whole = names.find([line.words]);
  const rest = line.words.slice(line.unit.length).replace(/^\s*(?:of\s+)?/i, "");
  if (whole.certain || line.unit === "" || rest === "") return whole;
  // Without its first word it may name one item; that word must then be a unit or pack of it (see `isMeasured`).
  const without = names.find([rest]);
  return without.certain ? without : whole;
}

/** Whether the word after the quantity is said for by what names the item: it is part of it, or a unit or pack of the item. */
function isMeasured(line: WrittenLine | WrittenRow, item: LineRead["items"][number], units: Units): boolean {
  if ("cells" in line || line.unit === "") return true;
  const own = new Set(wordsOf(`${item.code} ${item.name}`));
  return wordsOf(line.unit).every((word) => own.has(word)) || measured(line, item, units) !== null;
}

/** A quantity in the item's own unit, where the word after it is a unit or pack of the item. */
function quantityIn(
  { quantity, unit }: WrittenLine,
  item: LineRead["items"][number],
  units: Units,
): Decimal | null {
  return quantity === null || unit === ""
    ? quantity
    : (measured({ quantity, unit }, item, units) ?? quantity);
}

/** So many of a unit or pack in the item's own unit; null where it has none called so. */
function measured(
  { quantity, unit }: Pick<WrittenLine, "quantity" | "unit">,
  item: LineRead["items"][number],
  units: Units,
): Decimal | null {
  const packs = item.packs.map((pack) => ({ name: pack.name, quantity: decimal(pack.quantity) }));
  const said = `${quantity?.toFixed() ?? "1"} ${unit}`;
  const found = parseQuantity(said, { decimal: ".", group: "" }, units.get(item.unit), units.values(), packs);
  return found === null ? null : decimal(found);
}

/** The price and discount that a list says; what can't be read as one is left out of the line, which shows it. */
function moneyIn(line: WrittenLine | WrittenRow, decimals: number) {
  if (!("cells" in line)) return { price: null, pricePer: "", discount: "0" };
  const price = writtenQuantity(line.price);
  return {
    price: price?.toFixed(decimals) ?? null,
    pricePer: price === null ? "" : line.pricePer,
    discount: writtenQuantity(line.discount)?.toFixed() ?? "0",
  };
}

interface FoundChange {
  line: number;
  swapped: number;
  instead: number;
  contents: { of: number; item: number; quantity: string }[];
}

/** What lines that change the kit of the line before may mean: a swap that the kit lists. */
async function changesIn(
  ctx: Reading,
  written: readonly WrittenLine[],
  matched: readonly Matched[],
  kits: ReadonlyMap<number, StoredKit>,
  own: ReadonlyMap<string, number>,
): Promise<FoundChange[][]> {
  const swaps = new Set(
    [...kits.values()].flatMap((kit) => kit.contents.flatMap((content) => content.swaps)),
  );
  const items = await ctx.sql.all<NamedItem>(
    "SELECT i.id, i.code, i.name, i.barcode FROM json_each($swaps) s JOIN item_head i ON i.id = s.value WHERE i.state <> 'archived'",
    { swaps: asJson(swaps) },
  );
  return written.map((line, i) => {
    if (!line.isChange) return [];
    // Several changes in a row are of one line.
    const at = written.slice(0, i).findLastIndex((before) => !before.isChange);
    const kit = kits.get(matched[at]?.matches[0]?.item ?? 0);
    if (!kit) return [];
    const offered = kit.contents.flatMap((content, of) =>
      content.swaps.map((swap) => ({ of, content, swap })),
    );
    const names = new ItemNames(
      items.filter((item) => offered.some(({ swap }) => swap === item.id)),
      own,
    );
    const { matches } = names.find([line.words.replace(/^with\s+/i, "")]);
    return matches.flatMap(({ item }): FoundChange[] => {
      const found = offered.find(({ swap }) => swap === item);
      if (!found) return [];
      const contents = contentsAsDefined(kit).map((content, of) => ({
        of,
        item: of === found.of ? item : content.item,
        quantity: content.quantity.toFixed(),
      }));
      return [{ line: at, swapped: item, instead: found.content.item, contents }];
    });
  });
}
