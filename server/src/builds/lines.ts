import { type Decimal, quantityToWhole } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import type { KeptLine } from "./rows.ts";
import { BUILD_LINE } from "./tables.ts";

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
  item_id: line.item,
  quantity: quantityToWhole(line.quantity),
  unit: line.unit.code,
  waste: quantityToWhole(line.waste),
  once: line.oncePerBuild ? 1 : 0,
  need: quantityToWhole(figures.need),
  used: 0,
  open: quantityToWhole(figures.open),
  bench: quantityToWhole(figures.bench),
  drawn_at: line.drawnAt,
  location_id: line.store,
  note: line.note,
  list_line: line.listLine,
});

/** Writes the lines that a build keeps from now on. */
export async function insertKept(
  ctx: Writing,
  build: number,
  rows: readonly ReturnType<typeof keptColumns>[],
): Promise<void> {
  await ctx.sql.insert(
    BUILD_LINE,
    rows.map((row) => ({ ...row, build_id: build })),
  );
}
