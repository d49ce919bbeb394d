import {
  messageOf,
  type ParsedBody,
  Refusal,
  type ReplacementPreview,
  type ReplacementRow,
  type routes,
} from "@yosegi/contract";
import {
  codeKey,
  type Day,
  decimal,
  divideExact,
  type FullLine,
  findCycle,
  listCost,
  quantityFromScaled,
  quantityToScaled,
  type Replacement,
  replaceInLines,
  withOptions,
} from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { briefs, itemById, knownItems, loadUnits, stockedRow, unitNamed } from "../items/index.ts";
import { loadKits, type StoredContent, type StoredKit, writeContents } from "../kits/index.ts";
import {
  addRevisions,
  currentCosts,
  type FullList,
  inForce,
  loadRevisions,
  type RevisionRow,
} from "../lists/index.ts";
import { REPLACEMENT, REPLACEMENT_KIT, REPLACEMENT_LIST } from "./tables.ts";

type ReplacementBody = ParsedBody<typeof routes.previewReplacement>;

interface Plan {
  replacement: Replacement;
  lists: {
    list: number;
    product: number;
    name: string;
    revision: number;
    before: FullList;
    after: FullList;
    problem: string | null;
  }[];
  kits: { kit: number; before: StoredKit; after: StoredKit; problem: string | null }[];
}

/** What replacing a part by its successor would change in every list in force and every kit. */
export async function previewReplacement(ctx: Reading, body: ReplacementBody): Promise<ReplacementPreview> {
  const { lists, kits, replacement } = await plan(ctx, body);
  const items = [...lists.flatMap((l) => [...l.before.lines, ...l.after.lines].map((line) => line.item))];
  const others = kits.flatMap((k) => [...k.before.contents, ...k.after.contents].map((c) => c.item));
  const unitCost = await currentCosts(ctx, items);
  const brief = await briefs(ctx, [
    ...items,
    ...others,
    ...lists.map((l) => l.product),
    ...kits.map((k) => k.kit),
    replacement.part,
    replacement.successor,
  ]);
  const pending = await pendingRevisions(
    ctx,
    lists.map((l) => l.list),
  );
  const cost = (list: FullList) =>
    listCost(withOptions(list, new Set()), list.usual, unitCost).each.toFixed(4);
  const words = (lines: readonly FullLine[]) =>
    lines.map((line) => `${line.quantity.toFixed()} ${line.unit.code} ${brief(line.item).code}`);
  return {
    lists: lists.map(({ list, product, name, before, after, problem }) => {
      const changed = before.lines.map((line, i) => line !== after.lines[i]);
      const there = before.lines.some((line) => line.item === replacement.successor);
      return {
        list,
        product: brief(product),
        name,
        before: words(before.lines.filter((_, i) => changed[i])),
        after: words(after.lines.filter((_, i) => changed[i])),
        costBefore: cost(before),
        costAfter: cost(after),
        problem,
        warning: warningOf(brief(replacement.successor).code, there, pending.get(list)),
      };
    }),
    kits: kits.map(({ kit, before, after, problem }) => ({
      kit: brief(kit),
      before: kitWords(before, after, brief),
      after: kitWords(after, before, brief),
      problem,
    })),
  };
}

/** What is worth knowing before a part is replaced on a list; null where nothing is. */
function warningOf(
  successor: string,
  there: boolean,
  pending: { number: number; day: Day } | undefined,
): string | null {
  const words = [
    there && `${successor} is on this list already.`,
    pending &&
      `Revision ${pending.number}, locked for ${pending.day}, will never be used: the new one comes after it.`,
  ].filter((word) => word !== undefined && word !== false);
  return words.length === 0 ? null : words.join(" ");
}

/** Revisions that were locked for a day to come, by list; the last one of each. */
async function pendingRevisions(
  ctx: Reading,
  lists: readonly number[],
): Promise<Map<number, { number: number; day: Day }>> {
  const rows = await ctx.sql.all<{ list: number; number: number; day: Day }>(
    `SELECT r.list_id AS list, r.number, r.starts_on AS day FROM json_each($ids) ids JOIN revision r ON r.list_id = ids.value
      WHERE r.state = 'locked' AND r.starts = 'day' AND r.starts_on > $today ORDER BY r.number`,
    { ids: asJson(lists), today: ctx.today },
  );
  return new Map(rows.map(({ list, ...pending }) => [list, pending]));
}

function kitWords(kit: StoredKit, other: StoredKit, brief: (item: number) => { code: string; unit: string }) {
  return kit.contents
    .filter((content, i) => content !== other.contents[i])
    .map(({ item, quantity }) => `${quantity.toFixed()} ${brief(item).unit} ${brief(item).code}`);
}

async function plan(ctx: Reading, body: ReplacementBody): Promise<Plan> {
  const part = await itemById(ctx, body.part);
  const successor = await itemById(ctx, body.successor);
  if (part.id === successor.id) throw Refusal.at("successor", "replace-same");
  if (successor.kind === "kit") throw Refusal.at("successor", "part-is-kit", { code: successor.code });
  if (successor.state === "archived") throw Refusal.at("successor", "archived", { code: successor.code });
  const replacement: Replacement = {
    part: part.id,
    successor: successor.id,
    unit: unitNamed(await loadUnits(ctx), successor.unit),
    stocked: stockedRow(successor),
    per: body.per,
    of: body.of,
  };
  return {
    replacement,
    lists: await planLists(ctx, replacement, part.code, successor.code, successor.kind),
    kits: await planKits(ctx, replacement, part.code, successor),
  };
}

async function planLists(
  ctx: Reading,
  replacement: Replacement,
  code: string,
  successor: string,
  successorKind: string,
): Promise<Plan["lists"]> {
  const rows = await ctx.sql.all<{
    list: number;
    product: number;
    code: string;
    name: string;
    revision: number;
    service: number;
  }>(
    `SELECT DISTINCT p.id AS list, p.product_id AS product, i.code, p.name, r.id AS revision,
            EXISTS (SELECT 1 FROM item_head WHERE id = $part AND kind = 'service') AS service
       FROM revision_line l JOIN revision r ON r.id = l.revision_id JOIN parts_list p ON p.id = r.list_id
       JOIN item_head i ON i.id = p.product_id
      WHERE r.id = ${inForce("p.id")} AND (l.item_id = $part OR EXISTS
            (SELECT 1 FROM line_substitute s WHERE s.revision_id = l.revision_id AND s.line = l.line AND s.item_id = $part))
      ORDER BY i.code_key, p.main DESC, p.name_key`,
    { part: replacement.part, today: ctx.today },
  );
  const lists = await loadRevisions(
    ctx,
    rows.map((row) => row.revision),
  );
  const known = await knownItems(ctx, [successor]);
  return rows.flatMap(({ list, product, name, revision, code: productCode, service }) => {
    const before = lists.get(revision);
    if (!before) return [];
    const { lines, inexact } = replaceInLines(before.lines, replacement);
    const path = findCycle(codeKey(productCode), codeKey(successor), (key) => known.get(key)?.parts ?? []);
    const problem = path
      ? messageOf("parts-circle", { path: path.map((key) => known.get(key)?.code ?? key).join(" → ") })
      : (service === 1) !== (successorKind === "service")
        ? messageOf("not-stocked", { code: service ? code : successor, kind: "service" })
        : inexact.length > 0
          ? messageOf("replace-inexact", { part: code })
          : null;
    return [{ list, product, name, revision, before, after: { ...before, lines }, problem }];
  });
}

async function planKits(
  ctx: Reading,
  { part, successor, per, of, unit }: Replacement,
  code: string,
  item: { code: string; kind: string },
): Promise<Plan["kits"]> {
  const rows = await ctx.sql.all<{ kit: number }>(
    "SELECT DISTINCT kit_id AS kit FROM kit_part WHERE item_id = $part ORDER BY kit_id",
    { part },
  );
  const kits = await loadKits(
    ctx,
    rows.map((row) => row.kit),
  );
  return [...kits].map(([kit, before]) => {
    let inexact = false;
    const contents = before.contents.map((content) => {
      const swaps = content.swaps.includes(part)
        ? content.swaps.map((swap) => (swap === part ? successor : swap))
        : content.swaps;
      if (content.item !== part) return swaps === content.swaps ? content : { ...content, swaps };
      const quantity = divideExact(content.quantity.times(per), of, unit.decimals);
      inexact ||= quantity === null;
      return quantity === null ? content : { ...content, item: successor, quantity, swaps };
    });
    const problem =
      item.kind === "service"
        ? messageOf("not-stocked", { code: item.code, kind: item.kind })
        : inexact
          ? messageOf("replace-inexact", { part: code })
          : null;
    return { kit, before, after: { ...before, contents }, problem };
  });
}

/** Replaces a part in the lists and kits chosen: each list gets a locked revision that is in force at once. */
export async function replacePart(
  ctx: Writing,
  body: ParsedBody<typeof routes.replacePart>,
): Promise<ReplacementRow> {
  const { lists, kits, replacement } = await plan(ctx, body);
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
      before: kitText(before),
      after: kitText(after),
    })),
  );
  await writeContents(
    ctx,
    chosenKits.map(({ kit, after }) => ({ kit, contents: contentsOf(after) })),
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

const contentsOf = (kit: StoredKit): StoredContent[] =>
  kit.contents.map((c) => [c.item, quantityToScaled(c.quantity), c.swaps]);

/** What a replacement changes of a kit's contents, to be compared and brought back. */
const kitText = (kit: StoredKit): string => asJson(contentsOf(kit));

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
  const found: ReplacementRow[] = [];
  for (const { undone_by, undone_at, per, for_parts, ...row } of rows)
    found.push({
      ...row,
      per: quantityFromScaled(per).toFixed(),
      of: quantityFromScaled(for_parts).toFixed(),
      undone: undone_at === null ? null : { person: undone_by ?? "", moment: undone_at },
      blocked: undone_at === null ? await blocked(ctx, row.id) : null,
    });
  return found;
}

async function replacementById(ctx: Reading, id: number): Promise<ReplacementRow> {
  const [row] = await replacements(ctx, id);
  if (!row) throw new Refusal("not-found", { what: "replacement", id });
  return row;
}

interface ReplacedList {
  list: number;
  revision: number | null;
  before: number;
  state: string;
  code: string;
  builds: number;
  /** The revision in force today. */
  now: number | null;
}

async function listsOf(ctx: Reading, id: number): Promise<ReplacedList[]> {
  return ctx.sql.all<ReplacedList>(
    `SELECT x.list_id AS list, x.revision_id AS revision, x.before_id AS before, x.before_state AS state, i.code,
            (SELECT COUNT(*) FROM build_head WHERE revision_id = x.revision_id) AS builds, ${inForce("x.list_id", "$today")} AS now
       FROM replacement_list x JOIN parts_list p ON p.id = x.list_id JOIN item_head i ON i.id = p.product_id
      WHERE x.replacement_id = $id`,
    { id, today: ctx.today },
  );
}

async function kitsOf(ctx: Reading, id: number) {
  return ctx.sql.all<{ kit: number; before: string; after: string; code: string }>(
    `SELECT x.kit_id AS kit, x.before, x.after, i.code FROM replacement_kit x JOIN item_head i ON i.id = x.kit_id
      WHERE x.replacement_id = $id`,
    { id },
  );
}

/** Why a replacement cannot be undone: something was built from it, or was changed after it. */
async function blocked(ctx: Reading, id: number): Promise<string | null> {
  for (const list of await listsOf(ctx, id)) {
    if (list.builds > 0) return `${list.code} was built from it`;
    if (list.now !== list.revision) return `${list.code} has a later revision`;
  }
  const kits = await kitsOf(ctx, id);
  const now = await loadKits(
    ctx,
    kits.map((kit) => kit.kit),
  );
  const changed = kits.find(({ kit, after }) => kitText(now.get(kit) ?? NO_KIT) !== after);
  return changed ? `${changed.code} has changed since` : null;
}

const NO_KIT: StoredKit = {
  contentsShown: true,
  mayBeAddedTo: false,
  priceRule: "own",
  discount: decimal(0),
  contents: [],
};

/** Takes a replacement back in one step: its revisions go, what they replaced is in force again, kits have what they had. */
export async function undoReplacement(ctx: Writing, id: number): Promise<ReplacementRow> {
  const row = await replacementById(ctx, id);
  if (row.undone) throw new Refusal("replace-undone");
  if (row.blocked) throw new Refusal("replace-blocked", { why: row.blocked });
  const lists = await listsOf(ctx, id);
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
    (await kitsOf(ctx, id)).map(({ kit, before }) => ({
      kit,
      contents: JSON.parse(before) as StoredContent[],
    })),
  );
  await ctx.model(REPLACEMENT).update({ undone_by: ctx.person.id, undone_at: ctx.moment }, { where: { id } });
  return replacementById(ctx, id);
}
