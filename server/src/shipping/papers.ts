import { type OrderSheet, type PaperWord, Refusal, type ShipmentSheet } from "@yosegi/contract";
import { currencyDecimals, decimal, decimalsOf, filledIn } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { orderById, orderSheet, taxAnswer } from "../orders/index.ts";
import { addMessage, type MessageAbout } from "../outbox/index.ts";
import { type PaperStyle, paperStyle } from "../papers/index.ts";
import { type CustomerPaper, customerPdf, type PaperLine, seenOf, totalLines } from "./customerpaper.ts";
import { shipmentSheet } from "./shipments.ts";

type SheetLine = OrderSheet["orderLines"][number];

const pdf = async (ctx: Reading, style: PaperStyle, paper: CustomerPaper): Promise<Bytes> => ({
  name: `${paper.title} ${paper.number}.pdf`,
  type: "application/pdf",
  content: await customerPdf(ctx, style, paper),
  forever: false,
});

/** The confirmation of an order, or a quote, as the customer may see it. */
export async function orderPaper(ctx: Reading, id: number): Promise<Bytes> {
  const order = await orderSheet(ctx, id);
  if (order.stage === "cancelled")
    throw new Refusal("order-ended", { number: order.number, stage: order.stage });
  const style = await paperStyle(ctx);
  const { words, day } = style;
  const kind = order.stage === "quote" ? "quote" : "confirmation";
  const delivery = order.promised ?? order.due;
  return pdf(ctx, style, {
    title: words[`${kind} title`],
    number: order.number,
    customer: await addressee(ctx, order.customer.id),
    facts: known([
      [words.date, day(ctx.today)],
      [words.reference, order.reference],
      [words["valid until"], order.stage === "quote" && order.validUntil ? day(order.validUntil) : ""],
      [words["delivery date"], delivery === null ? "" : day(delivery)],
      [words["deliver to"], order.address],
    ]),
    opening: words[`${kind} opening`],
    lines: withTexts(
      order,
      order.orderLines.map((line) => ({
        name: line.item.name,
        more: known([["", line.item.code]])
          .map(([, text]) => text)
          .concat(contentsOf(line), serialOf(line, style)),
        quantity: `${line.quantity} ${line.item.unit}`,
        price: priceOf(ctx, line, style),
        total: line.total ?? "",
      })),
    ),
    sums: totalLines(style, order.total, order),
    closing: [order.terms && `${words.terms}: ${order.terms}`, words[`${kind} closing`]],
  });
}

/** The delivery note of a shipment: what left, without prices; and what is still to follow. */
async function deliveryNote(ctx: Reading, shipment: ShipmentSheet): Promise<Bytes> {
  const style = await paperStyle(ctx);
  const { words } = style;
  const order = await orderSheet(ctx, shipment.order.id);
  const open = order.orderLines.filter((line) => !decimal(line.open).eq(0));
  return pdf(ctx, style, {
    ...(await heading(ctx, style, shipment)),
    title: words["delivery note title"],
    opening: words["delivery note opening"],
    lines: shipment.shipped.map((line) => ({
      name: line.item.name,
      more: [line.item.code, ...seenOf(line, style)],
      quantity: leftOf(line, style),
    })),
    sums: [],
    closing: [
      open.length === 0
        ? ""
        : `${words["to follow"]}: ${open.map(({ open: n, item }) => `${n} ${item.unit} ${item.name}`).join(", ")}`,
      words["delivery note closing"],
    ],
  });
}

/** The pro forma bill of a shipment: what left of each line and what that comes to, with the tax of each rate. */
async function bill(ctx: Reading, shipment: ShipmentSheet): Promise<Bytes> {
  const style = await paperStyle(ctx);
  const { words } = style;
  const order = await orderSheet(ctx, shipment.order.id);
  const soldAs = new Map(order.orderLines.map((line) => [line.id, line]));
  const taxes = taxAnswer(
    ctx,
    shipment.shipped.map(({ line, revenue }) => ({
      total: decimal(revenue),
      taxRate: decimal(soldAs.get(line)?.taxRate ?? "0"),
    })),
  );
  return pdf(ctx, style, {
    ...(await heading(ctx, style, shipment)),
    title: words["bill title"],
    opening: words["bill opening"],
    lines: shipment.shipped.map((line): PaperLine => {
      const sold = soldAs.get(line.line);
      return {
        name: line.item.name,
        more: [line.item.code, ...seenOf(line, style)],
        quantity: leftOf(line, style),
        price: sold ? priceOf(ctx, sold, style) : "",
        total: line.revenue,
      };
    }),
    sums: totalLines(style, shipment.revenue, taxes),
    closing: [order.terms && `${words.terms}: ${order.terms}`, words["bill closing"]],
  });
}

export type ShipmentPaper = "delivery note" | "bill";

/** A paper of a shipment that stands. */
export async function shipmentPaper(ctx: Reading, id: number, kind: ShipmentPaper): Promise<Bytes> {
  const shipment = await shipmentSheet(ctx, id);
  if (shipment.undone) throw new Refusal("shipment-undone", { number: shipment.number });
  return kind === "bill" ? bill(ctx, shipment) : deliveryNote(ctx, shipment);
}

async function heading(
  ctx: Reading,
  { words, day }: PaperStyle,
  shipment: ShipmentSheet,
): Promise<Pick<CustomerPaper, "number" | "customer" | "facts">> {
  return {
    number: shipment.number,
    customer: await addressee(ctx, shipment.customer.id),
    facts: known([
      [words.date, day(shipment.day)],
      [words.order, shipment.order.number],
      [words.reference, shipment.order.reference],
      [words["deliver to"], shipment.address],
      [words.parcels, shipment.parcels === null ? "" : String(shipment.parcels)],
      [words.weight, shipment.weight === null ? "" : `${shipment.weight} kg`],
    ]),
  };
}

const known = (facts: readonly (readonly [string, string])[]) => facts.filter(([, text]) => text !== "");

/** What is in a set, where the customer sees it. */
const contentsOf = ({ set }: SheetLine): string[] =>
  set?.contentsShown ? set.contents.map(({ item, quantity }) => `${quantity} ${item.unit} ${item.name}`) : [];

const serialOf = ({ serial }: SheetLine, { words }: PaperStyle): string[] =>
  serial === "" ? [] : [`${words["serial number"]} ${serial}`];

/** How much of a line left: whole sets or units; of an item alone, just that. */
function leftOf(
  { units, item, contentsShown, components }: ShipmentSheet["shipped"][number],
  { words }: PaperStyle,
) {
  if (contentsShown === null) return `${components[0]?.quantity ?? units} ${item.unit}`;
  return decimal(units).eq(0) ? words["in part"] : `${units} ${item.unit}`;
}

/** A price with the currency's decimals at least, what it is for, and the discount on it. */
function priceOf(
  ctx: Reading,
  { price, pricePer, item, discount }: SheetLine,
  { words }: PaperStyle,
): string {
  if (price === null) return "";
  const exact = decimal(price);
  const decimals = Math.max(currencyDecimals(ctx.company?.currency ?? ""), decimalsOf(exact));
  const per = `${exact.toFixed(decimals)} / ${pricePer || item.unit}`;
  return discount === "0" ? per : `${per} ${words.less} ${discount} %`;
}

/** The lines of text in their places among the others. */
function withTexts({ texts }: OrderSheet, lines: readonly PaperLine[]): PaperLine[] {
  const at = (place: number) =>
    texts
      .filter(({ before }) => (place === lines.length ? before >= place : before === place))
      .map(({ text }): PaperLine => ({ name: text, more: [] }));
  return [...lines.flatMap((line, i) => [...at(i), line]), ...at(lines.length)];
}

/** Who a paper for a customer is to. */
export async function addressee(ctx: Reading, customer: number) {
  const row = await ctx.sql.one<{ name: string; address: string; contact: string; email: string }>(
    "SELECT name, address, contact, email FROM firm_head WHERE id = $customer",
    { customer },
  );
  return row ?? { name: "", address: "", contact: "", email: "" };
}

/** Puts the confirmation of an order, or a quote, into the outbox. Gives the message's id. */
export async function sendOrder(ctx: Writing, id: number): Promise<number> {
  const order = await orderById(ctx, id);
  const paper = await orderPaper(ctx, id);
  const about = { document: order.number, order: id };
  const kind = order.stage === "quote" ? "quote letter" : "confirmation letter";
  return sendPapers(ctx, order.customer_id, about, kind, { number: order.number }, [paper]);
}

/** Puts papers of a shipment into the outbox. Gives the message's id. */
export async function sendShipment(
  ctx: Writing,
  id: number,
  kinds: readonly ShipmentPaper[],
): Promise<number> {
  const { number, order, customer } = await shipmentSheet(ctx, id);
  const papers: Bytes[] = [];
  for (const kind of kinds) papers.push(await shipmentPaper(ctx, id, kind));
  const about = { document: number, order: order.id, shipment: id };
  return sendPapers(ctx, customer.id, about, "shipment letter", { number, order: order.number }, papers);
}

/** Puts papers with their letter into the outbox, to a customer. Gives the message's id. */
export async function sendPapers(
  ctx: Writing,
  customer: number,
  about: MessageAbout,
  kind: Extract<
    PaperWord,
    "quote letter" | "confirmation letter" | `${"shipment" | "credit" | "rework"} letter`
  >,
  values: Record<string, string>,
  files: readonly Bytes[],
): Promise<number> {
  const { words } = await paperStyle(ctx);
  const { name, contact, email } = await addressee(ctx, customer);
  const company = ctx.company?.name ?? "";
  const fill = (text: string) =>
    filledIn(text, { ...values, company, person: ctx.person.name, name: contact || name });
  const title = files.map((file) => file.name.replace(/\.pdf$/, "")).join(", ");
  return addMessage(ctx, about, {
    to: email,
    subject: `${title} · ${company}`.slice(0, 250),
    text: [words["letter opening"], words[kind], words["letter closing"]].map(fill).join("\n\n"),
    files,
  });
}
