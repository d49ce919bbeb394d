import { type ItemBrief, Refusal, type ShipInput } from "@yosegi/contract";
import {
  checkDecimals,
  type Decimal,
  max,
  type Problem,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  ZERO,
} from "@yosegi/core";
import { hasLeft, isLineOpen, type OrderedLine, setsLeft, setsOpen } from "../orders/index.ts";
import { refuseProblems } from "../problems.ts";

/** What of a line is to leave. */
export interface AskedLine {
  line: OrderedLine;
  /** Place in what was sent; null for what leaves with the last goods by itself. */
  at: number | null;
  /** Of a line that takes nothing from stock: so many units. */
  units: Decimal;
  /** So much of each of its components, in their order; with the lots or serials that were chosen. */
  leaving: { item: number; quantity: Decimal; only: readonly string[] }[];
}

type Typed = ShipInput["lines"][number];

/** What is to leave of the lines of an order as it was sent; refuses more than is open of any. */
export function askedLines(
  lines: readonly OrderedLine[],
  body: ShipInput,
  brief: (item: number) => ItemBrief,
): AskedLine[] {
  const own = new Map(lines.map((line) => [line.id, line]));
  const asked = body.lines.map((typed, at): AskedLine => {
    const line = own.get(typed.line);
    if (!line) throw Refusal.at(`lines.${at}.line`, "not-found", { what: "line", id: typed.line });
    return askedOf(line, typed, at, brief);
  });
  return [...asked, ...withLastGoods(lines, asked)].filter(isAsked);
}

/** An item's unit, as far as quantities are checked by it. */
const unitOf = ({ unit, decimals }: ItemBrief) => ({ code: unit, decimals });

const isAsked = ({ units, leaving }: AskedLine): boolean =>
  units.gt(0) || leaving.some(({ quantity }) => quantity.gt(0));

function askedOf(line: OrderedLine, typed: Typed, at: number, brief: (item: number) => ItemBrief): AskedLine {
  const { unit, code } = brief(line.item);
  const problems: Problem[] = [];
  if (typed.quantity)
    checkDecimals("quantity", typed.quantity, unitOf(brief(line.item)), reporter(at, problems));
  refuseProblems(problems, (p) => `lines.${at}.${p.field}`);
  const open = setsOpen(line);
  if (typed.quantity?.gt(open)) throw refuseMore(`lines.${at}.quantity`, open, unit, code);
  if (line.components.length === 0) return { line, at, units: typed.quantity ?? open, leaving: [] };
  const pieces = piecesOf(line, typed, at, brief);
  const whole = typed.quantity && setsLeft(line).plus(typed.quantity);
  const leaving = line.components.map(({ item, per, open: openOf, shipped }) => {
    const most = quantityFromScaled(openOf);
    const completing =
      whole === null
        ? most
        : max(ZERO, whole.times(quantityFromScaled(per)).minus(quantityFromScaled(shipped)));
    const quantity = (typed.quantity?.eq(0) ? ZERO : completing).plus(pieces.get(item) ?? ZERO);
    if (quantity.gt(most)) {
      const piece = typed.pieces.findIndex((one) => one.item === item);
      const field = piece === -1 ? `lines.${at}.quantity` : `lines.${at}.pieces.${piece}.quantity`;
      throw refuseMore(field, most, brief(item).unit, brief(item).code);
    }
    return { item, quantity, only: typed.only.find((one) => one.item === item)?.codes ?? [] };
  });
  for (const [i, { item }] of typed.only.entries())
    if (!leaving.some((one) => one.item === item))
      throw Refusal.at(`lines.${at}.only.${i}`, "not-in-line", { line: code });
  return { line, at, units: ZERO, leaving };
}

const refuseMore = (field: string, open: Decimal, unit: string, code: string): Refusal =>
  Refusal.at(field, "ship-more-than-open", { open: open.toFixed(), unit, code });

function piecesOf(
  line: OrderedLine,
  { pieces }: Typed,
  at: number,
  brief: (item: number) => ItemBrief,
): Map<number, Decimal> {
  const problems: Problem[] = [];
  for (const [i, { item, quantity }] of pieces.entries()) {
    if (!line.components.some((own) => own.item === item))
      throw Refusal.at(`lines.${at}.pieces.${i}.item`, "not-in-line", { line: brief(line.item).code });
    checkDecimals("quantity", quantity, unitOf(brief(item)), reporter(i, problems));
  }
  refuseProblems(problems, (p) => `lines.${at}.pieces.${p.row}.${p.field}`);
  return new Map(pieces.map(({ item, quantity }) => [item, quantity]));
}

/** Work and what else takes nothing from stock leaves with the last goods (docs/rules.md § 12), unless the person said something of it. */
function withLastGoods(lines: readonly OrderedLine[], asked: readonly AskedLine[]): AskedLine[] {
  const named = new Map(asked.map((own) => [own.line.id, own]));
  const goods = lines.filter((line) => line.components.length > 0 && (isLineOpen(line) || hasLeft(line)));
  const allLeave = goods.every(({ id, components }) =>
    components.every(({ open }, i) =>
      (named.get(id)?.leaving[i]?.quantity ?? ZERO).gte(quantityFromScaled(open)),
    ),
  );
  const someLeave = goods.some(({ id }) => named.get(id)?.leaving.some(({ quantity }) => quantity.gt(0)));
  if (!allLeave || !someLeave) return [];
  return lines.flatMap((line) =>
    line.components.length > 0 || line.bySupplier || named.has(line.id)
      ? []
      : [{ line, at: null, units: setsOpen(line), leaving: [] }],
  );
}

/** A line as it is once this has left. */
export const lineAfter = ({ line, units, leaving }: AskedLine): OrderedLine => ({
  ...line,
  shipped: line.shipped + quantityToScaled(units),
  components: line.components.map((own, i) => {
    const quantity = quantityToScaled(leaving[i]?.quantity ?? ZERO);
    return { ...own, shipped: own.shipped + quantity, open: own.open - quantity };
  }),
});
