import { createRequire } from "node:module";
import type { PurchaseSheet } from "@yosegi/contract";
import { type Day, decimal, decimalsOf } from "@yosegi/core";
import pdfmake from "pdfmake";
import type { Content, TableCell, TDocumentDefinitions } from "pdfmake/interfaces.js";
import { type Bytes, tableBytes } from "../http/index.ts";

// The fonts that ship with the library; papers need every letter that names are written with.
const require = createRequire(import.meta.url);
const font = (file: string) => require.resolve(`pdfmake/fonts/Roboto/Roboto-${file}.ttf`);
pdfmake.setFonts({
  Roboto: {
    normal: font("Regular"),
    bold: font("Medium"),
    italics: font("Italic"),
    bolditalics: font("MediumItalic"),
  },
});
// Papers are made of what they are given: nothing is fetched, and no file is read but the fonts.
pdfmake.setLocalAccessPolicy((path) => /[/\\]pdfmake[/\\]fonts[/\\]/.test(path));
pdfmake.setUrlAccessPolicy(() => false);

export interface Letterhead {
  company: string;
  currency: string;
  today: Day;
}

const INK2 = "#5f5042";
const LINE = "#d8ccb6";

/** As the supplier reads it: in packs where it is ordered in packs. */
const ordered = (line: PurchaseSheet["orderLines"][number]): string =>
  line.pack === null
    ? `${line.quantity} ${line.item.unit}`
    : `${line.pack.count} × ${line.pack.name} of ${line.pack.size} ${line.item.unit}`;

/** A price with two decimals at least, and as many as it has. */
const priced = (price: string): string => {
  const exact = decimal(price);
  return exact.toFixed(Math.max(2, decimalsOf(exact)));
};

/** A purchase order on A4, with a code that the scan field reads. */
export async function purchasePdf(sheet: PurchaseSheet, address: string, head: Letterhead): Promise<Buffer> {
  const cell = (text: string, more: object = {}): TableCell => ({ text, ...more });
  const right = { alignment: "right" as const };
  const rows = sheet.orderLines.map((line, i) => [
    cell(String(i + 1)),
    [
      cell(line.item.name),
      cell(
        [line.theirCode && `your code ${line.theirCode}`, line.item.code, line.note]
          .filter(Boolean)
          .join(" · "),
        {
          ...{ fontSize: 8.5, color: INK2 },
        },
      ),
    ] as unknown as TableCell,
    cell(ordered(line), right),
    cell(`${priced(line.price)} / ${line.item.unit}`, right),
    cell(line.expected ?? "", right),
    cell(line.total, right),
  ]);
  const definition: TDocumentDefinitions = {
    info: { title: `Purchase order ${sheet.number}`, author: head.company },
    pageSize: "A4",
    pageMargins: [48, 48, 48, 56],
    defaultStyle: { font: "Roboto", fontSize: 10, lineHeight: 1.2 },
    footer: (page, pages): Content => ({
      ...{
        text: `${sheet.number} · page ${page} of ${pages}`,
        alignment: "center",
        fontSize: 8.5,
        color: INK2,
      },
    }),
    content: [
      {
        columns: [
          [
            { text: head.company, bold: true, fontSize: 12 },
            { text: `Purchase order ${sheet.number}`, bold: true, fontSize: 20, margin: [0, 10, 0, 2] },
            { text: `of ${head.today}`, color: INK2 },
          ],
          { qr: sheet.number, fit: 68, alignment: "right" },
        ],
      },
      {
        margin: [0, 18, 0, 18],
        text: [
          { text: `${sheet.supplier.name}\n`, bold: true },
          sheet.contact && `${sheet.contact}\n`,
          address,
        ],
      },
      ...(sheet.note === "" ? [] : [{ text: sheet.note, margin: [0, 0, 0, 12] } as Content]),
      {
        table: {
          headerRows: 1,
          widths: [14, "*", "auto", "auto", "auto", "auto"],
          body: [
            [
              cell(""),
              cell("What"),
              cell("Quantity", right),
              cell("Price", right),
              cell("Wanted on", right),
              cell(head.currency, right),
            ].map((c) => Object.assign(c, { bold: true, color: INK2 })),
            ...rows,
            [
              { text: "Total", colSpan: 5, bold: true },
              "",
              "",
              "",
              "",
              cell(sheet.total, { ...right, bold: true }),
            ],
          ],
        },
        layout: {
          hLineColor: () => LINE,
          hLineWidth: (i) => (i === 0 ? 0 : 0.7),
          vLineWidth: () => 0,
          paddingTop: () => 5,
          paddingBottom: () => 5,
        },
      },
      ...(sheet.terms === ""
        ? []
        : [{ text: `Terms: ${sheet.terms}`, margin: [0, 14, 0, 0], color: INK2 } as Content]),
    ],
  };
  return pdfmake.createPdf(definition).getBuffer();
}

const COLUMNS = [
  ...["order", "line", "code", "your_code", "name"].map((name) => ({ name })),
  ...["quantity", "unit", "packs", "pack", "price", "total", "currency", "wanted_on", "note"].map((name) => ({
    ...{ name, figures: ["quantity", "packs", "price", "total"].includes(name) },
  })),
];

/** The same order as a table for the supplier's own programs. */
export function purchaseCsv(sheet: PurchaseSheet, { currency }: Letterhead): Promise<Bytes> {
  const rows = sheet.orderLines.map((line, i) => [
    ...[
      sheet.number,
      String(i + 1),
      line.item.code,
      line.theirCode,
      line.item.name,
      line.quantity,
      line.item.unit,
    ],
    ...[
      line.pack?.count ?? "",
      line.pack?.name ?? "",
      line.price,
      line.total,
      currency,
      line.expected ?? "",
      line.note,
    ],
  ]);
  return tableBytes(sheet.number, COLUMNS, rows, "csv");
}
