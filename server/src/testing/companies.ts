import { type NewItem, routes } from "@yosegi/contract";
import type { World } from "./open.ts";

/** Id of a supplier or customer of the demo company, by its code. */
export async function firmId(world: World, kind: "supplier" | "customer", code: string): Promise<number> {
  const { firms } = await world.ok(routes.firms, { query: { kind, search: code } });
  const found = firms.find((firm) => firm.code === code);
  if (!found) throw new Error(`no ${kind} ${code}`);
  return found.id;
}

/** Makes an item; gives its id. */
export async function newItem(world: World, code: string, more: Partial<NewItem> = {}): Promise<number> {
  const body = { code, name: code, kind: "bought", unit: "pc", cost: "1.00", ...more };
  return (await world.ok(routes.newItem, { body })).id;
}

/** What a parts list says of one part. */
export interface PartOfList {
  part: string;
  quantity: string;
  unit?: string;
  substitutes?: { item: string; quantity: string }[];
}

/** Writes the main list of a product; it stays a draft, and is in force while none is locked. Gives the revision's id. */
export async function writeList(
  world: World,
  product: number,
  lines: readonly PartOfList[],
  head: object = {},
): Promise<number> {
  const { revision } = await world.ok(routes.saveList, {
    params: { id: product },
    body: {
      makes: "1",
      usual: "1",
      overhead: "0",
      extra: "0",
      yield: "100",
      ...head,
      lines: lines.map(({ unit = "pc", ...line }) => ({ ...line, unit })),
    },
  });
  return revision.id;
}

/** Locks a revision, in force at once where nothing else is said. */
export async function lockList(world: World, revision: number, starting: object = {}): Promise<void> {
  const body = { starts: "at once", startsOn: null, startsAfter: null, note: "", ...starting };
  await world.ok(routes.lockRevision, { params: { id: revision }, body });
}

/** A receipt by hand of one line, as it is sent; `more` may say the day and the reason too. */
export function handReceipt(item: number, quantity: string, more: Record<string, unknown> = {}) {
  const { day = "2026-11-23", reason = "", ...line } = more;
  return { lines: [{ item, quantity, store: "Front store", bin: "", ...line }], day, reason };
}

/** Takes stock in by hand. */
export async function takeIn(world: World, item: number, quantity: string, more: object = {}): Promise<void> {
  await world.ok(routes.receive, { body: handReceipt(item, quantity, { unitCost: "1.00", ...more }) });
}
