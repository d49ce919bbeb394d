import {
  type ItemRow,
  type NewItemInput,
  type ParsedBody,
  parseAmounts,
  Refusal,
  routes,
} from "@yosegi/contract";
import { checkItems, codeKey, type ItemInput } from "@yosegi/core";
import { copyCustomValues } from "../customfields/index.ts";
import { firstOf, type Reading, type Writing } from "../db/index.ts";
import { checkCurrency, groupsByKey, itemById, knownItems, loadUnits, writeItems } from "../items/index.ts";
import { copyKit } from "../kits/index.ts";
import { ensureBins, storeId, storeIds } from "../ledger/index.ts";
import { copyList } from "../lists/index.ts";
import { refuseProblems } from "../problems.ts";
import { refuseArchive } from "./removing.ts";
import { itemRows } from "./rows.ts";
import { itemSheet } from "./sheet.ts";

const typedItem = (body: Omit<NewItemInput, "code">, code: string): ItemInput => ({ ...body, code, row: 0 });

export async function newItem(ctx: Writing, body: NewItemInput): Promise<ItemRow> {
  const input = typedItem(body, body.code);
  const known = await knownItems(ctx, [body.code], [body.barcode]);
  const taken = known.get(codeKey(body.code));
  if (taken) throw Refusal.at("code", "code-taken", { code: taken.code });
  return write(ctx, input, known);
}

/** Changes an item. What its movements and lists are told in (unit, tracking, kind) stays once they are there. */
export async function changeItem(
  ctx: Writing,
  id: number,
  body: ParsedBody<typeof routes.changeItem>,
): Promise<ItemRow> {
  const item = await itemById(ctx, id);
  const input = typedItem(body, item.code);
  if (input.state === "archived" && item.state !== "archived") await refuseArchive(ctx, item);
  return write(ctx, input, await knownItems(ctx, [item.code], [body.barcode]));
}

async function write(
  ctx: Writing,
  input: ItemInput,
  known: Awaited<ReturnType<typeof knownItems>>,
): Promise<ItemRow> {
  const units = await loadUnits(ctx);
  const { problems } = checkItems([input], known, units);
  refuseProblems(problems, (p) => p.field);
  if (input.price) checkCurrency(ctx, "price", input.price);
  const groups = await groupsByKey(ctx);
  if (input.group !== "" && !groups.has(codeKey(input.group)))
    throw Refusal.at("group", "not-found", { what: "group", id: input.group });
  if (input.store !== "")
    await ensureBins(ctx, [{ location: await storeId(ctx, "store", input.store), bin: input.bin }]);
  await writeItems(ctx, [input], {
    storeId: await storeIds(ctx),
    groupId: (name) => groups.get(codeKey(name))?.id ?? null,
    units,
  });
  return firstOf(await itemRows(ctx, [await idOfCode(ctx, input.code)]));
}

async function idOfCode(ctx: Reading, code: string): Promise<number> {
  const row = await ctx.sql.one<{ id: number }>("SELECT id FROM item WHERE code_key = $key", {
    key: codeKey(code),
  });
  if (!row) throw new Error(`${code} was written and is not there`);
  return row.id;
}

/** Makes an item like another: all it says, who supplies it, and what goes into it. Its barcode stays the other's. */
export async function copyItem(
  ctx: Writing,
  id: number,
  body: ParsedBody<typeof routes.copyItem>,
): Promise<ItemRow> {
  const sheet = await itemSheet(ctx, id);
  const made = await newItem(
    ctx,
    parseAmounts(routes.newItem.body, {
      ...sheet,
      ...body,
      price: sheet.ownPrice,
      barcode: "",
      state: "active",
    }),
  );
  await ctx.sql.run(
    `INSERT INTO item_supplier (item_id, supplier_id, their_code, price, price_per, price_unit, lead_days, minimum, multiple, web, preferred)
     SELECT $made, supplier_id, their_code, price, price_per, price_unit, lead_days, minimum, multiple, web, preferred
       FROM item_supplier WHERE item_id = $id`,
    { id, made: made.id },
  );
  await copyCustomValues(ctx, "item", { from: id, to: made.id });
  if (sheet.list) await copyList(ctx, sheet.list.revision.id, made.id, "Main");
  await copyKit(ctx, id, made.id);
  return firstOf(await itemRows(ctx, [made.id]));
}
