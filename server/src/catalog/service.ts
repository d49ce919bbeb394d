import {
  type BodyOf,
  type ItemRow,
  type ItemSheet,
  type NewItem,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  checkItems,
  codeKey,
  decimal,
  free,
  type ItemRow as ItemInput,
  moneyFromWhole,
  quantityFromWhole,
  roundMoney,
} from "@yosegi/core";
import { type ItemTableRow, type Reading, rateOrNull, type Writing } from "../db/index.ts";
import { filesOf } from "../files/index.ts";
import { reservations, stockFigures } from "../ledger/index.ts";
import { copyOwnValues, ownValues, ownValuesByCode } from "../ownfields/index.ts";
import { groupsByKey } from "./groups.ts";
import { itemById, itemRows, lying, priceText, writeItems } from "./items.ts";
import { copyKit, kitAnswer } from "./kitservice.ts";
import { knownItems, USES, useWords } from "./known.ts";
import { listAnswer } from "./listanswer.ts";
import { inForce, mainInForce } from "./lists.ts";
import { copyList } from "./listservice.ts";
import { checkCurrency } from "./pricing.ts";
import { firstOf, refuseProblems } from "./refuse.ts";
import { ensureBins, storeId, storeIds } from "./stores.ts";
import { suppliersOf } from "./suppliers.ts";
import { loadUnits } from "./units.ts";

const amountOrNull = (text: string | null) => (text === null ? null : decimal(text));

function typedItem(body: Omit<NewItem, "code">, code: string): ItemInput {
  return {
    ...body,
    code,
    row: 0,
    cost: amountOrNull(body.cost),
    price: amountOrNull(body.price),
    reorderLevel: amountOrNull(body.reorderLevel),
    packs: body.packs.map((pack) => ({ name: pack.name, quantity: decimal(pack.quantity) })),
  };
}

export async function newItem(ctx: Writing, body: NewItem): Promise<ItemRow> {
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
  body: BodyOf<typeof routes.changeItem>,
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
    await ensureBins(ctx, [{ place: await storeId(ctx, "store", input.store), bin: input.bin }]);
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

/** An archived item is offered nowhere, so nothing that is still to happen may need it. */
async function refuseArchive(ctx: Reading, item: ItemTableRow): Promise<void> {
  const row = await ctx.sql.one<{
    stock: number;
    build: number;
    coming: number;
    sold: number;
    list: string | null;
    kit: string | null;
  }>(
    `SELECT EXISTS (SELECT 1 FROM balance WHERE item_id = $id AND quantity > 0) AS stock,
            EXISTS (SELECT 1 FROM build_line WHERE item_id = $id AND open > 0)
              OR EXISTS (SELECT 1 FROM build WHERE product_id = $id AND stage IN ('draft', 'queued', 'on the bench')) AS build,
            EXISTS (SELECT 1 FROM purchase_line WHERE item_id = $id AND open > 0) AS coming,
            EXISTS (SELECT 1 FROM order_component WHERE item_id = $id AND open > 0)
              OR EXISTS (SELECT 1 FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE l.item_id = $id AND o.stage = 'open') AS sold,
            (SELECT group_concat(p.code, ', ') FROM (SELECT DISTINCT p.code FROM revision_line l
               JOIN revision v ON v.id = l.revision_id JOIN parts_list s ON s.id = v.list_id JOIN item p ON p.id = s.product_id
              WHERE l.item_id = $id AND v.id = ${inForce("s.id")} AND p.state <> 'archived' LIMIT 5) p) AS list,
            (SELECT group_concat(k.code, ', ') FROM (SELECT DISTINCT k.code FROM kit_content c JOIN item k ON k.id = c.kit_id
              WHERE c.item_id = $id AND k.state <> 'archived' LIMIT 5) k) AS kit`,
    { id: item.id, today: ctx.today },
  );
  const { code } = item;
  const refuse = (what: string) => Refusal.at("state", "archive-used", { code, what });
  if (row?.stock) throw refuse("there is stock of it");
  if (row?.build) throw refuse("open builds need it");
  if (row?.coming) throw refuse("it is on its way from a supplier");
  if (row?.sold) throw refuse("open orders ask for it");
  if (row?.list) throw refuse(`it is on the parts list of ${row.list}; replace it there first`);
  if (row?.kit) throw refuse(`it is in ${row.kit}; take it out there first`);
}

/** Removes an item that nothing was ever done with. */
export async function removeItem(ctx: Writing, id: number): Promise<void> {
  const item = await itemById(ctx, id);
  const uses = await usesOf(ctx, id);
  if (uses !== null && !(await onlyOwn(ctx, id)))
    throw new Refusal("item-used", { code: item.code, what: uses });
  await ctx.sql.run("DELETE FROM custom_value WHERE owner = 'item' AND owner_id = $id", { id });
  await ctx.sql.run("DELETE FROM parts_list WHERE product_id = $id", { id });
  await ctx.sql.run("DELETE FROM item WHERE id = $id", { id });
}

async function usesOf(ctx: Reading, id: number): Promise<string | null> {
  const row = await ctx.sql.one<Parameters<typeof useWords>[0]>(
    `SELECT ${USES} FROM item i WHERE i.id = $id`,
    { id },
  );
  return row && useWords(row);
}

/** Whether all that names an item is its own list or contents, which go with it. */
async function onlyOwn(ctx: Reading, id: number): Promise<boolean> {
  const row = await ctx.sql.one<{ named: number }>(
    `SELECT EXISTS (SELECT 1 FROM movement WHERE item_id = $id) OR EXISTS (SELECT 1 FROM build WHERE product_id = $id)
         OR EXISTS (SELECT 1 FROM build_line WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM purchase_line WHERE item_id = $id) OR EXISTS (SELECT 1 FROM purchase_need WHERE product_id = $id)
         OR EXISTS (SELECT 1 FROM sales_line WHERE item_id = $id) OR EXISTS (SELECT 1 FROM order_component WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM revision_line WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM line_substitute WHERE item_id = $id) OR EXISTS (SELECT 1 FROM kit_content WHERE item_id = $id)
         OR EXISTS (SELECT 1 FROM kit_swap WHERE item_id = $id) OR EXISTS (SELECT 1 FROM revision WHERE starts_after = $id)
         OR EXISTS (SELECT 1 FROM replacement WHERE part_id = $id OR successor_id = $id) AS named`,
    { id },
  );
  return row?.named === 0;
}

/** Makes an item like another: all it says, who supplies it, and what goes into it. Its barcode stays the other's. */
export async function copyItem(
  ctx: Writing,
  id: number,
  body: BodyOf<typeof routes.copyItem>,
): Promise<ItemRow> {
  const sheet = await itemSheet(ctx, id);
  const made = await newItem(ctx, {
    ...sheet,
    ...body,
    price: sheet.ownPrice,
    barcode: "",
    state: "active",
  });
  await ctx.sql.run(
    `INSERT INTO item_supplier (item_id, supplier_id, their_code, price, price_per, price_unit, lead_days, minimum, multiple, web, preferred)
     SELECT $made, supplier_id, their_code, price, price_per, price_unit, lead_days, minimum, multiple, web, preferred
       FROM item_supplier WHERE item_id = $id`,
    { id, made: made.id },
  );
  await copyOwnValues(ctx, "item", id, made.id);
  if (sheet.list) await copyList(ctx, sheet.list.revision.id, made.id, "Main");
  await copyKit(ctx, id, made.id);
  return firstOf(await itemRows(ctx, [made.id]));
}

export async function itemSheet(ctx: Reading, id: number): Promise<ItemSheet> {
  const item = await itemById(ctx, id);
  const row = firstOf(await itemRows(ctx, [id]));
  const held = await reservations(ctx, [id]);
  const place = await ctx.sql.one<{ name: string }>("SELECT name FROM location WHERE id = $place", {
    place: item.home_location_id,
  });
  const list = await ctx.sql.one<{ revision: number | null }>(`SELECT ${mainInForce("$id")} AS revision`, {
    id,
    today: ctx.today,
  });
  const figures = (await stockFigures(ctx, [id]))(id);
  const ownOf = await ownValuesByCode(ctx, id);
  return {
    ...row,
    // A kit's row tells its sets; its own stock there is none of.
    free: item.kind === "kit" ? row.free : free(figures).toFixed(),
    cost: item.standard_cost === null ? null : moneyFromWhole(item.standard_cost).toFixed(),
    lastCost: await lastCost(ctx, id),
    costPer: item.cost_unit,
    ownPrice: priceText(ctx, rateOrNull(item.price, item.price_per)),
    barcode: item.barcode,
    store: place?.name ?? "",
    bin: item.home_bin,
    reorderLevel: item.reorder_level === null ? null : quantityFromWhole(item.reorder_level).toFixed(),
    buildDays: item.build_days,
    shelfLife: item.shelf_life,
    warrantyMonths: item.warranty_months,
    maker: item.maker,
    makerNumber: item.maker_number,
    lotPattern: item.lot_pattern,
    notes: item.notes,
    inUse: await usesOf(ctx, id),
    suppliers: await suppliersOf(ctx, id),
    own: await ownValues(ctx, "item", id),
    files: await filesOf(ctx, "item", id),
    expired: figures.expired.toFixed(),
    lying: (await lying(ctx, id)).map((spot) => ({ ...spot, own: ownOf(spot) })),
    reservedBy: held.map(({ item: _, ...held }) => held),
    list: list?.revision ? await listAnswer(ctx, list.revision) : null,
    kit: item.kind === "kit" ? await kitAnswer(ctx, item) : null,
  };
}

/** What one unit cost when it was last bought or taken in. */
async function lastCost(ctx: Reading, id: number): Promise<string | null> {
  const row = await ctx.sql.one<{ quantity: number; value: number }>(
    `SELECT m.quantity, m.value FROM movement m
      WHERE m.item_id = $id AND m.from_location IS NULL AND m.purpose IN ('opening', 'bought') ORDER BY m.id DESC LIMIT 1`,
    { id },
  );
  return row && roundMoney(moneyFromWhole(row.value).div(quantityFromWhole(row.quantity)), 4).toFixed(4);
}
