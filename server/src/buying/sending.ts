import type { PurchaseSheet } from "@yosegi/contract";
import type { Reading, Writing } from "../db/index.ts";
import type { Bytes } from "../http/index.ts";
import { addMessage } from "../outbox/index.ts";
import { refuseStage } from "./ordering.ts";
import { type Letterhead, purchaseCsv, purchasePdf } from "./paper.ts";
import { purchaseById, purchaseSheet } from "./purchases.ts";
import { PURCHASE } from "./tables.ts";

function letterhead(ctx: Reading): Letterhead {
  const { name = "", currency = "" } = ctx.company ?? {};
  return { company: name, currency, today: ctx.today };
}

/** The order as it would be sent today. */
export async function purchasePaper(ctx: Reading, id: number, format: "pdf" | "csv"): Promise<Bytes> {
  const sheet = await purchaseSheet(ctx, id);
  if (format === "csv") return purchaseCsv(sheet, letterhead(ctx));
  const content = await purchasePdf(sheet, await addressOf(ctx, sheet), letterhead(ctx));
  return { name: `${sheet.number}.pdf`, type: "application/pdf", content, forever: false };
}

async function addressOf(ctx: Reading, { supplier }: PurchaseSheet): Promise<string> {
  const row = await ctx.sql.one<{ address: string }>("SELECT address FROM firm_head WHERE id = $id", {
    id: supplier.id,
  });
  return row?.address ?? "";
}

/** Puts a draft into the outbox, as PDF and CSV, and counts on it from then on. */
export async function sendPurchase(ctx: Writing, id: number): Promise<void> {
  const purchase = await purchaseById(ctx, id);
  refuseStage(purchase, ["draft"], "sent");
  await ctx.sql.run("UPDATE purchase_line SET open = quantity WHERE purchase_id = $id", { id });
  await ctx
    .model(PURCHASE)
    .update({ stage: "sent", sent_by: ctx.person.id, sent_at: ctx.moment }, { where: { id } });
  const sheet = await purchaseSheet(ctx, id);
  const { company } = letterhead(ctx);
  const body = [
    `Dear ${sheet.contact === "" ? sheet.supplier.name : sheet.contact},`,
    `please find attached our purchase order ${sheet.number}, ${sheet.lines} ${sheet.lines === 1 ? "line" : "lines"}, ${sheet.total} ${letterhead(ctx).currency}.`,
    `With kind regards,\n${ctx.person.name}\n${company}`,
  ].join("\n\n");
  const papers = [await purchasePaper(ctx, id, "pdf"), await purchasePaper(ctx, id, "csv")];
  await addMessage(
    ctx,
    { document: sheet.number, purchase: id },
    { to: sheet.email, subject: `Purchase order ${sheet.number} of ${company}`, text: body, files: papers },
  );
}
