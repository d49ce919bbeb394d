import type { AnswerOf, QueryOf, routes, SupplierReturnRow, SupplierReturnSheet } from "@yosegi/contract";
import { type Day, moneyFromScaled, quantityFromScaled, sum, ZERO } from "@yosegi/core";
import { asJson, findPage, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";
import { linesOf, supplierReturnById } from "./service.ts";

interface ListedRow {
  id: number;
  number: string;
  supplier: number;
  code: string;
  name: string;
  day: Day;
  reason: string;
  lines: number;
  credit: number;
  person: string;
  moment: string;
  undone_by: string | null;
  undone_at: string | null;
}

const COLUMNS = `r.id, r.number, f.id AS supplier, f.code, f.name, r.day, r.reason, r.credit, n.name AS person, r.moment,
  (SELECT COUNT(*) FROM supplier_return_line l WHERE l.supplier_return_id = r.id) AS lines, u.name AS undone_by, r.undone_at`;
const FROM = `supplier_return r JOIN firm_head f ON f.id = r.supplier_id JOIN person_name n ON n.id = r.person_id
  LEFT JOIN person_name u ON u.id = r.undone_by`;

const rowOf = ({
  supplier,
  code,
  name,
  credit,
  undone_by,
  undone_at,
  ...row
}: ListedRow): SupplierReturnRow => ({
  ...row,
  supplier: { id: supplier, code, name },
  credit: moneyFromScaled(credit).toFixed(4),
  undone: undone_at === null ? null : { person: undone_by ?? "", moment: undone_at },
});

/** A page of returns to suppliers, the latest first. */
export async function findSupplierReturns(
  ctx: Reading,
  query: QueryOf<typeof routes.supplierReturns>,
): Promise<AnswerOf<typeof routes.supplierReturns>> {
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "r.id",
    text: "r.number || ' ' || f.code || ' ' || f.name || ' ' || r.reason",
    from: `${FROM} ORDER BY r.id DESC`,
  });
  const rows = await ctx.sql.all<ListedRow>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE r.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
  );
  return { supplierReturns: rows.map(rowOf), total, next };
}

/** One return to a supplier: what went back, at what value. */
export async function supplierReturnSheet(ctx: Reading, id: number): Promise<SupplierReturnSheet> {
  const { number, note, posting_id, purchase_id } = await supplierReturnById(ctx, id);
  const row = await ctx.sql.one<ListedRow>(`SELECT ${COLUMNS} FROM ${FROM} WHERE r.id = $id`, { id });
  if (!row) throw new Error(`${number} is there`);
  const lines = await linesOf(ctx, id);
  const brief = await briefs(
    ctx,
    lines.map((line) => line.item_id),
  );
  const names = await locationNames(ctx);
  const moved = await ctx.sql.all<{ line: number; value: number }>(
    "SELECT source_line AS line, value FROM stock_movement WHERE posting_id = $posting",
    { posting: posting_id },
  );
  const values = new Map(moved.map(({ line, value }) => [line, moneyFromScaled(value)]));
  const returns = await ctx.sql.all<{ id: number; number: string }>(
    "SELECT id, number FROM return_head WHERE id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(lines.flatMap(({ return_id }) => return_id ?? [])) },
  );
  const purchase = await ctx.sql.one<{ id: number; number: string }>(
    "SELECT id, number FROM purchase_head WHERE id = $purchase",
    { purchase: purchase_id },
  );
  return {
    ...rowOf(row),
    note,
    value: sum([...values.values()]).toFixed(4),
    replacement: purchase ?? null,
    sent: lines.map((line) => ({
      line: line.line,
      item: brief(line.item_id),
      lot: line.lot,
      serial: line.serial,
      quantity: quantityFromScaled(line.quantity).toFixed(),
      from: `${names.get(line.location_id) ?? ""} ${line.bin}`.trim(),
      return: returns.find((own) => own.id === line.return_id) ?? null,
      value: (values.get(line.line) ?? ZERO).toFixed(4),
    })),
  };
}
