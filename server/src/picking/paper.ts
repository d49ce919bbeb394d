import type { PickStop } from "@yosegi/contract";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { codeSvg, fitsCode128 } from "../labels/index.ts";
import { a4, cell, heads, INK2, named, RULED } from "../papers/index.ts";
import { roundSheet } from "./sheet.ts";

const right = { alignment: "right" as const };

/** A round as a list on A4, in walk order, with codes to scan and places to write what was taken. */
export async function pickPaper(ctx: Reading, id: number): Promise<Bytes> {
  const round = await roundSheet(ctx, id);
  const documents = round.documents.map(({ number, name, reference }) =>
    [number, name, reference].filter(Boolean).join(", "),
  );
  const content: Content[] = [
    {
      columns: [
        [
          { text: ctx.company?.name ?? "", bold: true, fontSize: 12 },
          { text: `Pick list ${round.number}`, bold: true, fontSize: 20, margin: [0, 10, 0, 2] },
          { text: round.picker, color: INK2 },
        ],
        { qr: round.number, fit: 78, alignment: "right", width: 84 },
      ],
    },
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

/** A code under its words; text alone where bars can't write it. */
const coded = (words: Content, code: string): TableCell =>
  ({
    stack: [
      words,
      ...(code !== "" && fitsCode128(code)
        ? [{ svg: codeSvg({ code, shape: "code 128" }), fit: [84, 20], margin: [0, 3, 0, 0] }]
        : []),
    ],
  }) as TableCell;

/** One stop: where, what, which lot, how many, and for whom; a set stands with its name. */
function stopRow({ store, bin, item, lot, serial, expiry, quantity, shares }: PickStop): TableCell[] {
  const sets = [...new Set(shares.flatMap(({ set }) => set || []))];
  const piece = serial || lot;
  return [
    coded({ text: [{ text: bin || "–", bold: true }, `\n${store}`] }, bin),
    coded(
      {
        stack: [
          named(item.name, [
            item.code,
            piece && `${serial ? "serial" : "lot"} ${piece}`,
            expiry !== null && `use by ${expiry}`,
            ...sets.map((set) => `in ${set}`),
          ]),
        ],
      } as Content,
      piece || item.code,
    ),
    cell(shares.map((share) => `${shares.length > 1 ? `${share.quantity} ` : ""}${share.number}`).join("\n")),
    cell(`${quantity} ${item.unit}`, { ...right, bold: true }),
    cell("________", right),
  ];
}
