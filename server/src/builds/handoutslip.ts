import { Refusal } from "@yosegi/contract";
import type { Content } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import { type Bytes, tableBytes } from "../http/index.ts";
import { a4, cell, heads, named, RULED, workHead } from "../papers/index.ts";
import { handOuts } from "./handouts.ts";
import { buildRows } from "./rows.ts";

const right = { alignment: "right" as const };

const COLUMNS = ["Part", "Name", "Lot", "Serial", "From", "Quantity", "Unit"].map((name) => ({
  name,
  figures: name === "Quantity",
}));

/** What one hand-out brought to the bench or to a subcontractor, as a slip to go along with it. */
export async function handOutSlip(
  ctx: Reading,
  build: number,
  n: number,
  format: "pdf" | "xlsx",
): Promise<Bytes> {
  const handOut = (await handOuts(ctx, build)).find((one) => one.n === n);
  const [row] = await buildRows(ctx, [build]);
  if (!handOut || !row) throw new Refusal("not-found", { what: "hand-out", id: n });
  const name = handOut.number.replace("/", "-");
  if (format === "xlsx")
    return tableBytes(
      name,
      COLUMNS,
      handOut.parts.map(({ item, lot, serial, from, quantity }) => [
        item.code,
        item.name,
        lot,
        serial,
        from,
        quantity,
        item.unit,
      ]),
      "xlsx",
    );
  const to = row.subcontractor ? `for ${row.subcontractor.name}` : "for the bench";
  const content: Content[] = [
    workHead(
      ctx.company?.name ?? "",
      "Hand-out",
      `${handOut.day} · ${handOut.person} · ${to}`,
      handOut.number,
    ),
    {
      margin: [0, 12, 0, 12],
      text: [
        { text: `${row.product.name} (${row.product.code}), ${row.number}`, bold: true },
        handOut.units === null ? "" : `, parts for ${handOut.units} ${row.product.unit}`,
        handOut.undone ? "\nThis hand-out was undone." : "",
        handOut.note && `\n${handOut.note}`,
      ],
    },
    {
      table: {
        headerRows: 1,
        dontBreakRows: true,
        widths: ["*", "auto", "auto", 60],
        body: [
          heads([cell("Part"), cell("From"), cell("Quantity", right), cell("Received", right)]),
          ...handOut.parts.map(({ item, lot, serial, from, quantity }) => [
            named(item.name, [item.code, serial ? `serial ${serial}` : lot && `lot ${lot}`]),
            cell(from),
            cell(`${quantity} ${item.unit}`, { ...right, bold: true }),
            cell("________", right),
          ]),
        ],
      },
      layout: RULED,
    },
  ];
  return {
    name: `${name}.pdf`,
    type: "application/pdf",
    content: await a4(
      { title: `Hand-out ${handOut.number}`, author: ctx.company?.name ?? "" },
      handOut.number,
      content,
    ),
    forever: false,
  };
}
