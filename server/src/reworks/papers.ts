import {
  type ParsedBody,
  Refusal,
  type ReworkPaper,
  type ReworkPart,
  type ReworkSheet,
  type ReworkStep,
  type routes,
} from "@yosegi/contract";
import { decimal, sum } from "@yosegi/core";
import type { Content } from "pdfmake/interfaces.js";
import type { Reading, Writing } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { a4, cell, heads, INK2, named, paperStyle, RULED } from "../papers/index.ts";
import { addressee, customerPdf, sendPapers, totalLines } from "../shipping/index.ts";
import { taxOn } from "./charge.ts";
import { reworkSheet } from "./sheet.ts";

/** A paper of a rework: the job sheet for the bench; the quote, the bill, and the account of what was done for its customer. */
export async function reworkPaper(
  ctx: Reading,
  id: number,
  { kind, unit }: { kind: ReworkPaper; unit: number },
): Promise<Bytes> {
  const sheet = await reworkSheet(ctx, id);
  const paper = kind === "job" ? await jobSheet(ctx, sheet) : await customerPaper(ctx, sheet, kind, unit);
  return { ...paper, type: "application/pdf", forever: false };
}

/** Puts a paper for the customer of a rework into the outbox. Gives the message's id. */
export async function sendRework(
  ctx: Writing,
  id: number,
  { kind }: ParsedBody<typeof routes.sendRework>,
): Promise<number> {
  const { number, customer } = await reworkSheet(ctx, id);
  if (customer === null) throw new Refusal("rework-no-customer", { number });
  const letter = kind === "quote" ? "quote letter" : "rework letter";
  const paper = await reworkPaper(ctx, id, { kind, unit: 0 });
  return sendPapers(ctx, customer.id, { document: number }, letter, { number }, [paper]);
}

const right = { alignment: "right" as const };

const pieceWords = ({ item, units }: ReworkSheet): string[] =>
  units.map(({ serial, lot, quantity }) =>
    [`${quantity} ${item.unit}`, serial || lot].filter(Boolean).join(" "),
  );

const partName = ({ item, text }: ReworkPart): string => item?.name ?? text;

const doneBy = ({ person, supplier }: ReworkStep): string => supplier?.name ?? person?.name ?? "";

async function jobSheet(ctx: Reading, sheet: ReworkSheet): Promise<{ name: string; content: Buffer }> {
  const { day } = await paperStyle(ctx);
  const facts: [string, string][] = [
    ["Item", `${sheet.item.code} · ${pieceWords(sheet).join(", ")}`],
    ["Lies at", `${sheet.at} ${sheet.number}`],
    ...(sheet.customer ? [["Customer", sheet.customer.name] as [string, string]] : []),
    ...(sheet.due === null ? [] : [["Due", day(sheet.due)] as [string, string]]),
    ...(sheet.assigned ? [["For", sheet.assigned.name] as [string, string]] : []),
    ...(sheet.reason === "" ? [] : [["What is wrong", sheet.reason] as [string, string]]),
  ];
  const content: Content[] = [
    {
      columns: [
        [
          { text: `Job sheet ${sheet.number}`, bold: true, fontSize: 20 },
          { text: sheet.item.name, fontSize: 12, color: INK2, margin: [0, 2, 0, 0] },
        ],
        { qr: sheet.number, fit: 68, alignment: "right", width: 80 },
      ],
    },
    {
      margin: [0, 14, 0, 14],
      table: {
        widths: ["auto", "*"],
        body: facts.map(([word, text]) => [cell(word, { color: INK2 }), cell(text)]),
      },
      layout: "noBorders",
    },
    {
      table: {
        headerRows: 1,
        widths: ["*", "auto", "auto", 56],
        body: [
          heads([cell("Step"), cell("Who"), cell("Due"), cell("Done", right)]),
          ...sheet.steps.map((step) => [
            named(step.what, [unitWords(sheet, step.unit)]),
            cell(doneBy(step)),
            cell([step.due === null ? "" : day(step.due), step.hour].filter(Boolean).join(" ")),
            cell(step.state === "done" ? "done" : "", right),
          ]),
        ],
      },
      layout: RULED,
    },
    {
      margin: [0, 14, 0, 0],
      table: {
        headerRows: 1,
        widths: ["*", "auto", "auto", 56],
        body: [
          heads([cell("Part"), cell("From"), cell("Quantity", right), cell("Really used", right)]),
          ...sheet.parts.map((part) => [
            named(partName(part), [
              part.item?.code ?? "",
              part.serial || part.lot,
              unitWords(sheet, part.unit),
            ]),
            cell(part.isTaken ? part.from : "to be taken"),
            cell(part.item ? `${part.quantity} ${part.item.unit}` : "", right),
            cell(""),
          ]),
        ],
      },
      layout: RULED,
    },
  ];
  const title = `Job sheet ${sheet.number}`;
  return {
    name: `${title}.pdf`,
    content: await a4({ title, author: ctx.company?.name ?? "" }, sheet.number, content),
  };
}

/** The number of the unit that a line is for, where there are several. */
function unitWords({ units }: ReworkSheet, unit: number | null): string {
  const own = units.find((row) => row.unit === unit);
  return own && units.length > 1 ? `for ${own.serial || own.lot || `unit ${own.unit}`}` : "";
}

async function customerPaper(
  ctx: Reading,
  sheet: ReworkSheet,
  kind: "quote" | "bill" | "account",
  unit: number,
): Promise<{ name: string; content: Buffer }> {
  if (sheet.undone) throw new Refusal("document-undone", { document: sheet.number });
  // What was done to a unit of ours is told to whoever buys it.
  if (sheet.customer === null && kind !== "account")
    throw new Refusal("rework-no-customer", { number: sheet.number });
  const own = sheet.units.find((row) => row.unit === unit);
  if (unit !== 0 && !own) throw new Refusal("rework-unit-unknown", { number: sheet.number, unit });
  const style = await paperStyle(ctx);
  const { words, day } = style;
  const [title, opening, closing] = [
    words[`${kind} title`],
    words[`${kind} opening`],
    words[`${kind} closing`],
  ];
  const isOf = (line: { unit: number | null }) => unit === 0 || line.unit === null || line.unit === unit;
  const serials = (own ? [own] : sheet.units).map(({ serial, lot }) => serial || lot).filter(Boolean);
  const isPriced = kind !== "account";
  const moneyOf = (charge: string) =>
    isPriced ? { price: "", total: decimal(charge).toFixed(ctx.currencyDecimals) } : {};
  const parts = sheet.parts.filter(isOf);
  const steps = sheet.steps.filter(isOf);
  return {
    name: `${title} ${sheet.number}.pdf`,
    content: await customerPdf(ctx, style, {
      title,
      number: sheet.number,
      customer: await addressee(ctx, sheet.customer?.id ?? 0),
      facts: [
        [words.date, day(sheet.finished?.day ?? ctx.today)],
        [words.item, `${sheet.item.name}, ${sheet.item.code}`],
        ...(serials.length === 0 ? [] : [[words["serial number"], serials.join(", ")] as const]),
      ],
      opening: [opening, sheet.reason].filter(Boolean).join("\n"),
      lines: [
        ...steps.map((step) => ({
          name: step.what,
          more: [unitWords(sheet, step.unit)].filter(Boolean),
          ...moneyOf(step.charge),
        })),
        ...parts.map((part) => ({
          name: partName(part),
          more: [part.item?.code ?? "", part.serial || part.lot, unitWords(sheet, part.unit)].filter(Boolean),
          ...(part.item && { quantity: `${part.quantity} ${part.item.unit}` }),
          ...moneyOf(part.charge),
        })),
      ],
      sums: isPriced
        ? totalLines(
            style,
            sum([...steps, ...parts].map(({ charge }) => decimal(charge))).toFixed(ctx.currencyDecimals),
            taxOn(ctx, [...parts, ...steps]),
          )
        : [],
      closing: [closing],
    }),
  };
}
