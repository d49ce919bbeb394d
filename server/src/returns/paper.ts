import { decimal } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { paperStyle } from "../papers/index.ts";
import { addressee, customerPdf, sendPapers, totalLines } from "../shipping/index.ts";
import { standingReturn } from "./service.ts";
import { returnSheet } from "./sheet.ts";

/** The credit of a return that stands, as the customer gets it. */
export async function returnPaper(ctx: Reading, id: number): Promise<Bytes> {
  await standingReturn(ctx, id);
  const sheet = await returnSheet(ctx, id);
  const style = await paperStyle(ctx);
  const { words, day } = style;
  const facts: [string, string][] = [
    [words.date, day(sheet.day)],
    ...(sheet.shipment ? [[words.shipment, sheet.shipment.number] as [string, string]] : []),
    ...(sheet.order ? [[words.order, sheet.order.number] as [string, string]] : []),
  ];
  const title = words["credit title"];
  return {
    name: `${title} ${sheet.number}.pdf`,
    type: "application/pdf",
    forever: false,
    content: await customerPdf(ctx, style, {
      title,
      number: sheet.number,
      customer: await addressee(ctx, sheet.customer.id),
      facts,
      opening: words["credit opening"],
      lines: sheet.returned.map((line) => ({
        name: line.item.name,
        more: [
          line.item.code,
          ...(line.serial === "" ? [] : [`${words["serial number"]} ${line.serial}`]),
          ...(line.lot === "" ? [] : [`${words.lot} ${line.lot}`]),
        ],
        quantity: `${line.quantity} ${line.item.unit}`,
        price: "",
        total: line.credit,
      })),
      sums: [
        ...(decimal(sheet.fee).eq(0) ? [] : [[words["restocking fee"], `−${sheet.fee}`] as const]),
        ...(decimal(sheet.charges).eq(0)
          ? []
          : [[words["damaged or missing"], `−${sheet.charges}`] as const]),
        ...totalLines(style, sheet.due, sheet),
      ],
      closing: [words["credit closing"]],
    }),
  };
}

/** Puts the credit of a return into the outbox. Gives the message's id. */
export async function sendReturn(ctx: Writing, id: number): Promise<number> {
  const { number, customer_id, shipment_id } = await standingReturn(ctx, id);
  const about = { document: number, ...(shipment_id !== null && { shipment: shipment_id }) };
  return sendPapers(ctx, customer_id, about, "credit letter", { number }, [await returnPaper(ctx, id)]);
}
