import { decimal, rateOf } from "../amounts/index.ts";
import type { Offer } from "../buying/index.ts";
import type { Demand, Incoming, Supply } from "../cover/index.ts";
import type { PartsList } from "../lists/index.ts";

/** What is told of an item's supply, in few words. */
export interface SupplyFigures {
  onHand?: string;
  reserved?: string;
  expired?: string;
  incoming?: [key: string, quantity: string, day: string | null][];
  offer?: Partial<Omit<Offer, "minimum" | "multiple" | "price">> & {
    minimum?: string;
    multiple?: string;
    price?: string;
  };
  recipe?: { list: PartsList; buildDays: number };
  drafts?: [document: string, firm: number | null, quantity: string][];
}

const amount = (text: string | undefined) => (text === undefined ? null : decimal(text));

export function supply({
  onHand = "0",
  reserved = "0",
  expired = "0",
  ...figures
}: SupplyFigures = {}): Supply {
  const { incoming = [], offer, recipe, drafts = [] } = figures;
  return {
    stock: { onHand: decimal(onHand), reserved: decimal(reserved), expired: decimal(expired) },
    incoming: incoming.map(([key, quantity, day]): Incoming => ({ key, quantity: decimal(quantity), day })),
    drafts: drafts.map(([document, firm, quantity]) => ({ document, firm, quantity: decimal(quantity) })),
    offer: offer
      ? {
          firm: offer.firm ?? 1,
          leadDays: offer.leadDays ?? null,
          price: offer.price === undefined ? null : rateOf(decimal(offer.price)),
          minimum: amount(offer.minimum),
          multiple: amount(offer.multiple),
        }
      : null,
    recipe: recipe ? { listOn: () => recipe.list, buildDays: recipe.buildDays } : null,
  };
}

/** Supplies by item; what is not told is not there. */
export const supplies =
  (figures: Record<number, SupplyFigures>) =>
  (item: number): Supply =>
    supply(figures[item]);

export const demand = (
  key: number,
  item: number,
  quantity: string,
  list: Demand["list"],
  more: Partial<Demand> = {},
): Demand => ({
  key,
  item,
  quantity: decimal(quantity),
  list,
  day: null,
  priority: 1,
  buildDays: 0,
  ...more,
});
