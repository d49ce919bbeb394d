import type { NoticeKind, WatchedDocument } from "@yosegi/core";
import { filled, id, integer, key, orNull, table, text } from "../db/index.ts";

export const NOTICE_CHOICE = table("notice_choice", {
  person_id: key(integer()),
  what: key(text<NoticeKind>()),
  page: integer(),
  outbox: integer(),
});

/** Where messages to a person go. */
export const NOTICE_EMAIL = table("notice_email", { person_id: key(integer()), email: text() });

/** What was so at the last look, so that only what is new is told. */
export const WATCHED = table("watched_fact", { fact: key(text()) });

export const NOTICE = table("notice", {
  id: id(),
  person_id: integer(),
  what: text<NoticeKind>(),
  kind: text<WatchedDocument["kind"]>(),
  document_id: integer(),
  words: text(),
  moment: text(),
  read_at: orNull(text()),
  page: filled(integer()),
});
