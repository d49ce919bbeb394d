import { type ImportKind, type ImportReport, type ImportRun, Refusal } from "@yosegi/contract";
import type { Cells } from "@yosegi/core";
import type { Reading, Writing } from "../db/index.ts";
import { type Records, recordsOf } from "./records.ts";
import { IMPORT_RUN, type ImportRunRow } from "./tables.ts";

/** A record as it was before an import, and as it is after it. */
export interface RecordChange {
  kind: ImportKind;
  key: string;
  /** null where there was none. */
  before: Cells[] | null;
  after: Cells[];
}

type AllRecords = ReadonlyMap<ImportKind, Records>;

/** Opening stock is in the ledger, which has an undo of its own. */
const isKept = (kind: ImportKind) => kind !== "stock";

/** Everything there is of some kinds. */
export async function allRecords(ctx: Reading, kinds: readonly ImportKind[]): Promise<AllRecords> {
  const found = new Map<ImportKind, Records>();
  for (const kind of kinds.filter(isKept)) found.set(kind, await recordsOf(ctx, kind));
  return found;
}

const sameCells = (a: readonly Cells[] | undefined, b: readonly Cells[] | undefined) =>
  JSON.stringify(a ?? null) === JSON.stringify(b ?? null);

/** Which records are others than they were. */
export async function changesSince(ctx: Reading, before: AllRecords): Promise<RecordChange[]> {
  const after = await allRecords(ctx, [...before.keys()]);
  return [...after].flatMap(([kind, records]) =>
    [...records].flatMap(([key, cells]): RecordChange[] => {
      const was = before.get(kind)?.get(key);
      return sameCells(was, cells) ? [] : [{ kind, key, before: was ?? null, after: cells }];
    }),
  );
}

/** Whether a record is still as an import left it. */
export const isAsLeft = ({ kind, key, after }: RecordChange, now: AllRecords): boolean =>
  sameCells(now.get(kind)?.get(key), after);

/** Keeps what an import did, so that it can be undone. */
export async function keepRun(
  ctx: Writing,
  number: string,
  { fresh, changed }: ImportReport["adds"],
  changes: readonly RecordChange[],
): Promise<void> {
  await ctx.model(IMPORT_RUN).create({
    number,
    person_id: ctx.person.id,
    moment: ctx.moment,
    summary: JSON.stringify({ fresh, changed }),
    changes: JSON.stringify(changes),
  });
}

export async function runById(ctx: Reading, id: number): Promise<ImportRunRow> {
  const row = (await ctx.model(IMPORT_RUN).findByPk(id))?.get({ plain: true });
  if (!row) throw new Refusal("not-found", { what: "import", id });
  return row;
}

/** So many of the latest imports are listed. */
const LISTED = 50;

export async function importRuns(ctx: Reading): Promise<ImportRun[]> {
  const rows = await ctx.sql.all<{
    id: number;
    number: string;
    person: string;
    moment: string;
    summary: string;
    undone_by: string | null;
    undone_at: string | null;
  }>(
    `SELECT r.id, r.number, p.name AS person, r.moment, r.summary, u.name AS undone_by, r.undone_at
       FROM import_run r JOIN person_name p ON p.id = r.person_id LEFT JOIN person_name u ON u.id = r.undone_by
      ORDER BY r.id DESC LIMIT ${LISTED}`,
  );
  return rows.map(({ summary, undone_by, undone_at, ...row }) => ({
    ...row,
    ...(JSON.parse(summary) as Pick<ImportRun, "fresh" | "changed">),
    undone: undone_at === null ? null : { person: undone_by ?? "", moment: undone_at },
  }));
}
