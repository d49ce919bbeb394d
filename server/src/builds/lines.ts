import { Refusal } from "@yosegi/contract";
import { type Decimal, quantityToScaled, type Units } from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { LINE_COLUMNS, type LineRow, lineOf } from "../lists/index.ts";
import type { ContentLine } from "./content.ts";
import type { StoredLine } from "./rows.ts";
import { BUILD_LINE } from "./tables.ts";

/** What is written of a line when a build takes it over. */
type Content = Pick<
  StoredLine,
  "item" | "quantity" | "unit" | "waste" | "oncePerBuild" | "drawnAt" | "store" | "note" | "listLine"
>;

/** The columns of a line as a build keeps it. */
export const storedColumns = (
  line: Content,
  figures: { line: number; need: Decimal; open: Decimal; bench: Decimal },
) => ({
  line: figures.line,
  item_id: line.item,
  quantity: quantityToScaled(line.quantity),
  unit: line.unit.code,
  waste: quantityToScaled(line.waste),
  once: line.oncePerBuild ? 1 : 0,
  need: quantityToScaled(figures.need),
  used: 0,
  open: quantityToScaled(figures.open),
  bench: quantityToScaled(figures.bench),
  drawn_at: line.drawnAt,
  location_id: line.store,
  note: line.note,
  list_line: line.listLine,
});

/** Items as lines that a build may get beside its list; what is no part is refused at the field that names it. */
export async function partLines(
  ctx: Reading,
  items: Iterable<number>,
  units: Units,
): Promise<(item: number, field: string) => ContentLine & { isArchived: boolean; code: string }> {
  const rows = await ctx.sql.all<LineRow & { code: string; archived: number }>(
    `SELECT ${LINE_COLUMNS}, i.code, i.state = 'archived' AS archived
       FROM (SELECT i.id AS item_id, 0 AS quantity, i.unit, 0 AS waste, 0 AS once
               FROM json_each($ids) ids JOIN item_head i ON i.id = ids.value) l JOIN item_head i ON i.id = l.item_id`,
    { ids: asJson(new Set(items)) },
  );
  const byItem = new Map(rows.map((row) => [row.item, row]));
  return (item, field) => {
    const row = byItem.get(item);
    if (!row) throw Refusal.at(field, "not-found", { what: "item", id: item });
    if (row.kind === "kit") throw Refusal.at(field, "part-is-kit", { code: row.code });
    return {
      ...lineOf(row, units),
      isArchived: row.archived === 1,
      code: row.code,
      optional: false,
      drawnAt: "pick",
      store: null,
      note: "",
      share: null,
      person: null,
      substitutes: [],
      listLine: null,
    };
  };
}

/** Writes the lines that a build keeps from now on. */
export async function insertStored(
  ctx: Writing,
  build: number,
  rows: readonly ReturnType<typeof storedColumns>[],
): Promise<void> {
  await ctx.sql.insert(
    BUILD_LINE,
    rows.map((row) => ({ ...row, build_id: build })),
  );
}
