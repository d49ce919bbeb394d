import { NOTICES } from "@yosegi/core";
import { email, moment, once, ref } from "./fields.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

const what = z.enum(NOTICES);

export const notice = z
  .object({
    id: ref,
    what,
    kind: z.enum(["build", "order", "purchase"]),
    document: ref,
    text: z.string(),
    moment,
    read: z.boolean(),
  })
  .meta({ id: "Notice" });
export type NoticeAnswer = z.infer<typeof notice>;

const choices = z
  .array(z.object({ what, page: z.boolean(), outbox: z.boolean() }))
  .max(20)
  .check(once((choice) => choice.what, "This is named"));

const choicesAnswer = z.object({
  choices,
  email: z.string().meta({ description: "Where messages to the outbox go" }),
});
export type NoticeChoices = z.infer<typeof choicesAnswer>;

export const noticeRoutes = {
  notices: ask("/api/notices", {
    permission: "look",
    summary: "What the person who asks was told of, the latest first",
    answer: z.object({
      unread: z.int(),
      notices: z.array(notice).meta({ description: "The last 50" }),
    }),
  }),
  readNotices: command("/api/notices/read", {
    permission: "look",
    summary: "Say that all notices were read",
    answer: z.object({}),
  }),
  noticeChoices: ask("/api/notices/choices", {
    permission: "look",
    summary: "What the person who asks is told of, in the page and by the outbox",
    answer: choicesAnswer,
  }),
  chooseNotices: replace("/api/notices/choices", {
    permission: "look",
    summary: "Choose what to be told of",
    body: z.object({ choices, email: email.default("") }),
    answer: choicesAnswer,
  }),
};
