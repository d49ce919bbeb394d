import { Refusal } from "@yosegi/contract";
import type { Reading, Writing } from "./context.ts";
import type { Column, Table } from "./table.ts";

/** A table of documents, whose changes are counted. */
type Versioned = Table<Record<"version", Column<number>> & Record<string, Column<unknown>>>;

/**
 * Refuses a change of a document that somebody has changed since it was opened, and says who. `version` is the one that the
 * change was made of; null where nobody says, and then nothing is compared.
 */
export async function refuseStale(
  ctx: Reading,
  { name, columns }: Versioned,
  id: number,
  version: number | null,
): Promise<void> {
  if (version === null) return;
  const key = Object.keys(columns)[0];
  const row = await ctx.sql.one<{ version: number; person: string | null; moment: string | null }>(
    `SELECT d.version, d.changed_at AS moment, (SELECT name FROM person WHERE id = d.changed_by) AS person
       FROM ${name} d WHERE d.${key} = $id`,
    { id },
  );
  if (row && row.version !== version) throw staleBy(ctx, row);
}

/** What is said of a change that comes too late: who was first, and when. */
export function staleBy(
  { company, moment: now }: Reading,
  { person, moment }: { person: string | null; moment: string | null },
): Refusal {
  const time = new Intl.DateTimeFormat("en-GB", {
    hour: "2-digit",
    minute: "2-digit",
    timeZone: company?.time_zone ?? "UTC",
  }).format(new Date(moment ?? now));
  return new Refusal("stale", { person: person ?? "Somebody", time });
}

/** Counts a change of a document whose own row stays as it is: what belongs to it was changed. */
export const countChange = (ctx: Writing, { name, columns }: Versioned, id: number): Promise<void> =>
  ctx.sql.run(`UPDATE ${name} SET version = version WHERE ${Object.keys(columns)[0]} = $id`, { id });
