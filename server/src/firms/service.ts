import {
  type Firm,
  type FirmKind,
  type FirmSheet,
  type ParsedBody,
  Refusal,
  type routes,
} from "@yosegi/contract";
import { codeKey, type FirmRow, moneyFromScaled, moneyToScaled, searchText } from "@yosegi/core";
import { asJson, findPage, type PageQuery, type Reading, type Writing } from "../db/index.ts";
import { briefs, checkCurrency } from "../items/index.ts";
import type { FirmTableRow } from "./tables.ts";
import { FIRM } from "./tables.ts";

type Row = Omit<Firm, "archived" | "onHold" | "creditLimit" | "taxExempt"> &
  Record<"archived" | "on_hold" | "tax_exempt", number> & { credit_limit: number | null };

const COLUMNS = `f.id, f.kind, f.code, f.name, f.address, f.contact, f.email, f.phone, f.terms, f.archived, f.note, f.on_hold, f.credit_limit, f.tax_exempt, f.customer_group AS "group",
  (SELECT COUNT(*) FROM supplier_terms WHERE supplier_id = f.id) AS items`;

const firmOf = ({ on_hold, credit_limit, tax_exempt, ...row }: Row): Firm => ({
  ...row,
  archived: row.archived === 1,
  onHold: on_hold === 1,
  taxExempt: tax_exempt === 1,
  creditLimit: credit_limit === null ? null : moneyFromScaled(credit_limit).toFixed(),
});

/** A page of suppliers or customers, by name; archived ones last. */
export async function findFirms(
  ctx: Reading,
  { kind, ...query }: { kind: FirmKind } & PageQuery,
): Promise<{ firms: Firm[]; total: number; next: string | null }> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "f.id",
    text: "f.search",
    from: "firm f WHERE kind = $kind ORDER BY archived, name COLLATE NOCASE, id",
    bind: { kind },
  });
  const firms = await ctx.sql.all<Row>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN firm f ON f.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  return { firms: firms.map(firmOf), total, next };
}

export async function firmById(ctx: Reading, id: number): Promise<Firm> {
  const row = await ctx.sql.one<Row>(`SELECT ${COLUMNS} FROM firm f WHERE f.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "firm", id });
  return firmOf(row);
}

/** One firm, with what it supplies or what it ordered. */
export async function firmSheet(ctx: Reading, id: number): Promise<FirmSheet> {
  const firm = await firmById(ctx, id);
  const version = await ctx.sql.one<{ version: number }>("SELECT version FROM firm WHERE id = $id", { id });
  const rows = await ctx.sql.all<{
    item: number;
    their_code: string;
    price: number | null;
    price_unit: string;
    lead_days: number | null;
    preferred: number;
  }>(
    `SELECT s.item_id AS item, s.their_code, s.price, s.price_unit, s.lead_days, s.preferred
       FROM supplier_terms s JOIN item_head i ON i.id = s.item_id WHERE s.supplier_id = $id ORDER BY i.code_key`,
    { id },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.item),
  );
  return {
    ...firm,
    version: version?.version ?? 0,
    supplies: rows.map((row) => ({
      ...brief(row.item),
      theirCode: row.their_code,
      price: row.price === null ? null : moneyFromScaled(row.price).toFixed(),
      pricePer: row.price_unit,
      leadDays: row.lead_days,
      preferred: row.preferred === 1,
    })),
    priceLists: await ctx.sql.all<FirmSheet["priceLists"][number]>(
      `SELECT l.id, CASE WHEN l.customer_id IS NULL THEN 'group' ELSE 'customer' END AS "of", l.prices
         FROM firm f JOIN price_list_head l ON l.customer_id = f.id OR (l.customer_group_key <> '' AND l.customer_group_key = f.customer_group_key)
        WHERE f.id = $id ORDER BY l.customer_id IS NULL`,
      { id },
    ),
    orders: await ctx.sql.all<FirmSheet["orders"][number]>(
      `SELECT o.id, o.number, o.stage, o.due, o.lines
         FROM order_head o WHERE o.customer_id = $id ORDER BY o.id DESC`,
      { id },
    ),
  };
}

/**
 * A supplier or customer that a document names: it must be there, and not archived, unless the document named it `before`
 * it was. Refused at `field`.
 */
export async function refuseFirm(
  ctx: Reading,
  field: string,
  kind: FirmKind,
  { id, before = null }: { id: number; before?: number | null },
): Promise<void> {
  const firm = (await ctx.model(FIRM).findByPk(id))?.get({ plain: true });
  if (firm?.kind !== kind) throw Refusal.at(field, "not-found", { what: kind, id });
  if (firm.archived === 1 && id !== before) throw Refusal.at(field, "firm-archived", { name: firm.name });
}

export async function newFirm(ctx: Writing, body: ParsedBody<typeof routes.newFirm>): Promise<Firm> {
  await refuseCode(ctx, body.kind, body.code, null);
  const { kind, note, onHold, creditLimit, taxExempt, ...fields } = body;
  await writeFirms(ctx, kind, [fields]);
  const row = await ctx.sql.one<{ id: number }>(
    "SELECT id FROM firm WHERE kind = $kind AND code_key = $key",
    {
      kind: body.kind,
      key: codeKey(body.code),
    },
  );
  if (!row) throw new Error(`${body.code} was made and is not there`);
  const terms = termsColumns(ctx, { note, onHold, creditLimit, taxExempt });
  await ctx.model(FIRM).update(terms, { where: { id: row.id } });
  return firmById(ctx, row.id);
}

export async function changeFirm(
  ctx: Writing,
  id: number,
  body: ParsedBody<typeof routes.changeFirm>,
): Promise<Firm> {
  const firm = await firmById(ctx, id);
  await refuseCode(ctx, firm.kind, body.code, id);
  const { archived, note, onHold, creditLimit, taxExempt, group, ...fields } = body;
  const columns: Partial<FirmTableRow> = {
    ...fields,
    ...termsColumns(ctx, { note, onHold, creditLimit, taxExempt }),
    code_key: codeKey(body.code),
    customer_group: group,
    customer_group_key: codeKey(group),
    search: searchOf(body),
    archived: archived ? 1 : 0,
  };
  await ctx.model(FIRM).update(columns, { where: { id } });
  return firmById(ctx, id);
}

function termsColumns(
  ctx: Reading,
  {
    note,
    onHold,
    creditLimit,
    taxExempt,
  }: Pick<ParsedBody<typeof routes.changeFirm>, "note" | "onHold" | "creditLimit" | "taxExempt">,
): Partial<FirmTableRow> {
  if (creditLimit !== null) checkCurrency(ctx, "creditLimit", creditLimit);
  return {
    note,
    on_hold: onHold ? 1 : 0,
    tax_exempt: taxExempt ? 1 : 0,
    credit_limit: creditLimit === null ? null : moneyToScaled(creditLimit),
  };
}

/** Removes a firm that nothing names; refused by the keys of whatever does. */
export async function removeFirm(ctx: Writing, id: number): Promise<Record<string, never>> {
  await firmById(ctx, id);
  await ctx.model(FIRM).destroy({ where: { id } });
  return {};
}

async function refuseCode(ctx: Reading, kind: FirmKind, code: string, id: number | null): Promise<void> {
  const taken = await ctx.sql.one<{ id: number; name: string }>(
    "SELECT id, name FROM firm WHERE kind = $kind AND code_key = $key",
    { kind, key: codeKey(code) },
  );
  if (taken && taken.id !== id) throw Refusal.at("code", "firm-taken", { name: taken.name, code });
}

const searchOf = (firm: Omit<FirmRow, "row">) => searchText(firm.code, firm.name, firm.contact);

/** Makes firms, or writes them anew where their code is there; archiving stays as it is. */
export async function writeFirms(
  ctx: Writing,
  kind: FirmKind,
  firms: readonly Omit<FirmRow, "row">[],
): Promise<void> {
  await ctx.sql.upsert(
    FIRM,
    ["kind", "code_key"],
    firms.map((firm) => ({
      kind,
      code: firm.code,
      code_key: codeKey(firm.code),
      name: firm.name,
      search: searchOf(firm),
      address: firm.address,
      contact: firm.contact,
      email: firm.email,
      phone: firm.phone,
      terms: firm.terms,
      customer_group: firm.group,
      customer_group_key: codeKey(firm.group),
    })),
  );
}
