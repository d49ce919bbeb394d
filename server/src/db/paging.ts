import { Refusal } from "@yosegi/contract";
import { searchText } from "@yosegi/core";
import type { Bound, Sql } from "./sql.ts";

/** What of a list is asked for. */
export interface PageQuery {
  /** Words that a row must have. */
  search: string;
  /** Where the page begins: `next` of the one before. */
  after?: string | undefined;
  limit: number;
}

export interface PageOf<Row> {
  rows: Row[];
  /** All rows that have the words, on whatever page. */
  found: readonly Row[];
  /** How many rows have the words. */
  total: number;
  /** Where the next page begins; null after the last. */
  next: string | null;
}

/**
 * One page of rows that are in their order already. It begins after the last row of the page before; where that one is
 * gone, at its place.
 */
export function pageOf<Row extends { id: number }>(
  rows: readonly Row[],
  { search, after, limit }: PageQuery,
  textOf: (row: Row) => string,
): PageOf<Row> {
  const words = searchText(search).split(/\s+/).filter(Boolean);
  const found =
    words.length === 0
      ? rows
      : rows.filter((row) => {
          const text = searchText(textOf(row));
          return words.every((word) => text.includes(word));
        });
  const begin = after === undefined ? 0 : beginAfter(found, after);
  const page = found.slice(begin, begin + limit);
  const last = page.at(-1);
  const end = begin + page.length;
  return {
    rows: page,
    found,
    total: found.length,
    next: last !== undefined && end < found.length ? `${last.id}.${end}` : null,
  };
}

/**
 * The ids of one page of the rows that `from` gives in their order (FROM, WHERE, ORDER BY). `text` is the SQL of what is searched in;
 * it is read only where one searches.
 */
export async function findPage(
  sql: Sql,
  query: PageQuery,
  { id, text, from, bind }: { id: string; text: string; from: string; bind?: Bound },
): Promise<{ ids: number[]; total: number; next: string | null }> {
  const found = await sql.allAtOnce<{ id: number; text: string }>(
    ["id", "text"],
    `SELECT ${id} AS id, ${query.search === "" ? "''" : text} AS text FROM ${from}`,
    bind,
  );
  const { rows, total, next } = pageOf(found, query, (row) => row.text);
  return { ids: rows.map((row) => row.id), total, next };
}

function beginAfter(rows: readonly { id: number }[], after: string): number {
  const [, id, end] = /^(\d{1,12})\.(\d{1,9})$/.exec(after) ?? [];
  if (id === undefined || end === undefined) throw Refusal.at("after", "invalid-input");
  const at = rows.findIndex((row) => row.id === Number(id));
  return at < 0 ? Number(end) - 1 : at + 1;
}
