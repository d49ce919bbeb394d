import { type OutboxMessage, type OutboxRow, type PurchaseSheet, Refusal } from "@yosegi/contract";
import { asJson, type PageQuery, pageOf, type Reading, type Writing } from "../db/index.ts";
import { keepFile } from "../files/index.ts";
import type { Bytes } from "../http/index.ts";
import { refuseStage } from "./ordering.ts";
import { type Letterhead, purchaseCsv, purchasePdf } from "./paper.ts";
import { purchaseById, purchaseSheet } from "./purchases.ts";
import { OUTBOX, OUTBOX_FILE, PURCHASE } from "./tables.ts";

interface Row {
  id: number;
  document: string;
  purchase: number | null;
  to: string;
  subject: string;
  text: string;
  made: string;
  person: string;
  sent_by: string | null;
  sent_at: string | null;
}

const COLUMNS = `o.id, o.document, o.purchase_id AS purchase, o.recipient AS "to", o.subject, o.body AS text, o.created_at AS made,
  n.name AS person, s.name AS sent_by, o.sent_at`;
const FROM = "outbox o JOIN person_name n ON n.id = o.created_by LEFT JOIN person_name s ON s.id = o.sent_by";

const rowOf = ({ text: _, sent_by, sent_at, ...row }: Row): OutboxRow => ({
  ...row,
  sent: sent_at === null ? null : { person: sent_by ?? "", moment: sent_at },
});

/** A page of messages: what is to be sent, then what was, each the latest first. */
export async function findMessages(
  ctx: Reading,
  query: PageQuery,
): Promise<{ messages: OutboxRow[]; total: number; next: string | null }> {
  const text = query.search === "" ? "''" : "o.document || ' ' || o.recipient || ' ' || o.subject";
  const found = await ctx.sql.allAtOnce<{ id: number; text: string }>(
    ["id", "text"],
    `SELECT o.id, ${text} AS text FROM outbox o ORDER BY o.sent_at IS NOT NULL, o.id DESC`,
  );
  const { rows, total, next } = pageOf(found, query, (row) => row.text);
  const messages = await ctx.sql.all<Row>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE o.id = ids.value ORDER BY ids.key`,
    { ids: asJson(rows.map((row) => row.id)) },
  );
  return { messages: messages.map(rowOf), total, next };
}

export async function outboxMessage(ctx: Reading, id: number): Promise<OutboxMessage> {
  const row = await ctx.sql.one<Row>(`SELECT ${COLUMNS} FROM ${FROM} WHERE o.id = $id`, { id });
  if (!row) throw new Refusal("not-found", { what: "message", id });
  const files = await ctx.sql.all<{ id: number; name: string; type: string }>(
    "SELECT f.id, f.name, f.type FROM outbox_file o JOIN file_head f ON f.id = o.file_id WHERE o.outbox_id = $id ORDER BY f.id",
    { id },
  );
  return { ...rowOf(row), text: row.text, files };
}

/** Says that a message was sent, by whatever way the person has. */
export async function markSent(ctx: Writing, id: number): Promise<void> {
  const { sent } = await outboxMessage(ctx, id);
  if (sent) return;
  await ctx.model(OUTBOX).update({ sent_by: ctx.person.id, sent_at: ctx.moment }, { where: { id } });
}

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
  const row = await ctx.model(OUTBOX).create({
    document: sheet.number,
    purchase_id: id,
    recipient: sheet.email,
    subject: `Purchase order ${sheet.number} of ${company}`,
    body,
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  const message = row.get({ plain: true }).id;
  for (const format of ["pdf", "csv"] as const) {
    const file = await keepFile(ctx, await purchasePaper(ctx, id, format));
    await ctx.model(OUTBOX_FILE).create({ outbox_id: message, file_id: file });
  }
}
