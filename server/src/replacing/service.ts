import { type ParsedBody, Refusal, type ReplacementRow, type routes } from "@yosegi/contract";
import { quantityToScaled, type Replacement } from "@yosegi/core";
import { asJson, type Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { writeContents } from "../kits/index.ts";
import { addRevisions, type RevisionRow } from "../lists/index.ts";
import { keptContents, keptText } from "./keptcontents.ts";
import { type Plan, planReplacement } from "./plan.ts";
import { REPLACEMENT, REPLACEMENT_KIT, REPLACEMENT_LIST } from "./tables.ts";
import { replacementById } from "./undo.ts";

/** Replaces a part in the lists and kits chosen: each list gets a locked revision that is in force at once. */
export async function replacePart(
  ctx: Writing,
  body: ParsedBody<typeof routes.replacePart>,
): Promise<ReplacementRow> {
  const { lists, kits, replacement } = await planReplacement(ctx, body);
  if (body.lists.length + body.kits.length === 0) throw new Refusal("replace-nothing");
  const brief = await briefs(ctx, [replacement.part, replacement.successor]);
  const [code, successor] = [brief(replacement.part).code, brief(replacement.successor).code];
  const chosenLists = body.lists.map((list) => chosen(lists, (l) => l.list === list, code, "lists"));
  const chosenKits = body.kits.map((kit) => chosen(kits, (k) => k.kit === kit, code, "kits"));
  const id = await insert(ctx, replacement);
  await replaceInLists(ctx, id, chosenLists, {
    before: `Before ${code} was replaced`,
    after: `${successor} in the place of ${code}`,
  });
  await ctx.sql.insert(
    REPLACEMENT_KIT,
    chosenKits.map(({ kit, before, after }) => ({
      replacement_id: id,
      kit_id: kit,
      before: keptText(before),
      after: keptText(after),
    })),
  );
  await writeContents(
    ctx,
    chosenKits.map(({ kit, after }) => ({ kit, contents: keptContents(after) })),
  );
  return replacementById(ctx, id);
}

/** What was planned for a list or kit that the person chose; refused where that has changed since. */
function chosen<Planned extends { problem: string | null }>(
  planned: readonly Planned[],
  isIt: (one: Planned) => boolean,
  code: string,
  kind: "lists" | "kits",
): Planned {
  const found = planned.find(isIt);
  if (!found || found.problem)
    throw new Refusal("replace-changed", {
      code,
      why: found?.problem ?? `one of the ${kind} has it no more`,
    });
  return found;
}

/** Gives each list its next revision, locked; what it was built by so far is locked too, so that the two can be compared and this be undone. */
async function replaceInLists(
  ctx: Writing,
  id: number,
  lists: Plan["lists"],
  notes: { before: string; after: string },
): Promise<void> {
  const revisions = asJson(lists.map((list) => list.revision));
  const states = await ctx.sql.all<Pick<RevisionRow, "id" | "state">>(
    "SELECT id, state FROM revision WHERE id IN (SELECT value FROM json_each($revisions))",
    { revisions },
  );
  const stateOf = new Map(states.map((row) => [row.id, row.state]));
  await ctx.sql.run(
    `UPDATE revision SET state = 'locked', locked_by = $person, locked_at = $moment, lock_note = $note
      WHERE id IN (SELECT value FROM json_each($revisions)) AND state = 'draft'`,
    { revisions, person: ctx.person.id, moment: ctx.moment, note: notes.before },
  );
  const made = await addRevisions(
    ctx,
    lists.map(({ list, after }) => ({ list, content: after })),
    { state: "locked", note: notes.after },
  );
  await ctx.sql.insert(
    REPLACEMENT_LIST,
    lists.map(({ list, revision }, i) => ({
      replacement_id: id,
      list_id: list,
      revision_id: made[i] ?? null,
      before_id: revision,
      before_state: stateOf.get(revision) ?? "locked",
    })),
  );
}

async function insert(ctx: Writing, r: Replacement): Promise<number> {
  const row = await ctx.model(REPLACEMENT).create({
    part_id: r.part,
    successor_id: r.successor,
    per: quantityToScaled(r.per),
    for_parts: quantityToScaled(r.of),
    person_id: ctx.person.id,
    moment: ctx.moment,
  });
  return row.get({ plain: true }).id;
}
