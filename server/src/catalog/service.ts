import {
  type BodyOf,
  type ItemRow,
  type ItemSheet,
  type ListDraftBody,
  messageOf,
  type NewItem,
  type PartsListAnswer,
  Refusal,
  type routes,
} from "@yosegi/contract";
import {
  checkHead,
  checkItem,
  checkItems,
  checkLines,
  codeKey,
  decimal,
  free,
  type ItemRow as ItemInput,
  type KnownItem,
  type ListDraft,
  listCost,
  moneyFromWhole,
  type PartsList,
  type Problem,
  reporter,
  type Units,
} from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { reservations, stockFigures } from "../ledger/index.ts";
import { currentCosts } from "./costs.ts";
import { briefs, createItems, itemById, itemColumns, itemRows, knownItems, lying } from "./items.ts";
import { loadLists, writeList } from "./lists.ts";
import { ensureBins, storeId, storeIds } from "./stores.ts";
import { loadUnits, unitNamed } from "./units.ts";

/** Refuses a form for what the core found wrong with it; `path` turns a problem's row into the field's path. */
export function refuseProblems(problems: readonly Problem[], path: (problem: Problem) => string): void {
  const [first] = problems;
  if (!first) return;
  const fields = problems.map((p) => ({
    field: path(p),
    code: p.code,
    message: messageOf(p.code, p.params),
  }));
  throw problems.length === 1
    ? new Refusal(first.code, first.params, fields)
    : new Refusal("invalid-input", {}, fields);
}

const amountOrNull = (text: string | null) => (text === null ? null : decimal(text));

function typedItem(body: Omit<NewItem, "code">, code: string): ItemInput {
  return { ...body, code, row: 0, cost: amountOrNull(body.cost), price: amountOrNull(body.price) };
}

export async function newItem(ctx: Writing, body: NewItem): Promise<ItemRow> {
  const input = typedItem(body, body.code);
  const { problems } = checkItems([input], await knownItems(ctx), await loadUnits(ctx));
  refuseProblems(problems, (p) => p.field);
  await useBin(ctx, input);
  await createItems(ctx, [input], await storeIds(ctx));
  const made = await ctx.models.item.findOne({
    where: { code_key: codeKey(body.code) },
    transaction: ctx.transaction,
  });
  if (!made) throw new Error(`${body.code} was made and is not there`);
  return firstOf(await itemRows(ctx, [made.get({ plain: true }).id]));
}

/** Changes an item. What its movements and lists are told in (unit, tracking, kind) stays once they are there. */
export async function changeItem(
  ctx: Writing,
  id: number,
  body: BodyOf<typeof routes.changeItem>,
): Promise<ItemRow> {
  const item = await itemById(ctx, id);
  const input = typedItem(body, item.code);
  const problems: Problem[] = [];
  checkItem(input, await loadUnits(ctx), reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
  const inUse = await whatDepends(ctx, id);
  for (const field of ["kind", "unit", "tracking"] as const)
    if (inUse !== null && body[field] !== item[field])
      throw Refusal.at(field, "kind-in-use", { code: item.code, what: inUse, field });
  await useBin(ctx, input);
  const home = (await storeIds(ctx))(input.store);
  await ctx.models.item.update(itemColumns(input, home), { where: { id }, transaction: ctx.transaction });
  return firstOf(await itemRows(ctx, [id]));
}

/** What keeps an item's unit, tracking and kind as they are, in words; null where nothing does. */
async function whatDepends(ctx: Reading, id: number): Promise<string | null> {
  const row = await ctx.sql.one<{ moved: number; part: number; list: number; build: number }>(
    `SELECT EXISTS (SELECT 1 FROM movement WHERE item_id = $id) AS moved,
            EXISTS (SELECT 1 FROM parts_list_line WHERE item_id = $id) AS part,
            EXISTS (SELECT 1 FROM parts_list WHERE product_id = $id) AS list,
            EXISTS (SELECT 1 FROM build WHERE product_id = $id UNION ALL SELECT 1 FROM build_line WHERE item_id = $id) AS build`,
    { id },
  );
  if (row?.moved) return "movements on the books";
  if (row?.build) return "builds";
  if (row?.list) return "a parts list";
  return row?.part ? "a place on parts lists" : null;
}

async function useBin(ctx: Writing, item: ItemInput): Promise<void> {
  if (item.store === "") return;
  await ensureBins(ctx, [{ place: await storeId(ctx, "store", item.store), bin: item.bin }]);
}

export async function itemSheet(ctx: Reading, id: number): Promise<ItemSheet> {
  const item = await itemById(ctx, id);
  const row = firstOf(await itemRows(ctx, [id]));
  const list = (await loadLists(ctx, [id])).get(id);
  const held = await reservations(ctx, [id]);
  const place = item.home_place_id && (await ctx.models.place.findByPk(item.home_place_id));
  return {
    ...row,
    cost: item.standard_cost === null ? null : moneyFromWhole(item.standard_cost).toFixed(),
    store: place ? place.get({ plain: true }).name : "",
    bin: item.home_bin,
    expired: (await stockFigures(ctx, [id]))(id).expired.toFixed(),
    lying: await lying(ctx, id),
    reservedBy: held.map(({ build, number, quantity }) => ({ build, number, quantity })),
    list: list ? await listAnswer(ctx, list) : null,
  };
}

async function listAnswer(ctx: Reading, list: PartsList): Promise<PartsListAnswer> {
  const parts = list.lines.map((line) => line.item);
  const brief = await briefs(ctx, parts);
  const unitCost = await currentCosts(ctx, parts);
  const stock = await stockFigures(ctx, parts);
  const cost = listCost(list, list.usual, unitCost);
  return {
    makes: list.makes.toFixed(),
    usual: list.usual.toFixed(),
    overhead: list.overhead.toFixed(),
    lines: list.lines.map((line, i) => ({
      line: i + 1,
      part: {
        ...brief(line.item),
        free: free(stock(line.item)).toFixed(),
        unitCost: unitCost(line.item)?.toFixed(4) ?? null,
      },
      quantity: line.quantity.toFixed(),
      unit: line.unit.code,
      waste: line.waste.toFixed(),
      oncePerBuild: line.oncePerBuild,
    })),
    expected: {
      materials: cost.materials.toFixed(4),
      work: cost.work.toFixed(4),
      overhead: cost.overhead.toFixed(4),
      total: cost.total.toFixed(4),
      each: cost.each.toFixed(4),
      unknown: cost.unknown.map((item) => brief(item).code),
    },
  };
}

/** Writes a parts list typed in a form. */
export async function saveList(ctx: Writing, id: number, body: ListDraftBody): Promise<PartsListAnswer> {
  const product = await itemById(ctx, id);
  const known = await knownItems(ctx);
  const units = await loadUnits(ctx);
  const draft: ListDraft = {
    product: product.code,
    makes: decimal(body.makes),
    usual: decimal(body.usual),
    overhead: decimal(body.overhead),
    lines: body.lines.map((line, row) => ({
      ...line,
      row,
      quantity: decimal(line.quantity),
      waste: decimal(line.waste),
    })),
  };
  const problems: Problem[] = [];
  checkHead(draft, known, units, reporter(-1, problems));
  problems.push(...checkLines(draft, known, units));
  refuseProblems(problems, (p) => (p.row < 0 ? p.field : `lines.${p.row}.${p.field}`));
  const list = listOf(draft, known, units);
  await writeList(ctx, id, list);
  return listAnswer(ctx, list);
}

/** A checked draft as the core's list, with ids for codes. */
export function listOf(
  draft: ListDraft,
  known: ReadonlyMap<string, KnownItem & { id: number }>,
  units: Units,
): PartsList {
  return {
    makes: draft.makes,
    usual: draft.usual,
    overhead: draft.overhead,
    lines: draft.lines.map((line) => {
      const part = known.get(codeKey(line.part));
      if (!part) throw new Error(`${line.part} was checked and is not there`);
      return {
        item: part.id,
        quantity: line.quantity,
        unit: unitNamed(units, line.unit),
        stockUnit: unitNamed(units, part.unit),
        waste: line.waste,
        oncePerBuild: line.oncePerBuild,
        service: part.kind === "service",
      };
    }),
  };
}

function firstOf<T>(rows: readonly T[]): T {
  const [row] = rows;
  if (row === undefined) throw new Error("The row just written is not there");
  return row;
}
