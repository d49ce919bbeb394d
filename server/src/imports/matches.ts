import type { ImportFile, ImportKind } from "@yosegi/contract";
import { groupBy, type Reading, type Writing } from "../db/index.ts";
import type { Matches } from "./read.ts";
import { IMPORT_MATCH } from "./tables.ts";

/** What somebody said before of the columns of each kind of file. */
export async function matchesOf(ctx: Reading): Promise<(kind: ImportKind) => Matches> {
  const rows = await ctx.sql.all<{ kind: ImportKind; theirs: string; ours: string }>(
    "SELECT kind, theirs, ours FROM import_match",
  );
  const byKind = groupBy(rows, (row) => row.kind);
  return (kind) => Object.fromEntries((byKind.get(kind) ?? []).map(({ theirs, ours }) => [theirs, ours]));
}

/** Remembers what was said by hand of the columns of files that were imported. */
export async function rememberMatches(
  ctx: Writing,
  files: readonly Pick<ImportFile, "kind" | "columns">[],
): Promise<void> {
  const rows = files.flatMap(({ kind, columns }) =>
    Object.entries(columns).map(([theirs, ours]) => ({ kind, theirs: theirs.trim(), ours })),
  );
  await ctx.sql.upsert(
    IMPORT_MATCH,
    ["kind", "theirs"],
    rows.filter(({ theirs }) => theirs !== "" && theirs.length <= 200),
  );
}
