import { codeKey, type Facts, type FullLine, type ListDraft, type PartsList } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { type Known, knownItems, loadUnits, unitNamed } from "../items/index.ts";

/** What lists and kits are checked against, and the ids that its names stand for. */
export interface NamedFacts extends Facts {
  items: Known;
  storeId: (name: string) => number | null;
  personId: (name: string) => number | null;
}

/** Everything that lists and kits naming these items are checked against. */
export async function factsFor(ctx: Reading, codes: Iterable<string>): Promise<NamedFacts> {
  return factsOf(ctx, await knownItems(ctx, codes));
}

export async function factsOf(ctx: Reading, items: Known): Promise<NamedFacts> {
  const stores = await ctx.sql.all<{ id: number; key: string }>(
    "SELECT id, name_key AS key FROM location_head WHERE kind = 'store' AND archived = 0",
  );
  const people = await ctx.sql.all<{ id: number; key: string }>(
    "SELECT id, name_key AS key FROM person_name",
  );
  const byKey = (rows: { id: number; key: string }[]) => new Map(rows.map((row) => [row.key, row.id]));
  const [storeIds, personIds] = [byKey(stores), byKey(people)];
  return {
    items,
    units: await loadUnits(ctx),
    stores: new Set(storeIds.keys()),
    people: new Set(personIds.keys()),
    storeId: (name) => storeIds.get(codeKey(name)) ?? null,
    personId: (name) => personIds.get(codeKey(name)) ?? null,
  };
}

/** Codes of all items that a draft names. */
export const codesIn = (draft: Pick<ListDraft, "product" | "lines">): string[] => [
  draft.product,
  ...draft.lines.flatMap((line) => [line.part, ...line.substitutes.map((s) => s.item)]),
];

/** A checked draft as the core's list, with ids for names. */
export function listOf(draft: ListDraft, facts: NamedFacts): PartsList<FullLine> {
  const itemNamed = (code: string) => {
    const item = facts.items.get(codeKey(code));
    if (!item) throw new Error(`${code} was checked and is not there`);
    return item;
  };
  const product = itemNamed(draft.product);
  return {
    makes: draft.makes,
    usual: draft.usual,
    overhead: draft.overhead,
    extra: draft.extra,
    yield: draft.yield,
    decimals: unitNamed(facts.units, product.unit).decimals,
    lines: draft.lines.map((line): FullLine => {
      const part = itemNamed(line.part);
      return {
        item: part.id,
        quantity: line.quantity,
        unit: unitNamed(facts.units, line.unit),
        stockUnit: unitNamed(facts.units, part.unit),
        waste: line.waste,
        oncePerBuild: line.oncePerBuild,
        service: part.kind === "service",
        stocked: part.kind !== "service" && !part.notStockTracked,
        optional: line.optional,
        drawnAt: line.drawnAt,
        store: line.store === "" ? null : facts.storeId(line.store),
        note: line.note,
        share: line.share,
        person: line.person === "" ? null : facts.personId(line.person),
        substitutes: line.substitutes.map((s) => ({ item: itemNamed(s.item).id, quantity: s.quantity })),
      };
    }),
  };
}
