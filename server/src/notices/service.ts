import {
  type AnswerOf,
  type NoticeAnswer,
  type NoticeChoices,
  type ParsedBody,
  Refusal,
  type routes,
} from "@yosegi/contract";
import { NOTICES } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { NOTICE, NOTICE_CHOICE, NOTICE_EMAIL } from "./tables.ts";

/** The last notices that are listed. */
const LISTED = 50;

/** What the person who asks was told of; nothing where nobody is chosen. */
export async function notices(ctx: Reading): Promise<AnswerOf<typeof routes.notices>> {
  const person = ctx.person?.id ?? 0;
  const rows = await ctx.sql.all<Omit<NoticeAnswer, "read"> & { read: number }>(
    `SELECT id, what, kind, document_id AS document, words AS text, moment, read_at IS NOT NULL AS read
       FROM notice WHERE person_id = $person AND page = 1 ORDER BY id DESC LIMIT $most`,
    { person, most: LISTED },
  );
  const unread = await ctx.sql.one<{ n: number }>(
    "SELECT COUNT(*) AS n FROM notice WHERE person_id = $person AND page = 1 AND read_at IS NULL",
    { person },
  );
  return { unread: unread?.n ?? 0, notices: rows.map((row) => ({ ...row, read: row.read === 1 })) };
}

export async function readNotices(ctx: Writing): Promise<void> {
  await ctx
    .model(NOTICE)
    .update({ read_at: ctx.moment }, { where: { person_id: ctx.person.id, read_at: null } });
}

/** What the person who asks is told of. */
export async function noticeChoices(ctx: Reading): Promise<NoticeChoices> {
  const person = ctx.person?.id ?? 0;
  const rows = await ctx.sql.all<{ what: string; page: number; outbox: number }>(
    "SELECT what, page, outbox FROM notice_choice WHERE person_id = $person",
    { person },
  );
  const email = await ctx.sql.one<{ email: string }>(
    "SELECT email FROM notice_email WHERE person_id = $person",
    { person },
  );
  return {
    choices: NOTICES.map((what) => {
      const row = rows.find((one) => one.what === what);
      return { what, page: row?.page === 1, outbox: row?.outbox === 1 };
    }),
    email: email?.email ?? "",
  };
}

/** Chooses what to be told of; a message needs an address. */
export async function chooseNotices(
  ctx: Writing,
  { choices, email }: ParsedBody<typeof routes.chooseNotices>,
): Promise<NoticeChoices> {
  if (email === "" && choices.some(({ outbox }) => outbox)) throw Refusal.at("email", "email-needed");
  const person_id = ctx.person.id;
  await ctx.sql.upsert(
    NOTICE_CHOICE,
    ["person_id", "what"],
    choices.map(({ what, page, outbox }) => ({
      person_id,
      what,
      page: page ? 1 : 0,
      outbox: outbox ? 1 : 0,
    })),
  );
  await ctx.sql.upsert(NOTICE_EMAIL, ["person_id"], [{ person_id, email }]);
  return noticeChoices(ctx);
}
