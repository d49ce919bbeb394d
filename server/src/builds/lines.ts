import { type Decimal, quantityToScaled } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
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
