import type {
  BinToCountAnswer,
  BodyOf,
  CountLine,
  CountRow,
  CountSheet,
  countsRoutes,
} from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

export const STATE_WORDS: Record<CountRow["state"], string> = {
  open: "Under way",
  posted: "Posted",
  undone: "Undone",
  cancelled: "Cancelled",
};

/** Where a line is, as one key. */
export const binOf = ({ store, bin }: Pick<CountLine, "store" | "bin">): string => `${store} ${bin}`.trim();

/** What a count comes to, in one sentence. */
export function countSentence(
  { lines, counted, differences, found, lost }: CountSheet,
  format: Format,
): string {
  const all = `${counted} of ${format.count(lines, "line", "lines")} counted.`;
  if (counted === 0) return all;
  if (differences === 0) return `${all} Nothing differs.`;
  const money = [
    !decimal(lost).eq(0) && `${format.money(lost)} missing`,
    !decimal(found).eq(0) && `${format.money(found)} found`,
  ].filter((part) => part !== false);
  return `${all} ${format.count(differences, "differs", "differ")}: ${money.length === 0 ? "worth nothing" : format.list(money)}.`;
}

/** What moved since the sheet was made: "3 pc left this bin". */
export function movedWords({ moved, item }: CountLine, format: Format): string {
  if (moved === null || moved === "0") return "";
  const quantity = format.amount(decimal(moved).abs().toFixed(), item.unit);
  return decimal(moved).lt(0)
    ? `${quantity} left since the sheet was made`
    : `${quantity} came since the sheet was made`;
}

/** The sheet of one bin. */
export const countOfBin = ({
  location,
  bin,
}: Pick<BinToCountAnswer, "location" | "bin">): BodyOf<typeof countsRoutes.newCount> => ({
  bins: [{ location, bin }],
  store: null,
  items: [],
  days: null,
  blind: false,
  note: "",
});
