import type { Content, TableCell } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { binCell, itemCell } from "../labels/index.ts";
import { a4, cell, heads, RULED, workHead } from "../papers/index.ts";
import { countSheet } from "./sheet.ts";

const right = { alignment: "right" as const };

/** A count sheet on A4, with codes to scan and places to write; a blind one is without what the books say. */
export async function countPaper(ctx: Reading, id: number): Promise<Bytes> {
  const { number, note, person, sheet, blind } = await countSheet(ctx, id);
  const content: Content[] = [
    workHead(ctx.company?.name ?? "", "Count sheet", [person, note].filter(Boolean).join(" · "), number),
    {
      margin: [0, 12, 0, 0],
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [84, "*", ...(blind ? [] : ["auto"]), 70],
        body: [
          heads([
            cell("Bin"),
            cell("Item"),
            ...(blind ? [] : [cell("Books", right)]),
            cell("Counted", right),
          ]),
          ...sheet.map((line): TableCell[] => [
            binCell(line),
            itemCell(line.item, line),
            ...(blind ? [] : [cell(`${line.books ?? ""} ${line.item.unit}`, right)]),
            cell(`________ ${line.item.unit}`, right),
          ]),
        ],
      },
      layout: RULED,
    },
  ];
  return {
    name: `${number}.pdf`,
    type: "application/pdf",
    content: await a4({ title: `Count sheet ${number}`, author: ctx.company?.name ?? "" }, number, content),
    forever: false,
  };
}
