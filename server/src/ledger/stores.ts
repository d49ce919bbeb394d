import { type ParsedBody, Refusal, type routes, type StoreAnswer } from "@yosegi/contract";
import { codeKey, type Movement } from "@yosegi/core";
import { nextNumber, type Reading, type Writing } from "../db/index.ts";
import { loadBooks } from "./books.ts";
import { createStores, ensureBins, listStores } from "./locations.ts";
import { record } from "./record.ts";
import { BIN, LOCATION } from "./tables.ts";

/** A store that must be there. */
export async function storeById(ctx: Reading, id: number): Promise<StoreAnswer> {
  const store = (await listStores(ctx)).find((one) => one.id === id);
  if (!store) throw new Refusal("not-found", { what: "store", id });
  return store;
}

/** The bin of a store that is named, in whatever capitals; one it hasn't is refused at the field. Errors: `no-such-bin`. */
export function binNamed(store: StoreAnswer, code: string, field: string): string {
  const bin = store.bins.find((one) => codeKey(one) === codeKey(code));
  if (bin === undefined) throw Refusal.at(field, "no-such-bin", { store: store.name, bin: code });
  return bin;
}

async function refuseName(ctx: Reading, name: string, id: number | null): Promise<void> {
  const found = await ctx.model(LOCATION).findOne({ where: { name_key: codeKey(name) } });
  const taken = found?.get({ plain: true });
  if (taken && taken.id !== id) throw Refusal.at("name", "store-taken", { name: taken.name });
}

/** Adds a store. */
export async function newStore(ctx: Writing, name: string): Promise<StoreAnswer> {
  await refuseName(ctx, name, null);
  await createStores(ctx, [name]);
  const made = (await listStores(ctx)).at(-1);
  if (!made) throw new Error(`${name} was made and is not there`);
  return made;
}

/** Renames a store, or archives one that holds nothing: it is offered nowhere any more. */
export async function changeStore(
  ctx: Writing,
  id: number,
  { name, archived }: ParsedBody<typeof routes.changeStore>,
): Promise<StoreAnswer> {
  await storeById(ctx, id);
  await refuseName(ctx, name, id);
  if (archived) {
    await refuseLast(ctx, id, name);
    const used = await useOf(ctx, id);
    if (used !== null) throw Refusal.at("archived", "store-used", { name, what: used });
  }
  const columns = { name, name_key: codeKey(name), archived: archived ? 1 : 0 };
  await ctx.model(LOCATION).update(columns, { where: { id } });
  return storeById(ctx, id);
}

/** What a store is still used for; null where it holds no stock, is nobody's default and no open build is put away in it. */
async function useOf(ctx: Reading, id: number): Promise<string | null> {
  const row = await ctx.sql.one<{ what: string }>(
    `SELECT 'stock is kept there' AS what FROM balance WHERE location_id = $id AND quantity <> 0
      UNION ALL SELECT 'it is the default store of ' || code FROM item_head WHERE home_location_id = $id AND state <> 'archived'
      UNION ALL SELECT number || ' will be put away there' FROM build_head
                 WHERE location_id = $id AND stage IN ('draft', 'queued', 'on the bench') LIMIT 1`,
    { id },
  );
  return row?.what ?? null;
}

/** Removes a store that nothing was ever in, and that nothing names. */
export async function removeStore(ctx: Writing, id: number): Promise<Record<string, never>> {
  const { name } = await storeById(ctx, id);
  await refuseLast(ctx, id, name);
  await ctx.model(BIN).destroy({ where: { location_id: id } });
  await ctx.model(LOCATION).destroy({ where: { id } });
  return {};
}

async function refuseLast(ctx: Reading, id: number, name: string): Promise<void> {
  const others = (await listStores(ctx)).filter((store) => store.id !== id && !store.archived);
  if (others.length === 0) throw new Refusal("last-one", { name, what: "store" });
}

/** Adds bins to a store; one that is there already is refused. */
export async function addBins(
  ctx: Writing,
  id: number,
  { bins }: ParsedBody<typeof routes.addBins>,
): Promise<StoreAnswer> {
  const store = await storeById(ctx, id);
  const keys = bins.map(codeKey);
  const known = new Set(store.bins.map(codeKey));
  const at = keys.findIndex((key, i) => known.has(key) || keys.indexOf(key) < i);
  if (at >= 0) throw Refusal.at(`bins.${at}`, "bin-taken", { store: store.name, bin: bins[at] ?? "" });
  await ensureBins(
    ctx,
    bins.map((bin) => ({ location: id, bin })),
  );
  return storeById(ctx, id);
}

/** Writes the order in which one walks by the bins of a store; those that are not named come after, by their code. */
export async function orderBins(
  ctx: Writing,
  id: number,
  { bins }: ParsedBody<typeof routes.orderBins>,
): Promise<StoreAnswer> {
  const store = await storeById(ctx, id);
  const named = bins.map((bin, i) => binNamed(store, bin, `bins.${i}`));
  await ctx.model(BIN).update({ walk: null }, { where: { location_id: id } });
  await ctx.sql.update(
    BIN,
    ["location_id", "code"],
    named.map((code, i) => ({ location_id: id, code, walk: i + 1 })),
  );
  return storeById(ctx, id);
}

/**
 * Moves all that is in one of a store's bins to a new one, which takes its place in the walk, and closes it. Gives the number of
 * the move; null where it was empty. Errors: `bin-taken`.
 */
export async function moveBin(
  ctx: Writing,
  store: StoreAnswer,
  bin: string,
  to: string,
): Promise<string | null> {
  const { id } = store;
  if (store.bins.some((one) => codeKey(one) === codeKey(to)))
    throw Refusal.at("to", "bin-taken", { store: store.name, bin: to });
  const items = await ctx.sql.all<{ item: number }>(
    "SELECT DISTINCT item_id AS item FROM balance WHERE location_id = $id AND bin = $bin AND quantity > 0",
    { id, bin },
  );
  const { stock } = await loadBooks(
    ctx,
    items.map(({ item }) => item),
  );
  const movements = [...stock.balances.values()]
    .filter((balance) => balance.location === id && balance.bin === bin && balance.quantity.gt(0))
    .map(({ item, lot, serial, quantity, ...from }): Movement => {
      const moved = { item, lot, serial, quantity, from, to: { ...from, bin: to }, value: null };
      return { ...moved, purpose: "moved" };
    });
  await ensureBins(ctx, [{ location: id, bin: to }]);
  await ctx.sql.run(
    `UPDATE bin SET walk = (SELECT walk FROM bin WHERE location_id = $id AND code = $bin) WHERE location_id = $id AND code = $to`,
    { id, bin, to },
  );
  await ctx.model(BIN).update({ closed: 1, walk: null }, { where: { location_id: id, code: bin } });
  if (movements.length === 0) return null;
  const document = await nextNumber(ctx, "M");
  const reason = `bin ${bin} is ${to} now`;
  await record(ctx, { kind: "move", document, day: ctx.today, reason, movements, lots: [], books: stock });
  return document;
}

/** Removes a bin that is empty and no item's default; one that was used is closed, for the ledger names it. */
export async function removeBin(ctx: Writing, id: number, code: string): Promise<StoreAnswer> {
  const store = await storeById(ctx, id);
  const bin = binNamed(store, code, "bin");
  const used = await ctx.sql.one<{ what: string }>(
    `SELECT 'stock is in it' AS what FROM balance WHERE location_id = $id AND bin = $bin AND quantity > 0
      UNION ALL SELECT 'it is the default bin of ' || code FROM item_head WHERE home_location_id = $id AND home_bin = $bin
      UNION ALL SELECT number || ' will be put away in it' FROM build_head
                 WHERE location_id = $id AND bin = $bin AND stage IN ('draft', 'queued', 'on the bench') LIMIT 1`,
    { id, bin },
  );
  if (used) throw Refusal.at("bin", "bin-used", { bin, what: used.what });
  const moved = await ctx.sql.one<{ id: number }>(
    `SELECT id FROM movement WHERE (from_location = $id AND from_bin = $bin) OR (to_location = $id AND to_bin = $bin) LIMIT 1`,
    { id, bin },
  );
  const where = { location_id: id, code: bin };
  if (moved) await ctx.model(BIN).update({ closed: 1, walk: null }, { where });
  else await ctx.model(BIN).destroy({ where });
  return storeById(ctx, id);
}
