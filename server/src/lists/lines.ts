import {
  type ItemKind,
  isStocked,
  type ListLine,
  quantityFromScaled,
  quantityToScaled,
  type Units,
} from "@yosegi/core";
import { unitNamed } from "../items/index.ts";

/** A line as tables keep it: quantities in millionths, waste in millionths of a percent. */
export interface LineRow {
  item: number;
  quantity: number;
  unit: string;
  waste: number;
  once: number;
  stock_unit: string;
  kind: ItemKind;
  not_stock_tracked: number;
}

/** What a query of lines reads of each line `l` and its item `i`. */
export const LINE_COLUMNS = `l.item_id AS item, l.quantity, l.unit, l.waste, l.once, i.unit AS stock_unit, i.kind, i.not_stock_tracked`;

/** Makes a line of the core from its row, whether of a parts list or of a build. */
export function lineOf(row: LineRow, units: Units): ListLine {
  return {
    item: row.item,
    quantity: quantityFromScaled(row.quantity),
    unit: unitNamed(units, row.unit),
    stockUnit: unitNamed(units, row.stock_unit),
    waste: quantityFromScaled(row.waste),
    oncePerBuild: row.once === 1,
    service: row.kind === "service",
    stocked: isStocked({ kind: row.kind, notStockTracked: row.not_stock_tracked === 1 }),
  };
}

/** What is written of a line. */
export const lineColumns = (line: ListLine) => ({
  item_id: line.item,
  quantity: quantityToScaled(line.quantity),
  unit: line.unit.code,
  waste: quantityToScaled(line.waste),
  once: line.oncePerBuild ? 1 : 0,
});
