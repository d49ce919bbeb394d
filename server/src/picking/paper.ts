import type { PickStop } from "@yosegi/contract";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { binCell, itemCell } from "../labels/index.ts";
import { a4, cell, heads, RULED, workHead } from "../papers/index.ts";
import { roundSheet } from "./sheet.ts";

const right = { alignment: "right" as const };

/** A round as a list on A4, in walk order, with codes to scan and places to write what was taken. */
export async function pickPaper(ctx: Reading, id: number): Promise<Bytes> {
  const round = await roundSheet(ctx, id);
  const documents = round.documents.map(({ number, name, reference }) =>
    [number, name, reference].filter(Boolean).join(", "),
  );
  const content: Content[] = [
    workHead(ctx.company?.name ?? "", "Pick list", round.picker, round.number),
    { text: documents.join("\n"), margin: [0, 12, 0, 12] },
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: [84, "*", "auto", "auto", 50],
        body: [
          heads([cell("Bin"), cell("Item"), cell("For"), cell("Quantity", right), cell("Taken", right)]),
          ...round.stops.map(stopRow),
        ],
      },
      layout: RULED,
    },
    ...(round.missing.length === 0
      ? []
      : [
          {
            margin: [0, 14, 0, 0],
            text: `Not to be fetched: ${round.missing
              .map(({ number, item, quantity }) => `${quantity} ${item.unit} ${item.code} for ${number}`)
              .join(", ")}`,
          } as Content,
        ]),
  ];
  return {
    name: `${round.number}.pdf`,
    type: "application/pdf",
    content: await a4(
      { title: `Pick list ${round.number}`, author: ctx.company?.name ?? "" },
      round.number,
      content,
    ),
    forever: false,
  };
}

/** One stop: where, what, which lot, how many, and for whom; a set stands with its name. */
function stopRow(stop: PickStop): TableCell[] {
  const { item, quantity, shares } = stop;
  const sets = [...new Set(shares.flatMap(({ set }) => set || []))];
  return [
    binCell(stop),
    itemCell(
      item,
      stop,
      sets.map((set) => `in ${set}`),
    ),
    cell(shares.map((share) => `${shares.length > 1 ? `${share.quantity} ` : ""}${share.number}`).join("\n")),
    cell(`${quantity} ${item.unit}`, { ...right, bold: true }),
    cell("________", right),
  ];
}
