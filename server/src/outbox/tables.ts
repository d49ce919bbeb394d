import { id, integer, key, orNull, table, text } from "../db/index.ts";

export const OUTBOX = table("outbox", {
  id: id(),
  document: text(),
  purchase_id: orNull(integer()),
  order_id: orNull(integer()),
  shipment_id: orNull(integer()),
  recipient: text(),
  subject: text(),
  body: text(),
  created_by: integer(),
  created_at: text(),
  sent_by: orNull(integer()),
  sent_at: orNull(text()),
});

export const OUTBOX_FILE = table("outbox_file", {
  outbox_id: key(integer()),
  file_id: key(integer()),
});
