import { type Label, Refusal } from "@yosegi/contract";
import type { Content, TableCell, TableLayout } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { pdfBuffer } from "../papers/index.ts";
import { labels } from "./service.ts";

const ACROSS = 3;
const ON_A_PAGE = 24;
/** Of one label in points: 24 of them fill an A4 page, 70 by 37 mm each. */
const SIZE = { width: 198.4, height: 104.9 };
const NO_LINES: TableLayout = {
  hLineWidth: () => 0,
  vLineWidth: () => 0,
  paddingLeft: () => 0,
  paddingRight: () => 0,
  paddingTop: () => 0,
  paddingBottom: () => 0,
};

/** What is next in the tray as sheets of labels, each as often as it has copies. */
export async function labelPaper(ctx: Reading): Promise<Bytes> {
  const waiting = (await labels(ctx)).labels.filter((label) => label.printed === null);
  if (waiting.length === 0) throw new Refusal("labels-none");
  const cells = waiting.flatMap((label) => Array.from({ length: label.copies }, () => faceOf(label)));
  while (cells.length % ACROSS !== 0) cells.push({ text: "" });
  const content = await pdfBuffer({
    info: { title: "Labels", author: ctx.company?.name ?? "" },
    pageSize: "A4",
    pageMargins: [0, 0, 0, 0],
    defaultStyle: { font: "SourceSans", fontSize: 9, lineHeight: 1.15 },
    // A table a page: rows that run on over pages lose the last one of a page to rounding.
    content: chunks(cells, ON_A_PAGE).map((onPage, page) => ({
      table: { widths: Array(ACROSS).fill(SIZE.width), heights: SIZE.height, body: chunks(onPage, ACROSS) },
      layout: NO_LINES,
      ...(page > 0 && { pageBreak: "before" as const }),
    })),
  });
  return { name: "labels.pdf", type: "application/pdf", content, forever: false };
}

/** A list cut into pieces of so many. */
const chunks = <T>(list: readonly T[], size: number): T[][] =>
  Array.from({ length: Math.ceil(list.length / size) }, (_, i) => list.slice(i * size, (i + 1) * size));

function faceOf({ lines, shape, svg }: Label): TableCell {
  const [first = "", ...more] = lines;
  const words: Content = {
    stack: [{ text: first, bold: true }, ...more.map((text) => ({ text, fontSize: 8 }))],
  };
  const picture: Content = { svg, fit: shape === "qr" ? [58, 58] : [168, 30] };
  return {
    margin: [14, 12, 10, 6],
    ...(shape === "qr"
      ? {
          columns: [
            { ...words, width: "*" },
            { ...picture, width: 62 },
          ],
        }
      : { stack: [words, { ...picture, margin: [0, 5, 0, 0] }] }),
  } as TableCell;
}
