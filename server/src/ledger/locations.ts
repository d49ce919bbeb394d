import { Refusal, type StoreAnswer } from "@yosegi/contract";
import { codeKey, type LocationKind } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { BIN, LOCATION } from "./tables.ts";

/** Stores with their bins as one walks, in the order in which they were made; archived ones too. */
export async function listStores(ctx: Reading): Promise<StoreAnswer[]> {
  const rows = await ctx.sql.all<{ id: number; name: string; archived: number; bins: string }>(
    `SELECT p.id, p.name, p.archived, (SELECT json_group_array(code ORDER BY walk IS NULL, walk, code) FROM bin WHERE location_id = p.id AND closed = 0) AS bins
       FROM location p WHERE p.kind = 'store' ORDER BY p.id`,
  );
  return rows.map((row) => ({
    ...row,
    archived: row.archived === 1,
    bins: JSON.parse(row.bins) as string[],
  }));
}

/** Ids of stores by their name, whatever its case; of one that is archived none is given: nothing goes there any more. */
export async function storeIds(ctx: Reading): Promise<(name: string) => number | null> {
  const rows = await ctx.sql.all<{ id: number; name_key: string }>(
    "SELECT id, name_key FROM location WHERE kind = 'store' AND archived = 0",
  );
  const byKey = new Map(rows.map((row) => [row.name_key, row.id]));
  return (name) => byKey.get(codeKey(name)) ?? null;
}

/** The id of a store that was checked or made before. */
export function locationOf(ids: (name: string) => number | null, name: string): number {
  const id = ids(name);
  if (id === null) throw new Error(`Store ${name} was checked and is not there`);
  return id;
}

/** The id of a store that must be there; the message stands at `field`. */
export async function storeId(ctx: Reading, field: string, name: string): Promise<number> {
  const id = (await storeIds(ctx))(name);
  if (id === null) throw Refusal.at(field, "store-unknown", { store: name });
  return id;
}

/** The id of a store that must be there, and whether it has a bin already. */
export async function storeWithBin(
  ctx: Reading,
  { store, bin }: { store: string; bin: string },
): Promise<{ location: number; known: boolean }> {
  const row = await ctx.sql.one<{ location: number; known: number }>(
    `SELECT id AS location, $bin = '' OR EXISTS (SELECT 1 FROM bin WHERE location_id = location.id AND code = $bin AND closed = 0) AS known
       FROM location WHERE kind = 'store' AND archived = 0 AND name_key = $key`,
    { key: codeKey(store), bin },
  );
  if (!row) throw Refusal.at("store", "store-unknown", { store });
  return { location: row.location, known: row.known === 1 };
}

export async function createStores(ctx: Writing, names: readonly string[]): Promise<void> {
  await ctx.sql.insert(
    LOCATION,
    names.map((name) => ({ name, name_key: codeKey(name), kind: "store" as const, firm_id: null })),
  );
}

/** Where handed out parts are: the bench, or the location of the firm that does the work. */
export const workLocation = (ctx: Writing, firm: number | null, name: string): Promise<number> =>
  onlyLocation(ctx, firm === null ? "bench" : "subcontractor", firm, name);

/** Where what is packed for orders is, each in a bin of its own. */
export const packedLocation = (ctx: Writing): Promise<number> => onlyLocation(ctx, "packed", null, "Packed");

/** Where what customers send back is held until it is inspected, each return in a bin of its own. */
export const returnsLocation = (ctx: Writing): Promise<number> =>
  onlyLocation(ctx, "returns", null, "Returns");

/** The one location of a kind, of a firm or of our own, whatever it is called now; created when it is first needed, by `name`. */
async function onlyLocation(
  ctx: Writing,
  kind: LocationKind,
  firm: number | null,
  name: string,
): Promise<number> {
  const found = await ctx.model(LOCATION).findOne({ where: { kind, firm_id: firm }, order: ["id"] });
  if (found) return found.get({ plain: true }).id;
  const free = await freeName(ctx, name, kind);
  const created = await ctx
    .model(LOCATION)
    .create({ name: free, name_key: codeKey(free), kind, firm_id: firm });
  return created.get({ plain: true }).id;
}

/** A name that no place has yet: a store, or another firm's place, may be called the same. */
async function freeName(ctx: Reading, name: string, kind: string): Promise<string> {
  for (let n = 1; ; n++) {
    const candidate = n === 1 ? name : `${name} (${n === 2 ? kind : `${kind} ${n - 1}`})`;
    const taken = await ctx.model(LOCATION).count({ where: { name_key: codeKey(candidate) } });
    if (taken === 0) return candidate;
  }
}

/** Creates the bins that are not there yet, and opens closed ones again. */
export async function ensureBins(
  ctx: Writing,
  bins: readonly { location: number; bin: string }[],
): Promise<void> {
  await ctx.sql.insert(
    BIN,
    bins
      .filter(({ bin }) => bin !== "")
      .map(({ location, bin }) => ({ location_id: location, code: bin, code_key: codeKey(bin) })),
    "ON CONFLICT (location_id, code) DO UPDATE SET closed = 0 WHERE closed = 1",
  );
}

/** Names of locations by their ids. */
export async function locationNames(ctx: Reading): Promise<Map<number, string>> {
  const locations = await ctx.sql.all<{ id: number; name: string }>("SELECT id, name FROM location");
  return new Map(locations.map((location) => [location.id, location.name]));
}
