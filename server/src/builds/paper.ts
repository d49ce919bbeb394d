import { type BuildRow, type BuildSheet, Refusal } from "@yosegi/contract";
import { decimal, quantityFromScaled } from "@yosegi/core";
import type { Column, Content, TableCell } from "pdfmake/interfaces.js";
import { asJson, type Reading } from "../db/index.ts";
import { imageAddresses } from "../files/index.ts";
import type { Bytes } from "../http/index.ts";
import { a4, cell, heads, INK2, named, RULED } from "../papers/index.ts";
import { buildRows, buildsById, doneOf } from "./rows.ts";
import { type SheetParts, sheetParts } from "./sheetparts.ts";

/** Build sheets on A4, each on a page of its own, with a code that the scan field reads. */
export async function buildPaper(ctx: Reading, ids: readonly number[]): Promise<Bytes> {
  const sheets = await paperSheets(ctx, ids);
  const numbers = sheets.map((sheet) => sheet.row.number).join(", ");
  const only = sheets.length === 1;
  const title = `${only ? "Build sheet" : "Build sheets"} ${numbers}`;
  return {
    name: `${only ? numbers : "build-sheets"}.pdf`,
    type: "application/pdf",
    content: await a4(
      { title, author: ctx.company?.name ?? "" },
      numbers,
      sheets.flatMap((sheet, i) => page(ctx, sheet, i > 0)),
    ),
    forever: false,
  };
}

interface PaperSheet extends SheetParts {
  row: BuildRow;
  note: string;
  open: string;
  picture: string | null;
}

/** What the papers say, in the order asked for. */
async function paperSheets(ctx: Reading, ids: readonly number[]): Promise<PaperSheet[]> {
  const builds = await buildsById(ctx, ids);
  const rows = new Map((await buildRows(ctx, ids)).map((row) => [row.id, row]));
  const parts = await sheetParts(ctx, [...builds.values()]);
  const picture = await pictures(
    ctx,
    [...builds.values()].map((build) => build.product_id),
  );
  return [...new Set(ids)].map((id) => {
    const [build, row] = [builds.get(id), rows.get(id)];
    if (!build || !row) throw new Refusal("not-found", { what: "build", id });
    return {
      ...parts(build),
      row,
      note: build.note,
      open: quantityFromScaled(build.quantity).minus(doneOf(build)).toFixed(),
      picture: picture(build.product_id),
    };
  });
}

/** The orders it is built for, or the customer without one. */
const forWhom = ({ orders, customer }: BuildRow): string =>
  orders.map((link) => `${link.customer.name}, ${link.number}`).join("; ") || (customer?.name ?? "");

const right = { alignment: "right" as const };

function page(ctx: Reading, sheet: PaperSheet, breaks: boolean): Content[] {
  return [
    { ...(breaks && { pageBreak: "before" as const }), columns: heading(ctx, sheet) },
    facts(sheet),
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
    ...instructionsOf(sheet),
    {
      margin: [0, 18, 0, 0],
      columns: ["Good", "Rejected, and why", "Minutes", "Signed"].map((text) => ({
        text: `${text}: ______________`,
        color: INK2,
      })),
    },
  ];
}

/** How it is put together, where its list says so. */
const instructionsOf = ({ list: { instructions } }: PaperSheet): Content[] =>
  instructions === ""
    ? []
    : [
        { text: "Instructions", bold: true, margin: [0, 16, 0, 4] },
        { text: instructions, lineHeight: 1.25 },
      ];

/** What is to be made, its picture, and the code that the scan field reads. */
function heading(ctx: Reading, { row: build, open, picture }: PaperSheet): Column[] {
  const { product } = build;
  return [
    [
      { text: ctx.company?.name ?? "", bold: true, fontSize: 12 },
      { text: `${open} ${product.unit} × ${product.name}`, bold: true, fontSize: 20, margin: [0, 10, 0, 2] },
      { text: `${build.number} · ${product.code} · ${build.stage}`, color: INK2 },
    ],
    ...(picture === null ? [] : [{ image: picture, fit: [92, 92] as [number, number], width: 104 }]),
    { qr: build.number, fit: 78, alignment: "right", width: 84 },
  ];
}

/** When, for whom, by whom and from which list it is built; what is not known is left out. */
function facts({ row: build, list, ownParts, store, bin }: PaperSheet): Content {
  const { words } = list;
  const changed = ownParts ? "changed for this build" : "";
  const listName = words ? `${words.name}, revision ${words.revision}` : "";
  const known = [
    ["Due", build.due ?? ""],
    ["Begin by", build.start ?? ""],
    ["For", forWhom(build)],
    ["Done by", build.subcontractor?.name ?? build.assigned?.name ?? ""],
    ["To", [store, bin].filter(Boolean).join(" ")],
    ["Cost tag", build.costTag],
    ["Parts list", [listName, changed].filter(Boolean).join(", ")],
  ].filter(([, value]) => value !== "");
  return {
    margin: [0, 14, 0, 12],
    columns: known.map(([name, value]) => ({
      width: "auto",
      margin: [0, 0, 18, 0],
      stack: [{ text: name ?? "", fontSize: 8.5, color: INK2 }, { text: value ?? "" }],
    })),
  };
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

/** The pictures of products, where they are of a kind that a paper can show. */
async function pictures(
  ctx: Reading,
  products: readonly number[],
): Promise<(product: number) => string | null> {
  const rows = await ctx.sql.all<{ item: number; file: number }>(
    "SELECT id AS item, thumbnail AS file FROM item_head WHERE thumbnail IS NOT NULL AND id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(new Set(products)) },
  );
  const images = await imageAddresses(
    ctx,
    rows.map((row) => row.file),
  );
  const ofItem = new Map(rows.map((row) => [row.item, images.get(row.file)]));
  return (product) => ofItem.get(product) ?? null;
}
