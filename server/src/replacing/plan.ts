import { messageOf, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import { codeKey, divideExact, findCycle, type Replacement, replaceInLines } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { itemById, knownItems, loadUnits, stockedRow, unitNamed } from "../items/index.ts";
import { loadKits, type StoredKit } from "../kits/index.ts";
import { type FullList, inForce, loadRevisions } from "../lists/index.ts";

/** The part, its successor, and how many of it take the place of how many. */
export type ReplacementBody = ParsedBody<typeof routes.previewReplacement>;

/** What a replacement would change: every list in force and every kit that has the part, before and after. */
export interface Plan {
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

/** Works out what replacing a part by its successor changes; each list and kit says what stands against it. */
export async function planReplacement(ctx: Reading, body: ReplacementBody): Promise<Plan> {
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
