import { type CustomField, type CustomValue, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { type CustomFieldOwner, codeKey, isDay } from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { CUSTOM_FIELD, CUSTOM_VALUE } from "./tables.ts";

/** The fields of the person's own, by name. */
export async function listFields(ctx: Reading): Promise<CustomField[]> {
  return ctx.sql.all<CustomField>(
    `SELECT f.id, f.name, f.type, (SELECT COUNT(*) FROM custom_value WHERE field_id = f.id) AS used
       FROM custom_field f ORDER BY f.name_key`,
  );
}

async function fieldById(ctx: Reading, id: number): Promise<CustomField> {
  const field = (await listFields(ctx)).find((f) => f.id === id);
  if (!field) throw new Refusal("not-found", { what: "field", id });
  return field;
}

async function refuseName(ctx: Reading, name: string, id: number | null): Promise<void> {
  const taken = (await listFields(ctx)).find((f) => f.id !== id && codeKey(f.name) === codeKey(name));
  if (taken) throw Refusal.at("name", "name-taken", { name: taken.name });
}

export async function newField(
  ctx: Writing,
  body: ParsedBody<typeof routes.newCustomField>,
): Promise<CustomField> {
  await refuseName(ctx, body.name, null);
  const row = await ctx.model(CUSTOM_FIELD).create({ ...body, name_key: codeKey(body.name) });
  return fieldById(ctx, row.get({ plain: true }).id);
}

export async function renameField(ctx: Writing, id: number, name: string): Promise<CustomField> {
  await fieldById(ctx, id);
  await refuseName(ctx, name, id);
  await ctx.model(CUSTOM_FIELD).update({ name, name_key: codeKey(name) }, { where: { id } });
  return fieldById(ctx, id);
}

export async function removeField(ctx: Writing, id: number): Promise<void> {
  await fieldById(ctx, id);
  await ctx.model(CUSTOM_FIELD).destroy({ where: { id } });
}

interface ValueRow extends CustomValue {
  code: string;
}

/** Every own field as it is filled in for one thing; empty where it is not. */
export async function customValues(
  ctx: Reading,
  owner: CustomFieldOwner,
  id: number,
  code = "",
): Promise<CustomValue[]> {
  return ctx.sql.all<CustomValue>(
    `SELECT f.id AS field, f.name, f.type, COALESCE(v.value, '') AS value
       FROM custom_field f LEFT JOIN custom_value v ON v.field_id = f.id AND v.owner = $owner AND v.owner_id = $id AND v.code = $code
      ORDER BY f.name_key`,
    { owner, id, code },
  );
}

/** Own fields of each lot and serial of an item. */
export async function customValuesByCode(
  ctx: Reading,
  item: number,
): Promise<(spot: { lot: string; serial: string }) => CustomValue[]> {
  const fields = await listFields(ctx);
  const rows = await ctx.sql.all<ValueRow & { owner: CustomFieldOwner }>(
    "SELECT owner, code, field_id AS field, value FROM custom_value WHERE owner IN ('lot', 'serial') AND owner_id = $item",
    { item },
  );
  return ({ lot, serial }) => {
    const [owner, code] = serial === "" ? ["lot", lot] : ["serial", serial];
    return code === ""
      ? []
      : fields.map(({ id, name, type }) => ({
          field: id,
          name,
          type,
          value: rows.find((r) => r.owner === owner && r.code === code && r.field === id)?.value ?? "",
        }));
  };
}

const OWNERS: Record<CustomFieldOwner, string> = {
  item: "SELECT 1 FROM item_head WHERE id = $id AND $code = ''",
  list: "SELECT 1 FROM list_head WHERE id = $id AND $code = ''",
  lot: "SELECT 1 FROM lot_head WHERE item_id = $id AND code = $code",
  serial: "SELECT 1 FROM serial_head WHERE item_id = $id AND code = $code",
};

/** Fills in own fields of one thing; a value left empty is taken out. */
export async function fillIn(ctx: Writing, body: ParsedBody<typeof routes.fillIn>): Promise<void> {
  const { owner, id, code } = body;
  if (!(await ctx.sql.one(OWNERS[owner], { id, code })))
    throw new Refusal("not-found", { what: owner, id: code || id });
  const fields = new Map((await listFields(ctx)).map((field) => [field.id, field]));
  for (const [i, { field, value }] of body.values.entries()) {
    const known = fields.get(field);
    if (!known) throw new Refusal("not-found", { what: "field", id: field });
    checkValue(`values.${i}.value`, known, value);
  }
  const fieldIds = body.values.map((value) => value.field);
  await ctx.model(CUSTOM_VALUE).destroy({ where: { owner, owner_id: id, code, field_id: fieldIds } });
  await ctx.sql.insert(
    CUSTOM_VALUE,
    body.values
      .filter(({ value }) => value !== "")
      .map(({ field, value }) => ({ owner, owner_id: id, code, field_id: field, value })),
  );
}

function checkValue(at: string, { name, type }: CustomField, value: string): void {
  if (value === "") return;
  if (type === "number" && !/^-?\d{1,15}(\.\d{1,15})?$/.test(value))
    throw Refusal.at(at, "custom-number", { name });
  if (type === "date" && !isDay(value)) throw Refusal.at(at, "custom-day", { name });
  if (type === "yes/no" && value !== "yes" && value !== "no") throw Refusal.at(at, "custom-yes", { name });
}

/** What is filled in for one thing, for another; of lots and serial numbers for those of these codes, where nothing is yet. */
export async function copyCustomValues(
  ctx: Writing,
  owner: CustomFieldOwner,
  { from, to, codes = [""] }: { from: number; to: number; codes?: readonly string[] },
): Promise<void> {
  await ctx.sql.run(
    `INSERT INTO custom_value (owner, owner_id, code, field_id, value)
     SELECT owner, $to, code, field_id, value FROM custom_value
      WHERE owner = $owner AND owner_id = $from AND code IN (SELECT value FROM json_each($codes)) ON CONFLICT DO NOTHING`,
    { owner, from, to, codes: asJson(codes) },
  );
}

/** Forgets what is filled in for something that is removed; of lots and serial numbers for those of these codes. */
export async function removeCustomValues(
  ctx: Writing,
  owner: CustomFieldOwner,
  id: number,
  codes?: readonly string[],
): Promise<void> {
  const where = { owner, owner_id: id, ...(codes && { code: [...codes] }) };
  await ctx.model(CUSTOM_VALUE).destroy({ where });
}
