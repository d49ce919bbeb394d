import { createRequire } from "node:module";
import pdfmake from "pdfmake";
import type { Content, TableCell, TableLayout, TDocumentDefinitions } from "pdfmake/interfaces.js";

// The application's own text face, whole: papers need every letter that names are written with.
const require = createRequire(import.meta.url);
const font = (file: string) => require.resolve(`source-sans/TTF/SourceSans3-${file}.ttf`);
pdfmake.setFonts({
  SourceSans: {
    normal: font("Regular"),
    bold: font("Semibold"),
    italics: font("It"),
    bolditalics: font("SemiboldIt"),
  },
});
// Papers are made of what they are given: nothing is fetched, and no file is read but the fonts.
pdfmake.setLocalAccessPolicy((path) => /[/\\]source-sans[/\\]TTF[/\\]/.test(path));
pdfmake.setUrlAccessPolicy(() => false);

export const INK2 = "#5f5042";
const LINE = "#d8ccb6";

/** How papers draw their tables: a line under each row, none between columns. */
export const RULED: TableLayout = {
  hLineColor: () => LINE,
  hLineWidth: (i) => (i === 0 ? 0 : 0.7),
  vLineWidth: () => 0,
  paddingTop: () => 5,
  paddingBottom: () => 5,
};

export const cell = (text: string, more: object = {}): TableCell => ({ text, ...more });

/** A name with smaller words under it. */
export const named = (name: string, more: readonly (string | false)[]): TableCell =>
  [
    cell(name),
    cell(more.filter(Boolean).join(" · "), { fontSize: 8.5, color: INK2 }),
  ] as unknown as TableCell;

/** The head of a paper that is worked with: whose it is, what it is, and its number to scan. */
export const workHead = (company: string, title: string, under: string, number: string): Content => ({
  columns: [
    [
      { text: company, bold: true, fontSize: 12 },
      { text: `${title} ${number}`, bold: true, fontSize: 20, margin: [0, 10, 0, 2] },
      { text: under, color: INK2 },
    ],
    { qr: number, fit: 78, alignment: "right", width: 84 },
  ],
});

/** The first row of a table. */
export const heads = (cells: TableCell[]): TableCell[] =>
  cells.map((c) => Object.assign(c as object, { bold: true, color: INK2 }) as TableCell);

/** A paper on A4 in the product's look, with its number and pages at the foot. */
export async function a4(
  { title, author }: { title: string; author: string },
  foot: string,
  content: Content[],
): Promise<Buffer> {
  const definition: TDocumentDefinitions = {
    info: { title, author },
    pageSize: "A4",
    pageMargins: [48, 48, 48, 56],
    defaultStyle: { font: "SourceSans", fontSize: 10.5, lineHeight: 1.15, fontFeatures: ["tnum"] },
    footer: (page, pages): Content => ({
      text: `${foot} · page ${page} of ${pages}`,
      alignment: "center",
      fontSize: 8.5,
      color: INK2,
    }),
    content,
  };
  return pdfBuffer(definition);
}

export async function pdfBuffer(definition: TDocumentDefinitions): Promise<Buffer> {
  return pdfmake.createPdf(definition).getBuffer();
}
