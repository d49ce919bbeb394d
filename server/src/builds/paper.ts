import { type BuildSheet, Refusal } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import { fileContent } from "../files/index.ts";
import type { Bytes } from "../http/index.ts";
import { a4, cell, heads, INK2, named, RULED } from "../papers/index.ts";
import { buildSheet } from "./service.ts";

/** Build sheets on A4, each on a page of its own, with a code that the scan field reads. */
export async function buildPaper(ctx: Reading, ids: readonly number[]): Promise<Bytes> {
  const sheets: BuildSheet[] = [];
  for (const id of ids) sheets.push(await buildSheet(ctx, id));
  const [first] = sheets;
  if (!first) throw new Refusal("not-found", { what: "build", id: 0 });
  const numbers = sheets.map((sheet) => sheet.number).join(", ");
  const pages: Content[] = [];
  for (const [i, sheet] of sheets.entries()) pages.push(...(await page(ctx, sheet, i > 0)));
  const title = sheets.length === 1 ? `Build sheet ${first.number}` : `Build sheets ${numbers}`;
  return {
    name: `${sheets.length === 1 ? first.number : "build-sheets"}.pdf`,
    type: "application/pdf",
    content: await a4({ title, author: ctx.company?.name ?? "" }, numbers, pages),
    forever: false,
  };
}

/** The orders it is built for, or the customer without one. */
const forWhom = ({ orders, customer }: BuildSheet): string =>
  orders.map((link) => `${link.customer.name}, ${link.number}`).join("; ") || (customer?.name ?? "");

const right = { alignment: "right" as const };

async function page(ctx: Reading, sheet: BuildSheet, breaks: boolean): Promise<Content[]> {
  const { product, unit } = { product: sheet.product, unit: sheet.product.unit };
  const facts = [
    ["Due", sheet.due ?? ""],
    ["Begin by", sheet.start ?? ""],
    ["For", forWhom(sheet)],
    ["Done by", sheet.outside?.name ?? sheet.assigned?.name ?? ""],
    ["To", [sheet.store, sheet.bin].filter(Boolean).join(" ")],
    ["Cost tag", sheet.costTag],
    ["Parts list", sheet.list ? `${sheet.list.name}, revision ${sheet.list.revision}` : ""],
  ].filter(([, value]) => value !== "");
  const picture = await pictureOf(ctx, sheet);
  return [
    {
      ...(breaks && { pageBreak: "before" as const }),
      columns: [
        [
          { text: ctx.company?.name ?? "", bold: true, fontSize: 12 },
          {
            text: `${sheet.open} ${unit} × ${product.name}`,
            bold: true,
            fontSize: 20,
            margin: [0, 10, 0, 2],
          },
          { text: `${sheet.number} · ${product.code} · ${sheet.stage}`, color: INK2 },
        ],
        ...(picture === null ? [] : [{ image: picture, fit: [92, 92] as [number, number], width: 104 }]),
        { qr: sheet.number, fit: 78, alignment: "right", width: 84 },
      ],
    },
    {
      margin: [0, 14, 0, 12],
      columns: facts.map(([name, value]) => ({
        width: "auto",
        margin: [0, 0, 18, 0],
        stack: [{ text: name ?? "", fontSize: 8.5, color: INK2 }, { text: value ?? "" }],
      })),
    },
    ...(sheet.note === "" ? [] : [{ text: sheet.note, margin: [0, 0, 0, 12] } as Content]),
    {
      table: {
        headerRows: 1,
        widths: ["*", "auto", "auto", "auto", 56],
        body: [
          heads([
            cell("Part"),
            cell("From"),
            cell("Lot or serial"),
            cell("Planned", right),
            cell("Really used", right),
          ]),
          ...sheet.lines.map(row),
        ],
      },
      layout: RULED,
    },
    {
      margin: [0, 18, 0, 0],
      columns: ["Good", "Rejected, and why", "Minutes", "Signed"].map((text) => ({
        text: `${text}: ______________`,
        color: INK2,
      })),
    },
  ];
}

/** A line as the builder reads it: what is still needed, where it lies, and a place to write what was used. */
function row(line: BuildSheet["lines"][number]): TableCell[] {
  const rest = decimal(line.need).minus(line.used);
  const where = decimal(line.bench).gt(0) ? "bench" : [line.store, line.bin].filter(Boolean).join(" ");
  const lots = line.choices.slice(0, 3).map((choice) => choice.code);
  return [
    named(line.item.name, [
      line.item.code,
      line.drawnAt === "finish" && line.stocked && "drawn at finish",
      line.note,
    ]),
    cell(line.service ? "work" : where),
    cell(lots.join(", ")),
    cell(`${rest.gt(0) ? rest.toFixed() : "0"} ${line.unit}`, right),
    cell("_________", right),
  ];
}

/** The product's picture where it is of a kind that a paper can show. */
async function pictureOf(ctx: Reading, sheet: BuildSheet): Promise<string | null> {
  if (sheet.picture === null) return null;
  const file = await fileContent(ctx, sheet.picture, false);
  if (file.type !== "image/png" && file.type !== "image/jpeg") return null;
  return `data:${file.type};base64,${file.content.toString("base64")}`;
}
