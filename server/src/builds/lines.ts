import { type Decimal, quantityToWhole } from "@yosegi/core";
import { asJson, type Writing } from "../db/index.ts";
import type { KeptLine } from "./rows.ts";

/** What is written of a line when a build takes it over. */
type Content = Pick<
  KeptLine,
  "item" | "quantity" | "unit" | "waste" | "oncePerBuild" | "drawnAt" | "store" | "note" | "listLine"
>;

/** The columns of a line as a build keeps it. */
export const keptColumns = (
  line: Content,
  figures: { line: number; need: Decimal; open: Decimal; bench: Decimal },
) => ({
  line: figures.line,
  item: line.item,
  quantity: quantityToWhole(line.quantity),
  unit: line.unit.code,
  waste: quantityToWhole(line.waste),
  once: line.oncePerBuild ? 1 : 0,
  need: quantityToWhole(figures.need),
  open: quantityToWhole(figures.open),
  bench: quantityToWhole(figures.bench),
  drawn_at: line.drawnAt,
  store: line.store,
  note: line.note,
  list_line: line.listLine,
});

/** Writes the lines that a build keeps from now on. */
export async function insertKept(
  ctx: Writing,
  build: number,
  rows: readonly ReturnType<typeof keptColumns>[],
): Promise<void> {
  await ctx.sql.run(
    `INSERT INTO build_line (build_id, line, item_id, quantity, unit, waste, once, need, used, open, bench, drawn_at, location_id, note, list_line)
     SELECT $build, value ->> 'line', value ->> 'item', value ->> 'quantity', value ->> 'unit', value ->> 'waste', value ->> 'once',
            value ->> 'need', 0, value ->> 'open', value ->> 'bench', value ->> 'drawn_at', value ->> 'store', value ->> 'note',
            value ->> 'list_line' FROM json_each($rows)`,
    { build, rows: asJson(rows) },
  );
}
