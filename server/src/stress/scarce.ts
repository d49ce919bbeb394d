import { type BodyOf, PLAIN_BUILD, routes } from "@yosegi/contract";
import { handReceipt } from "../testing/companies.ts";
import type { World } from "../testing/open.ts";

/** Parts that the builds of a stress share, and the product that takes one of each. */
export interface Scarce {
  parts: number[];
  product: number;
}

/** A product of `parts` parts of which so many are in stock, each 1 a unit. */
export async function makeScarce(world: World, parts: number, stock: number): Promise<Scarce> {
  const ids: number[] = [];
  for (let i = 0; i < parts; i++) {
    const part = { code: `PART-${i}`, name: `Part ${i}`, kind: "bought", unit: "pc", cost: "1.10" };
    const { id } = await world.ok(routes.newItem, { body: part });
    await world.ok(routes.receive, { body: handReceipt(id, String(stock), { bin: "01-A" }) });
    ids.push(id);
  }
  const product = { code: "SET-1", name: "Set", kind: "built", unit: "pc" };
  const { id } = await world.ok(routes.newItem, { body: product });
  const lines = ids.map((_, i) => ({ part: `PART-${i}`, quantity: "1", unit: "pc", drawnAt: "finish" }));
  await world.ok(routes.saveList, { params: { id }, body: { makes: "1", usual: "1", lines } });
  return { parts: ids, product: id };
}

/** A queued build of so many. */
export async function queueSet(world: World, { product }: Scarce, quantity: string): Promise<number> {
  const body: BodyOf<typeof routes.newBuild> = { ...PLAIN_BUILD, product, quantity };
  const { id } = await world.ok(routes.newBuild, { body });
  await world.ok(routes.queueBuild, { params: { id } });
  return id;
}

/** The scripts run short with all other tests, and as long as they are meant to by `npm run stress`. */
export const LONG = process.env.YOSEGI_STRESS === "long";
