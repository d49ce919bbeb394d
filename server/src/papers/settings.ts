import { PAPER_WORDS, type PaperWord, type ParsedBody, type routes } from "@yosegi/contract";
import { type DateStyle, type Day, writtenDay } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { PAPER_SETTING } from "./tables.ts";

/** How the company's papers are written. */
export interface PaperStyle {
  dates: DateStyle;
  words: Record<PaperWord, string>;
  version: number;
  day: (day: Day) => string;
}

/** What papers for customers say, and how they write dates. */
export async function paperStyle(ctx: Reading): Promise<PaperStyle> {
  const row = await ctx.sql.one<{ dates: DateStyle; words: string; version: number }>(
    "SELECT dates, words, version FROM paper_setting",
  );
  if (!row) throw new Error("What papers say is written by a step of the schema");
  const { dates, version } = row;
  const own = JSON.parse(row.words) as Partial<Record<PaperWord, string>>;
  return { dates, version, words: { ...PAPER_WORDS, ...own }, day: (day) => writtenDay(day, dates) };
}

/** Says what papers say; words as they were delivered are not kept, so that better ones of a later version count. */
export async function setPapers(
  ctx: Writing,
  { dates, words }: ParsedBody<typeof routes.setPapers>,
): Promise<{ version: number }> {
  const own = Object.entries(words).filter(([name, text]) => PAPER_WORDS[name as PaperWord] !== text);
  await ctx
    .model(PAPER_SETTING)
    .update({ dates, words: JSON.stringify(Object.fromEntries(own)) }, { where: { id: 1 } });
  return { version: (await paperStyle(ctx)).version };
}
