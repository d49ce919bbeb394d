import { type Group, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { codeKey, type DrawnAt, type Tracking } from "@yosegi/core";
import type { NewRow, Reading, Writing } from "../db/index.ts";
import { storeId } from "../ledger/index.ts";
import { ITEM, ITEM_GROUP } from "./tables.ts";

/** Groups by name. */
export async function listGroups(ctx: Reading): Promise<Group[]> {
  return ctx.sql.all<Group>(
    `SELECT g.id, g.name, g.unit, g.tracking, g.drawn_at AS drawnAt, COALESCE(p.name, '') AS store,
            (SELECT COUNT(*) FROM item WHERE group_id = g.id) AS items
       FROM item_group g LEFT JOIN location_head p ON p.id = g.location_id ORDER BY g.name_key`,
  );
}

type GroupBody = ParsedBody<typeof routes.newGroup>;

export async function newGroup(ctx: Writing, body: GroupBody): Promise<Group> {
  const row = await ctx.model(ITEM_GROUP).create(await columns(ctx, body, null));
  return groupById(ctx, row.get({ plain: true }).id);
}

export async function changeGroup(ctx: Writing, id: number, body: GroupBody): Promise<Group> {
  await groupById(ctx, id);
  await ctx.model(ITEM_GROUP).update(await columns(ctx, body, id), {
    where: { id },
  });
  return groupById(ctx, id);
}

export async function removeGroup(ctx: Writing, id: number): Promise<void> {
  await groupById(ctx, id);
  await ctx.model(ITEM).update({ group_id: null }, { where: { group_id: id } });
  await ctx.model(ITEM_GROUP).destroy({ where: { id } });
}

async function groupById(ctx: Reading, id: number): Promise<Group> {
  const group = (await listGroups(ctx)).find((g) => g.id === id);
  if (!group) throw new Refusal("not-found", { what: "group", id });
  return group;
}

async function columns(ctx: Reading, body: GroupBody, id: number | null): Promise<NewRow<typeof ITEM_GROUP>> {
  const key = codeKey(body.name);
  const taken = (await groupsByKey(ctx)).get(key);
  if (taken && taken.id !== id) throw Refusal.at("name", "name-taken", { name: taken.name });
  const known = await ctx.sql.one("SELECT 1 FROM unit WHERE code = $unit", { unit: body.unit });
  if (body.unit !== null && !known) throw Refusal.at("unit", "not-found", { what: "unit", id: body.unit });
  return {
    name: body.name,
    name_key: key,
    unit: body.unit,
    tracking: body.tracking,
    drawn_at: body.drawnAt,
    location_id: body.store === "" ? null : await storeId(ctx, "store", body.store),
  };
}

/** What a group gives to an item that says nothing itself. */
export interface GroupDefaults {
  id: number;
  name: string;
  unit: string | null;
  tracking: Tracking | null;
  drawnAt: DrawnAt | null;
  store: string;
}

/** Groups by the key of their name. */
export async function groupsByKey(ctx: Reading): Promise<Map<string, GroupDefaults>> {
  return new Map((await listGroups(ctx)).map((group) => [codeKey(group.name), group]));
}

/** Makes groups that a file names and that are not there, without defaults. */
export async function createGroups(ctx: Writing, names: readonly string[]): Promise<void> {
  await ctx.sql.insert(
    ITEM_GROUP,
    names.map((name) => ({ name, name_key: codeKey(name) })),
  );
}
