import { type Day, type Decimal, min, sum, ZERO } from "../amounts/index.ts";
import { byWalk, type PickableStock, type StockPick, spotKey, take } from "../stock/index.ts";
import { byPickTurn, type PickDocument, type PickLine } from "./documents.ts";

/** Pieces that one line is sent to. Others are sent elsewhere; what is there for all is not less by it. */
export interface Hold extends StockPick {
  document: PickDocument;
  line: number;
}

/** A line with the pieces it is sent to, and what no stock is left for. */
export interface HeldLine {
  line: PickLine;
  holds: Hold[];
  short: Decimal;
}

/** What lies ready less what is held for others. */
export function withoutHeld(ready: readonly PickableStock[], held: readonly StockPick[]): PickableStock[] {
  const taken = new Map<string, Decimal>();
  for (const { from, quantity, ...key } of held) {
    const at = spotKey({ ...key, ...from });
    taken.set(at, (taken.get(at) ?? ZERO).plus(quantity));
  }
  return ready.flatMap((balance) => {
    const quantity = balance.quantity.minus(taken.get(spotKey(balance)) ?? ZERO);
    return quantity.gt(0) ? [{ ...balance, quantity }] : [];
  });
}

/**
 * Sends each line to stock of its own: by § 8, then in walk order, the lines in their turn. `ready` is what is there and held for nobody
 * else (docs/rules.md § 13).
 */
export function suggestHolds(
  lines: readonly PickLine[],
  ready: readonly PickableStock[],
  day: Day,
): HeldLine[] {
  const left = ready.map((balance) => ({ ...balance }));
  return [...lines]
    .sort((a, b) => byPickTurn(a.document, b.document) || a.line - b.line)
    .map((line) => {
      const taken = take(left, line, day);
      const { document } = line;
      return {
        line,
        holds: taken.map((pick) => ({ ...pick, document, line: line.line })),
        short: line.quantity.minus(sum(taken.map((pick) => pick.quantity))),
      };
    });
}

/**
 * What each line is sent to now: what it was sent to before, as far as it still wants that and it is still there, and other pieces for the
 * rest. `mayChange` says whether a line may be sent elsewhere; one that was left short is not.
 */
export function renewHolds(
  lines: readonly PickLine[],
  held: readonly Hold[],
  ready: readonly PickableStock[],
  day: Day,
  mayChange: (line: PickLine) => boolean,
): HeldLine[] {
  const left = new Map(ready.map((balance) => [spotKey(balance), balance.quantity]));
  const kept = lines.map((line) => {
    let open = line.quantity;
    const holds = held.flatMap((hold): Hold[] => {
      if (lineKey(hold.document, hold) !== lineKey(line.document, line)) return [];
      const at = spotKey({ ...hold, ...hold.from });
      const there = left.get(at) ?? ZERO;
      const quantity = min(min(hold.quantity, open), there);
      if (quantity.lte(0)) return [];
      left.set(at, there.minus(quantity));
      open = open.minus(quantity);
      return [{ ...hold, quantity }];
    });
    return { line, holds, open };
  });
  const wanting = kept.flatMap(({ line, open }) =>
    open.gt(0) && mayChange(line) ? [{ ...line, quantity: open }] : [],
  );
  const rest = withoutHeld(
    ready,
    kept.flatMap(({ holds }) => holds),
  );
  const added = new Map(
    suggestHolds(wanting, rest, day).map((own) => [lineKey(own.line.document, own.line), own]),
  );
  return kept.map(({ line, holds, open }) => {
    const more = added.get(lineKey(line.document, line));
    return { line, holds: [...holds, ...(more?.holds ?? [])], short: more?.short ?? open };
  });
}

/** A line of a document asks for an item once. */
const lineKey = (
  { kind, id }: Pick<PickDocument, "kind" | "id">,
  { line, item }: { line: number; item: number },
): string => `${kind} ${id} ${line} ${item}`;

/** Where a picker stops: all that is fetched there of one item and lot, and for whom. */
export interface PickStop extends Omit<Hold, "document" | "line"> {
  /** In their turn. */
  holds: Hold[];
}

/** The stops of a round in walk order: lines of the same item, lot and bin are one stop (docs/rules.md § 13). */
export function stopsOf(holds: readonly Hold[], walkOf: (hold: Hold) => number | null): PickStop[] {
  const stops = new Map<string, PickStop & { walk: number | null }>();
  for (const hold of holds) {
    const { document: _, line: __, ...pick } = hold;
    const at = spotKey({ ...pick, ...pick.from });
    const stop = stops.get(at) ?? { ...pick, quantity: ZERO, holds: [], walk: walkOf(hold) };
    stops.set(at, { ...stop, quantity: stop.quantity.plus(pick.quantity), holds: [...stop.holds, hold] });
  }
  return [...stops.values()]
    .sort((a, b) => byWalk({ ...a.from, walk: a.walk }, { ...b.from, walk: b.walk }) || a.item - b.item)
    .map(({ walk: _, ...stop }) => ({
      ...stop,
      holds: stop.holds.sort((a, b) => byPickTurn(a.document, b.document) || a.line - b.line),
    }));
}

/** Deals out what was fetched among what each wants, in the order given: 5, 4 and 6 wanted, 12 fetched → 5, 4, 3. */
export function dealFetched(wanted: readonly Decimal[], fetched: Decimal): Decimal[] {
  let left = fetched;
  return wanted.map((quantity) => {
    const own = min(left, quantity);
    left = left.minus(own);
    return own;
  });
}
