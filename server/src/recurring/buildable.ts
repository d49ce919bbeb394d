import { listFor } from "../builds/index.ts";
import type { Reading } from "../db/index.ts";
import type { ItemTableRow } from "../items/index.ts";
import { productById } from "../items/index.ts";

/** A product that can be built: it has a list. */
export async function buildable(ctx: Reading, id: number): Promise<ItemTableRow> {
  const product = await productById(ctx, id);
  await listFor(ctx, product, { list: null, options: [], asBuilt: null, own: null });
  return product;
}
