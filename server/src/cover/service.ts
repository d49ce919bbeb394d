import { type CoverAnswer, Refusal } from "@yosegi/contract";
import {
  check,
  checkDecimals,
  decimal,
  free,
  lineNeed,
  listCost,
  needUnit,
  type Problem,
  reporter,
  startFor,
} from "@yosegi/core";
import {
  briefs,
  currentCosts,
  loadLists,
  loadUnits,
  mainInForce,
  productById,
  refuseProblems,
  unitNamed,
} from "../catalog/index.ts";
import { asJson, type Reading } from "../db/index.ts";
import { reservations, stockFigures } from "../ledger/index.ts";

/** Whether free stock suffices for `quantity` of a product (docs/rules.md § 3). */
export async function coverOf(ctx: Reading, id: number, quantity: string): Promise<CoverAnswer> {
  const product = await productById(ctx, id);
  const list = (await loadLists(ctx, [id])).get(id);
  if (!list) throw Refusal.at("product", "no-list", { code: product.code });
  const wanted = decimal(quantity);
  const unit = unitNamed(await loadUnits(ctx), product.unit);
  const problems: Problem[] = [];
  checkDecimals("quantity", wanted, unit, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);

  const items = [id, ...list.lines.map((line) => line.item)];
  const stock = await stockFigures(ctx, items);
  const answer = check(list, wanted, stock);
  const started = startFor(list, wanted);
  const brief = await briefs(ctx, items);
  const cost = listCost(list, wanted, await currentCosts(ctx, items));
  const held = await reservations(ctx, items);
  const more = await partFacts(ctx, items);
  return {
    product: brief(id),
    wanted: wanted.toFixed(),
    started: started.toFixed(),
    makesNow: answer.makesNow === "no limit" ? null : answer.makesNow.toFixed(),
    limiting: answer.limiting,
    finishedFree: free(stock(id)).toFixed(),
    parts: answer.parts.map((part) => ({
      ...brief(part.item),
      bin: more.get(part.item)?.bin ?? "",
      need: part.need.toFixed(),
      stocked: part.stocked,
      onHand: part.onHand.toFixed(),
      expired: part.expired.toFixed(),
      reserved: part.reserved.toFixed(),
      reservedBy: held.filter((h) => h.item === part.item).map(({ item: _, ...h }) => h),
      free: part.free.toFixed(),
      short: part.short.toFixed(),
      reach: part.reach === "no limit" ? null : part.reach.toFixed(),
      limiting: part.limiting,
      canBeBuilt: more.get(part.item)?.has_list === 1,
    })),
    work: list.lines
      .filter((line) => line.service)
      .map((line) => ({
        name: brief(line.item).name,
        quantity: lineNeed(line, list.makes, started).toFixed(),
        unit: needUnit(line).code,
      })),
    cost: {
      total: cost.total.toFixed(4),
      each: cost.each.toFixed(4),
      unknown: cost.unknown.map((i) => brief(i).code),
    },
  };
}

async function partFacts(ctx: Reading, items: readonly number[]) {
  const rows = await ctx.sql.all<{ id: number; bin: string; has_list: number }>(
    `SELECT i.id, i.home_bin AS bin, ${mainInForce("i.id")} IS NOT NULL AS has_list
       FROM json_each($ids) ids JOIN item i ON i.id = ids.value`,
    { ids: asJson(items), today: ctx.today },
  );
  return new Map(rows.map((row) => [row.id, row]));
}
