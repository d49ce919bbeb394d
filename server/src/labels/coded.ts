import type { ItemBrief } from "@yosegi/contract";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import { named } from "../papers/index.ts";
import { codeSvg, fitsCode128 } from "./code.ts";

/** A code under its words; text alone where bars can't write it. */
function coded(words: Content, code: string): TableCell {
  const bars: Content[] =
    code !== "" && fitsCode128(code)
      ? [{ svg: codeSvg({ code, shape: "code 128" }), fit: [84, 20], margin: [0, 3, 0, 0] }]
      : [];
  return { stack: [words, ...bars] } as TableCell;
}

/** A bin on a paper, with its code to scan. */
export const binCell = ({ bin, store }: { bin: string; store: string }): TableCell =>
  coded({ text: [{ text: bin || "–", bold: true }, `\n${store}`] }, bin);

/** An item on a paper, with the code to scan it by: of its lot or serial number, else its own. */
export function itemCell(
  item: ItemBrief,
  { lot, serial, expiry }: { lot: string; serial: string; expiry: string | null },
  more: readonly string[] = [],
): TableCell {
  const piece = serial || lot;
  const words = named(item.name, [
    item.code,
    piece && `${serial ? "serial" : "lot"} ${piece}`,
    expiry !== null && `use by ${expiry}`,
    ...more,
  ]);
  return coded({ stack: [words] } as Content, piece || item.code);
}
