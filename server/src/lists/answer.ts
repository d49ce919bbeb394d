import { type PartsListAnswer, type ProductList, Refusal, type RevisionHead } from "@yosegi/contract";
import {
  type FullLine,
  free,
  type ListCost,
  listCost,
  mixedAmount,
  type Rate,
  withOptions,
} from "@yosegi/core";
import { customValues } from "../customfields/index.ts";
import { asJson, type Reading } from "../db/index.ts";
import { filesOf } from "../files/index.ts";
import { briefs, costTexts, loadUnits, unitNamed } from "../items/index.ts";
import { locationNames, stockFigures } from "../ledger/index.ts";
import { personNames } from "../people/index.ts";
import { currentCosts } from "./costs.ts";
import { inForce } from "./inforce.ts";
import { loadRevisions } from "./lists.ts";
import type { RevisionRow } from "./tables.ts";

interface HeadRow extends RevisionRow {
  in_force: number;
  made_name: string | null;
  locked_name: string | null;
  after_code: string | null;
  builds: number;
}

const HEAD = `
  SELECT r.*, r.id = ${inForce("r.list_id")} AS in_force,
         m.name AS made_name, l.name AS locked_name, a.code AS after_code,
         (SELECT COUNT(*) FROM build_head WHERE revision_id = r.id) AS builds
    FROM revision r LEFT JOIN person_name m ON m.id = r.created_by LEFT JOIN person_name l ON l.id = r.locked_by
    LEFT JOIN item_head a ON a.id = r.starts_after`;

function headOf(row: HeadRow): RevisionHead {
  return {
    id: row.id,
    version: row.version,
    number: row.number,
    state: row.state,
    inForce: row.in_force === 1,
    starts: row.starts,
    startsOn: row.starts_on,
    startsAfter: row.starts_after,
    startsAfterCode: row.after_code ?? "",
    made: row.created_at === null ? null : { person: row.made_name ?? "", moment: row.created_at },
    locked:
      row.locked_at === null
        ? null
        : { person: row.locked_name ?? "", moment: row.locked_at, note: row.lock_note },
    builds: row.builds,
  };
}

/** All lists of a product, the main one first, each with its revisions, newest first. */
export async function productLists(ctx: Reading, product: number): Promise<ProductList[]> {
  const lists = await ctx.sql.all<{ id: number; name: string; main: number }>(
    "SELECT id, name, main FROM parts_list WHERE product_id = $product ORDER BY main DESC, name_key",
    { product },
  );
  const rows = await ctx.sql.all<HeadRow>(
    `${HEAD} WHERE r.list_id IN (SELECT value FROM json_each($lists)) ORDER BY r.number DESC`,
    { lists: asJson(lists.map((list) => list.id)), today: ctx.today },
  );
  return lists.map((list) => ({
    ...list,
    main: list.main === 1,
    revisions: rows.filter((row) => row.list_id === list.id).map(headOf),
  }));
}

/** One revision with its parts, what they cost and what is free of them. */
export async function listAnswer(ctx: Reading, revision: number): Promise<PartsListAnswer> {
  const head = await ctx.sql.one<HeadRow>(`${HEAD} WHERE r.id = $revision`, { revision, today: ctx.today });
  const owner = await ctx.sql.one<{ id: number; name: string; main: number; unit: string }>(
    `SELECT p.id, p.name, p.main, i.unit FROM revision r JOIN parts_list p ON p.id = r.list_id JOIN item_head i ON i.id = p.product_id
      WHERE r.id = $revision`,
    { revision },
  );
  const list = (await loadRevisions(ctx, [revision])).get(revision);
  if (!head || !owner || !list) throw new Refusal("not-found", { what: "revision", id: revision });
  const unitCost = await currentCosts(
    ctx,
    list.lines.map((line) => line.item),
  );
  const unit = unitNamed(await loadUnits(ctx), owner.unit);
  const taken = withOptions(list, NOTHING);
  return {
    list: owner.id,
    name: owner.name,
    main: owner.main === 1,
    revision: headOf(head),
    makes: list.makes.toFixed(),
    usual: list.usual.toFixed(),
    overhead: list.overhead.toFixed(),
    extra: list.extra.toFixed(),
    yield: list.yield.toFixed(),
    instructions: list.instructions,
    mixed: mixedAmount(taken, unit)?.toFixed() ?? null,
    lines: await lineAnswers(ctx, list.lines, unitCost),
    expected: await costAnswer(ctx, listCost(taken, list.usual, unitCost)),
    custom: await customValues(ctx, "list", owner.id),
    files: await filesOf(ctx, "list", owner.id),
  };
}

const NOTHING: ReadonlySet<number> = new Set();

async function costAnswer(ctx: Reading, cost: ListCost): Promise<PartsListAnswer["expected"]> {
  const brief = await briefs(ctx, cost.unknown);
  return {
    materials: cost.materials.toFixed(4),
    work: cost.work.toFixed(4),
    overhead: cost.overhead.toFixed(4),
    extra: cost.extra.toFixed(4),
    total: cost.total.toFixed(4),
    each: cost.each.toFixed(4),
    unknown: cost.unknown.map((item) => brief(item).code),
  };
}

/** Lines with the names of what they name. */
export async function lineAnswers(
  ctx: Reading,
  lines: readonly FullLine[],
  unitCost: (item: number) => Rate | null,
): Promise<PartsListAnswer["lines"]> {
  const items = lines.flatMap((line) => [line.item, ...line.substitutes.map((s) => s.item)]);
  const brief = await briefs(ctx, items);
  const stock = await stockFigures(ctx, items);
  const [locations, people] = [await locationNames(ctx), await personNames(ctx)];
  const freeQuantity = (item: number) => free(stock(item)).toFixed();
  return lines.map((line, i) => ({
    line: i + 1,
    part: {
      ...brief(line.item),
      free: freeQuantity(line.item),
      ...costTexts(unitCost(line.item)),
    },
    quantity: line.quantity.toFixed(),
    unit: line.unit.code,
    waste: line.waste.toFixed(),
    oncePerBuild: line.oncePerBuild,
    optional: line.optional,
    drawnAt: line.drawnAt,
    store: line.store === null ? "" : (locations.get(line.store) ?? ""),
    note: line.note,
    share: line.share?.toFixed() ?? null,
    person: line.person === null ? "" : (people.get(line.person) ?? ""),
    substitutes: line.substitutes.map((s) => {
      const { id, code, name, unit, packs } = brief(s.item);
      return {
        id,
        item: code,
        name,
        unit,
        packs,
        quantity: s.quantity.toFixed(),
        free: freeQuantity(s.item),
      };
    }),
  }));
}
