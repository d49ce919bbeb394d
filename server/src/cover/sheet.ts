import type { QuestionInput } from "@yosegi/contract";
import type { Reading } from "../db/index.ts";
import { type Bytes, tableBytes } from "../http/index.ts";
import { coverOf } from "./service.ts";

const FIGURES = [
  "need",
  "on_hand",
  "expired",
  "reserved",
  "free",
  "incoming",
  "short_now",
  "short_on_day",
  "left_over",
];
const COLUMNS = ["part", "name", "unit", ...FIGURES, "there_on", "supplier", "order_by"].map((name) => ({
  name,
  figures: FIGURES.includes(name),
}));

/** The parts of a check as a spreadsheet. */
export async function coverSheet(
  ctx: Reading,
  question: QuestionInput,
  format: "csv" | "xlsx",
): Promise<Bytes> {
  const { parts } = await coverOf(ctx, question);
  const rows = parts.map((p) => [
    p.code,
    p.name,
    p.unit,
    p.need,
    p.onHand,
    p.expired,
    p.reserved,
    p.free,
    p.incomingTotal,
    p.shortNow,
    p.shortOnDay,
    p.leftOver,
    p.day ?? "",
    p.supplier?.name ?? "",
    p.orderBy ?? "",
  ]);
  return tableBytes(`check-${ctx.today}`, COLUMNS, rows, format);
}
