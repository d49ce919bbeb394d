import { type Label, Refusal } from "@yosegi/contract";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { pdfBuffer } from "../papers/index.ts";
import { labels } from "./service.ts";

const ACROSS = 3;
/** Of one label in points: 24 of them fill an A4 page, 70 by 37 mm each. */
const SIZE = { width: 198.4, height: 104.9 };

/** What waits in the tray as a sheet of labels, each as often as it has copies. */
export async function labelPaper(ctx: Reading): Promise<Bytes> {
  const waiting = (await labels(ctx)).filter((label) => label.printed === null);
  if (waiting.length === 0) throw new Refusal("labels-none");
  const cells = waiting.flatMap((label) => Array.from({ length: label.copies }, () => faceOf(label)));
  while (cells.length % ACROSS !== 0) cells.push({ text: "" });
  const body = Array.from({ length: cells.length / ACROSS }, (_, row) =>
    cells.slice(row * ACROSS, (row + 1) * ACROSS),
  );
  const content = await pdfBuffer({
    info: { title: "Labels", author: ctx.company?.name ?? "" },
    pageSize: "A4",
    pageMargins: [0, 0, 0, 0],
    defaultStyle: { font: "Roboto", fontSize: 9, lineHeight: 1.15 },
    content: [
      {
        table: { widths: Array(ACROSS).fill(SIZE.width), heights: SIZE.height, body },
        layout: {
          ...{ hLineWidth: () => 0, vLineWidth: () => 0 },
          ...{ paddingLeft: () => 0, paddingRight: () => 0, paddingTop: () => 0, paddingBottom: () => 0 },
        },
      },
    ],
  });
  return { name: "labels.pdf", type: "application/pdf", content, forever: false };
}

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
