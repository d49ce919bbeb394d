import { byId, moment, pageEnd, pageQuery, ref } from "./fields.ts";
import { ask, command } from "./route.ts";
import { z } from "./zod.ts";

export const outboxRow = z
  .object({
    id: ref,
    document: z.string(),
    purchase: ref.nullable(),
    order: ref.nullable(),
    shipment: ref.nullable(),
    to: z.string(),
    subject: z.string(),
    made: moment,
    person: z.string(),
    sent: z.object({ person: z.string(), moment }).nullable(),
  })
  .meta({ id: "OutboxRow" });
export type OutboxRow = z.infer<typeof outboxRow>;
export const outboxMessage = outboxRow
  .extend({ text: z.string(), files: z.array(z.object({ id: ref, name: z.string(), type: z.string() })) })
  .meta({ id: "OutboxMessage" });
export type OutboxMessage = z.infer<typeof outboxMessage>;

export const outboxRoutes = {
  outbox: ask("/api/outbox", {
    permission: "look",
    summary: "Messages that go out, latest first",
    query: z.object(pageQuery),
    answer: z.object({ messages: z.array(outboxRow), ...pageEnd }),
  }),
  outboxMessage: ask("/api/outbox/:id", {
    permission: "look",
    summary: "One message with its files",
    ...byId,
    answer: outboxMessage,
  }),
  markSent: command("/api/outbox/:id/sent", {
    permission: "send",
    summary: "Say that a message was sent",
    ...byId,
    answer: outboxMessage,
  }),
};
