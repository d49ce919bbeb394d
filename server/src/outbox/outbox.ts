import { type OutboxMessage, type OutboxRow, Refusal } from "@yosegi/contract";
import { asJson, findPage, type PageQuery, type Reading, type Writing } from "../db/index.ts";
import { keepFile } from "../files/index.ts";
import type { Bytes } from "../http/index.ts";
import { OUTBOX, OUTBOX_FILE } from "./tables.ts";

interface Row {
  id: number;
  document: string;
  purchase: number | null;
  order: number | null;
  shipment: number | null;
  to: string;
  subject: string;
  text: string;
  made: string;
  person: string;
  sent_by: string | null;
  sent_at: string | null;
}

const COLUMNS = `o.id, o.document, o.purchase_id AS purchase, o.order_id AS "order", o.shipment_id AS shipment, o.recipient AS "to", o.subject, o.body AS text, o.created_at AS made,
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
  const { ids, total, next } = await findPage(ctx.sql, query, {
    id: "o.id",
    text: "o.document || ' ' || o.recipient || ' ' || o.subject",
    from: "outbox o ORDER BY o.sent_at IS NOT NULL, o.id DESC",
  });
  const messages = await ctx.sql.all<Row>(
    `SELECT ${COLUMNS} FROM json_each($ids) ids JOIN ${FROM} WHERE o.id = ids.value ORDER BY ids.key`,
    { ids: asJson(ids) },
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

/** What a message is about: one of these documents, or an order with a shipment of it. */
export interface MessageAbout {
  /** Number of the document. */
  document: string;
  purchase?: number;
  order?: number;
  shipment?: number;
}

/** Puts a message with its files into the outbox; gives its id. */
export async function addMessage(
  ctx: Writing,
  { document, purchase, order, shipment }: MessageAbout,
  letter: { to: string; subject: string; text: string; files: readonly Bytes[] },
): Promise<number> {
  const row = await ctx.model(OUTBOX).create({
    document,
    purchase_id: purchase ?? null,
    order_id: order ?? null,
    shipment_id: shipment ?? null,
    recipient: letter.to,
    subject: letter.subject,
    body: letter.text,
    created_by: ctx.person.id,
    created_at: ctx.moment,
  });
  const { id } = row.get({ plain: true });
  for (const bytes of letter.files)
    await ctx.model(OUTBOX_FILE).create({ outbox_id: id, file_id: await keepFile(ctx, bytes) });
  return id;
}

/** The messages about a document, the earliest first. */
export async function messagesAbout(
  ctx: Reading,
  about: "purchase" | "order",
  id: number,
): Promise<{ id: number; subject: string; moment: string; sent: string | null }[]> {
  return ctx.sql.all(
    `SELECT id, subject, created_at AS moment, sent_at AS sent FROM outbox WHERE ${about}_id = $id ORDER BY id`,
    { id },
  );
}
