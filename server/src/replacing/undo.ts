import { Refusal, type ReplacementRow } from "@yosegi/contract";
import { quantityFromScaled } from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { EMPTY_KIT, type KeptContent, loadKits, writeContents } from "../kits/index.ts";
import { inForce } from "../lists/index.ts";
import { keptText } from "./keptcontents.ts";
import { REPLACEMENT } from "./tables.ts";

interface Row {
  id: number;
  part: string;
  successor: string;
  per: number;
  for_parts: number;
  person: string;
  moment: string;
  lists: number;
  kits: number;
  undone_by: string | null;
  undone_at: string | null;
}

/** Replacements, latest first, each with why it can no longer be undone. */
export async function replacements(ctx: Reading, id = 0): Promise<ReplacementRow[]> {
  const rows = await ctx.sql.all<Row>(
    `SELECT r.id, p.code AS part, s.code AS successor, r.per, r.for_parts, n.name AS person, r.moment, u.name AS undone_by,
            r.undone_at, (SELECT COUNT(*) FROM replacement_list WHERE replacement_id = r.id) AS lists,
            (SELECT COUNT(*) FROM replacement_kit WHERE replacement_id = r.id) AS kits
       FROM replacement r JOIN item_head p ON p.id = r.part_id JOIN item_head s ON s.id = r.successor_id
       JOIN person_name n ON n.id = r.person_id LEFT JOIN person_name u ON u.id = r.undone_by
      WHERE $id = 0 OR r.id = $id ORDER BY r.id DESC`,
    { id },
  );
  const blocked = await blocks(
    ctx,
    rows.filter((row) => row.undone_at === null).map((row) => row.id),
  );
  return rows.map(({ undone_by, undone_at, per, for_parts, ...row }) => ({
    ...row,
    per: quantityFromScaled(per).toFixed(),
    of: quantityFromScaled(for_parts).toFixed(),
    undone: undone_at === null ? null : { person: undone_by ?? "", moment: undone_at },
    blocked: blocked.get(row.id) ?? null,
  }));
}

/** One replacement, as the list of them shows it. */
export async function replacementById(ctx: Reading, id: number): Promise<ReplacementRow> {
  const [row] = await replacements(ctx, id);
  if (!row) throw new Refusal("not-found", { what: "replacement", id });
  return row;
}

interface ReplacedList {
  replacement: number;
  revision: number | null;
  before: number;
  state: string;
  code: string;
  builds: number;
  /** The revision in force today. */
  now: number | null;
}

/** The lists that replacements changed. */
async function listsOf(ctx: Reading, ids: readonly number[]): Promise<ReplacedList[]> {
  return ctx.sql.all<ReplacedList>(
    `SELECT x.replacement_id AS replacement, x.revision_id AS revision, x.before_id AS before, x.before_state AS state, i.code,
            (SELECT COUNT(*) FROM build_head WHERE revision_id = x.revision_id) AS builds, ${inForce("x.list_id", "$today")} AS now
       FROM json_each($ids) ids JOIN replacement_list x ON x.replacement_id = ids.value
       JOIN parts_list p ON p.id = x.list_id JOIN item_head i ON i.id = p.product_id`,
    { ids: asJson(ids), today: ctx.today },
  );
}

interface ReplacedKit {
  replacement: number;
  kit: number;
  before: string;
  after: string;
  code: string;
}

/** The kits that replacements changed. */
async function kitsOf(ctx: Reading, ids: readonly number[]): Promise<ReplacedKit[]> {
  return ctx.sql.all<ReplacedKit>(
    `SELECT x.replacement_id AS replacement, x.kit_id AS kit, x.before, x.after, i.code
       FROM json_each($ids) ids JOIN replacement_kit x ON x.replacement_id = ids.value JOIN item_head i ON i.id = x.kit_id`,
    { ids: asJson(ids) },
  );
}

/** Why replacements cannot be undone, by id: something was built from it, or was changed after it. */
async function blocks(ctx: Reading, ids: readonly number[]): Promise<Map<number, string>> {
  const [lists, kits] = [await listsOf(ctx, ids), await kitsOf(ctx, ids)];
  const now = await loadKits(
    ctx,
    kits.map(({ kit }) => kit),
  );
  const reasons = [
    ...lists.flatMap(({ replacement, code, builds, now, revision }) => {
      if (builds > 0) return [{ replacement, why: `${code} was built from it` }];
      return now === revision ? [] : [{ replacement, why: `${code} has a later revision` }];
    }),
    ...kits
      .filter(({ kit, after }) => keptText(now.get(kit) ?? EMPTY_KIT) !== after)
      .map(({ replacement, code }) => ({ replacement, why: `${code} has changed since` })),
  ];
  // Of several reasons the first is said.
  return new Map(reasons.reverse().map(({ replacement, why }) => [replacement, why]));
}

/** Takes a replacement back in one step: its revisions go, what they replaced is in force again, kits have what they had. */
export async function undoReplacement(ctx: Writing, id: number): Promise<ReplacementRow> {
  const row = await replacementById(ctx, id);
  if (row.undone) throw new Refusal("replace-undone");
  if (row.blocked) throw new Refusal("replace-blocked", { why: row.blocked });
  const lists = await listsOf(ctx, [id]);
  await ctx.sql.run("DELETE FROM revision WHERE id IN (SELECT value FROM json_each($revisions))", {
    revisions: asJson(lists.map((list) => list.revision)),
  });
  await ctx.sql.run(
    `UPDATE revision SET state = 'draft', locked_by = NULL, locked_at = NULL, lock_note = ''
      WHERE id IN (SELECT value FROM json_each($drafts)) AND NOT EXISTS (SELECT 1 FROM build_head WHERE revision_id = revision.id)`,
    { drafts: asJson(lists.filter((list) => list.state === "draft").map((list) => list.before)) },
  );
  await writeContents(
    ctx,
    (await kitsOf(ctx, [id])).map(({ kit, before }) => ({
      kit,
      contents: JSON.parse(before) as KeptContent[],
    })),
  );
  await ctx.model(REPLACEMENT).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  return replacementById(ctx, id);
}
