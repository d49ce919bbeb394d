import type { PurchaseSheet } from "@yosegi/contract";
import { currencyDecimals, type Day, decimal, decimalsOf } from "@yosegi/core";
import type { Content } from "pdfmake/interfaces.js";
import { type Bytes, tableBytes } from "../http/index.ts";
import { a4, cell, heads, INK2, named, RULED } from "../papers/index.ts";

export interface Letterhead {
  company: string;
  currency: string;
  today: Day;
}

/** As the supplier reads it: in packs where it is ordered in packs. */
const ordered = (line: PurchaseSheet["orderLines"][number]): string =>
  line.pack === null
    ? `${line.quantity} ${line.item.unit}`
    : `${line.pack.count} × ${line.pack.name} of ${line.pack.size} ${line.item.unit}`;

/** A price with the currency's decimals at least, and as many as it has. */
const priced = (price: string, currency: string): string => {
  const exact = decimal(price);
  return exact.toFixed(Math.max(currencyDecimals(currency), decimalsOf(exact)));
};

/** A purchase order on A4, with a code that the scan field reads. */
export async function purchasePdf(sheet: PurchaseSheet, address: string, head: Letterhead): Promise<Buffer> {
  return a4({ title: `Purchase order ${sheet.number}`, author: head.company }, sheet.number, [
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
    ...(sheet.deliverTo === null
      ? []
      : [
          {
            margin: [0, 0, 0, 12],
            text: [
              {
                text: `Deliver straight to our customer, order ${sheet.deliverTo.order.number}:\n`,
                bold: true,
              },
              sheet.deliverTo.address,
            ],
          } as Content,
        ]),
    ...(sheet.note === "" ? [] : [{ text: sheet.note, margin: [0, 0, 0, 12] } as Content]),
    linesTable(sheet, head.currency),
    ...(sheet.terms === ""
      ? []
      : [{ text: `Terms: ${sheet.terms}`, margin: [0, 14, 0, 0], color: INK2 } as Content]),
  ]);
}

const COLUMNS = [
  { name: "order" },
  { name: "line" },
  { name: "code" },
  { name: "your_code" },
  { name: "name" },
  { name: "quantity", figures: true },
  { name: "unit" },
  { name: "packs", figures: true },
  { name: "pack" },
  { name: "price", figures: true },
  { name: "price_per" },
  { name: "total", figures: true },
  { name: "currency" },
  { name: "wanted_on" },
  { name: "note" },
];

/** The same order as a table for the supplier's own programs. */
export function purchaseCsv(sheet: PurchaseSheet, { currency }: Letterhead): Promise<Bytes> {
  const rows = sheet.orderLines.map((line, i) => [
    sheet.number,
    String(i + 1),
    line.item.code,
    line.theirCode,
    line.item.name,
    line.quantity,
    line.item.unit,
    line.pack?.count ?? "",
    line.pack?.name ?? "",
    line.price,
    line.pricePer || line.item.unit,
    line.total,
    currency,
    line.expected ?? "",
    line.note,
  ]);
  return tableBytes(sheet.number, COLUMNS, rows, "csv");
}

const right = { alignment: "right" as const };

/** What is ordered, line by line, and what it comes to. */
function linesTable(sheet: PurchaseSheet, currency: string): Content {
  const rows = sheet.orderLines.map((line, i) => [
    cell(String(i + 1)),
    named(line.item.name, [line.theirCode && `your code ${line.theirCode}`, line.item.code, line.note]),
    cell(ordered(line), right),
    cell(`${priced(line.price, currency)} / ${line.pricePer || line.item.unit}`, right),
    cell(line.expected ?? "", right),
    cell(line.total, right),
  ]);
  return {
    table: {
      headerRows: 1,
      widths: [14, "*", "auto", "auto", "auto", "auto"],
      body: [
        heads([
          cell(""),
          cell("What"),
          cell("Quantity", right),
          cell("Price", right),
          cell("Wanted on", right),
          cell(currency, right),
        ]),
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
    layout: RULED,
  };
}
