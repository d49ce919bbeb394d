import type { OrderPreview, ShipmentSheet } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import type { Content, TableCell } from "pdfmake/interfaces.js";
import type { Reading } from "../db/index.ts";
import { a4, cell, heads, INK2, named, type PaperStyle, RULED } from "../papers/index.ts";

/** A line of a paper, as the customer may see it; a line of text has nothing but its name. */
export interface PaperLine {
  name: string;
  /** Smaller words under it. */
  more: readonly string[];
  quantity?: string;
  price?: string;
  total?: string;
}

export interface CustomerPaper {
  title: string;
  number: string;
  customer: { name: string; address: string };
  /** What is said above the lines: a word and what it is. */
  facts: readonly (readonly [word: string, text: string])[];
  opening: string;
  lines: readonly PaperLine[];
  /** Sums under the lines: words and figure. */
  sums: readonly (readonly [words: string, figure: string])[];
  /** Said under it all. */
  closing: readonly string[];
}

/** Which columns a paper has beside what it is and how much. */
interface Shows {
  prices: boolean;
  totals: boolean;
}

const right = { alignment: "right" as const };

/** A paper for a customer on A4, with a code that the scan field reads. */
export function customerPdf(ctx: Reading, { words }: PaperStyle, paper: CustomerPaper): Promise<Buffer> {
  const company = ctx.company?.name ?? "";
  const shows = {
    prices: paper.lines.some((line) => line.price),
    totals: paper.lines.some((line) => line.total !== undefined),
  };
  return a4({ title: `${paper.title} ${paper.number}`, author: company }, paper.number, [
    {
      columns: [
        [
          { text: company, bold: true, fontSize: 12 },
          ...said(words.sender, { color: INK2, fontSize: 9 }),
          { text: `${paper.title} ${paper.number}`, bold: true, fontSize: 20, margin: [0, 12, 0, 2] },
        ],
        { qr: paper.number, fit: 68, alignment: "right", width: 80 },
      ],
    },
    {
      margin: [0, 16, 0, 16],
      columns: [
        { text: [{ text: `${paper.customer.name}\n`, bold: true }, paper.customer.address] },
        {
          table: {
            widths: ["auto", "*"],
            body: paper.facts.map(([word, text]) => [cell(word, { color: INK2 }), cell(text)]),
          },
          layout: "noBorders",
        },
      ],
    },
    ...said(paper.opening, { margin: [0, 0, 0, 12] }),
    {
      table: {
        headerRows: 1,
        widths: ["*", "auto", ...(shows.prices ? ["auto"] : []), ...(shows.totals ? ["auto"] : [])],
        body: [
          heads([
            cell(words.item),
            cell(words.quantity, right),
            ...(shows.prices ? [cell(words.price, right)] : []),
            ...(shows.totals ? [cell(ctx.company?.currency ?? "", right)] : []),
          ]),
          ...paper.lines.map((line) => rowOf(line, shows)),
          ...(shows.totals ? paper.sums.map(([text, figure]) => sumRow(text, figure, shows)) : []),
        ],
      },
      layout: RULED,
    },
    ...paper.closing.flatMap((text) => said(text, { margin: [0, 14, 0, 0] })),
  ]);
}

const said = (text: string, more: object): Content[] => (text === "" ? [] : [{ text, ...more } as Content]);

const rowOf = (
  { name, more, quantity = "", price = "", total = "" }: PaperLine,
  shows: Shows,
): TableCell[] => [
  more.length === 0 ? cell(name) : named(name, more),
  cell(quantity, right),
  ...(shows.prices ? [cell(price, right)] : []),
  ...(shows.totals ? [cell(total, right)] : []),
];

const sumRow = (text: string, figure: string, { prices }: Shows): TableCell[] => [
  { text, colSpan: prices ? 3 : 2, bold: true } as TableCell,
  ...(prices ? ["", ""] : [""]),
  cell(figure, { ...right, bold: true }),
];

/** The total, the tax of each rate, and the total with it; nothing where the total is not known. */
export function totalLines(
  { words }: PaperStyle,
  total: string | null,
  { taxes, gross }: Pick<OrderPreview, "taxes" | "gross">,
): (readonly [words: string, figure: string])[] {
  if (total === null) return [];
  const taxed = taxes.filter(({ rate }) => !decimal(rate).eq(0));
  if (taxed.length === 0 || gross === null) return [[words.total, total]];
  return [
    [words.total, total],
    ...taxed.map(({ rate, tax, net }) => [`${words.tax} ${rate} % (${net})`, tax] as const),
    [words["total with tax"], gross],
  ];
}

type Shipped = ShipmentSheet["shipped"][number];

/**
 * What a customer may see of a line that left: the lots and serials of what stands on the paper. What is in a set whose contents are
 * not shown stands on none (docs/rules.md § 12).
 */
export function seenOf({ contentsShown, components, units }: Shipped, { words }: PaperStyle): string[] {
  if (contentsShown === null) return components.flatMap((own) => numbersOf(own, words));
  const part = decimal(units).eq(0) ? [words["in part"]] : [];
  if (!contentsShown) return part;
  return [
    ...part,
    ...components.map((own) =>
      [`${own.quantity} ${own.item.unit} ${own.item.name}`, ...numbersOf(own, words)].join(", "),
    ),
  ];
}

/** Lots and serial numbers of what left, each once; of several lots with how much of each. */
function numbersOf({ taken, item }: Shipped["components"][number], words: PaperStyle["words"]): string[] {
  const serials = taken.map(({ serial }) => serial).filter(Boolean);
  const lots = new Map<string, ReturnType<typeof decimal>>();
  for (const { lot, quantity } of taken)
    if (lot !== "") lots.set(lot, (lots.get(lot) ?? decimal(0)).plus(quantity));
  const lotWords = [...lots].map(([lot, quantity]) =>
    lots.size === 1 ? lot : `${lot} (${quantity.toFixed()} ${item.unit})`,
  );
  return [
    ...(lotWords.length > 0 ? [`${words.lot} ${lotWords.join(", ")}`] : []),
    ...(serials.length > 0 ? [`${words["serial number"]} ${serials.join(", ")}`] : []),
  ];
}
