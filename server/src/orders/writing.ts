import type { OrderInput } from "@yosegi/contract";
import { moneyToScaled, ONE, openOfOrdered, quantityToScaled, reordered } from "@yosegi/core";
import { passLinks, trimLinks } from "../allocations/index.ts";
import { asJson, type Writing } from "../db/index.ts";
import { refuseTooMuch } from "../ledger/index.ts";
import type { CheckedLine } from "./lines.ts";
import { NOTHING_LEFT, type OrderedLine } from "./rows.ts";
import { copyText } from "./sets.ts";
import type { WrittenLine } from "./shipped.ts";
import { ORDER_COMPONENT, ORDER_CONTENT, ORDER_TEXT, SALES_LINE } from "./tables.ts";

/** Writes the texts that stand among an order's lines. */
export async function writeTexts(ctx: Writing, id: number, texts: OrderInput["texts"]): Promise<void> {
  await ctx.model(ORDER_TEXT).destroy({ where: { order_id: id } });
  await ctx.sql.insert(
    ORDER_TEXT,
    texts.map(({ before, text }, position) => ({ order_id: id, position, before, text })),
  );
}

/** Writes the lines of an order, and what they reserve. A line that stays has the contents that were typed for it. */
export async function writeLines(
  ctx: Writing,
  id: number,
  lines: readonly WrittenLine[],
  isQuote: boolean,
  before: ReadonlyMap<number, OrderedLine> = new Map(),
): Promise<SavedLine[]> {
  const columns = (line: CheckedLine, at: number) => ({
    line: at + 1,
    quantity: quantityToScaled(line.quantity),
    price: line.price === null ? null : moneyToScaled(line.price.amount),
    price_per: line.price === null ? ONE_WHOLE : quantityToScaled(line.price.per),
    price_unit: line.pricePer,
    discount: quantityToScaled(line.discount),
    promised: line.promised,
    kit: line.set && copyText(line.set.kit),
    tax_rate: quantityToScaled(line.taxRate),
    serial: line.serial,
    finish_when_shipped: line.finishWhenShipped === null ? null : line.finishWhenShipped ? 1 : 0,
    by_supplier: line.bySupplier ? 1 : 0,
    closed: reordered(before.get(line.id ?? 0) ?? NOTHING_LEFT, quantityToScaled(line.quantity)).closed,
  });
  await ctx.sql.update(
    SALES_LINE,
    ["id"],
    lines.flatMap((line, at) => (line.id === null ? [] : [{ id: line.id, ...columns(line, at) }])),
  );
  const added = lines.flatMap((line, at) => (line.id === null ? [{ line, at }] : []));
  const ids = await ctx.sql.insert(
    SALES_LINE,
    added.map(({ line, at }) => ({ order_id: id, item_id: line.item, ...columns(line, at) })),
  );
  const idOf = new Map(added.map(({ line }, i) => [line, ids[i] ?? 0]));
  const saved = lines.map((line): SavedLine => ({ ...line, id: line.id ?? idOf.get(line) ?? 0 }));
  await writeContents(ctx, saved, isQuote, before);
  await passLinks(
    ctx,
    new Map(saved.flatMap(({ id: to, splitFrom }) => (splitFrom === undefined ? [] : [[splitFrom, to]]))),
  );
  await trimLinks(
    ctx,
    saved.map((line) => line.id),
  );
  await refuseTooMuch(
    ctx,
    lines.flatMap((line) => [...line.takes.keys()]),
  );
  return saved;
}

/** A line as it is saved. */
export type SavedLine = WrittenLine & { id: number };

/** Writes what is in the sets of lines, and what each line reserves: nothing on a quote. */
async function writeContents(
  ctx: Writing,
  lines: readonly SavedLine[],
  isQuote: boolean,
  before: ReadonlyMap<number, OrderedLine>,
): Promise<void> {
  const bind = { lines: asJson(lines.map((line) => line.id)) };
  const own = "WHERE line_id IN (SELECT value FROM json_each($lines))";
  await ctx.sql.run(`DELETE FROM order_content ${own}`, bind);
  await ctx.sql.run(`DELETE FROM order_component ${own}`, bind);
  await ctx.sql.insert(
    ORDER_CONTENT,
    lines.flatMap(({ id, set }) =>
      (set?.contents ?? []).map(({ of, item, quantity }, position) => ({
        line_id: id,
        position,
        defined: of,
        item_id: item,
        quantity: quantityToScaled(quantity),
      })),
    ),
  );
  await ctx.sql.insert(
    ORDER_COMPONENT,
    lines.flatMap(({ id, takes, quantity }) =>
      [...takes].map(([item, per]) => {
        const saved = before.get(id)?.components.find((own) => own.item === item) ?? NOTHING_LEFT;
        const part = reordered(saved, quantityToScaled(per.times(quantity)));
        return {
          line_id: id,
          item_id: item,
          per: quantityToScaled(per),
          open: isQuote ? 0 : openOfOrdered(part),
          shipped: part.shipped,
          closed: part.closed,
          // What is packed beyond what stays open is put back afterwards.
          packed: isQuote ? 0 : saved.packed,
        };
      }),
    ),
  );
}

/** One stock unit, as the database keeps it. */
const ONE_WHOLE = quantityToScaled(ONE);
