import type { PickRound, PickStop as StopAnswer } from "@yosegi/contract";
import {
  type BuildStage,
  byTurn,
  type Day,
  type OrderStage,
  type PickableStock,
  quantityFromScaled,
  spotKey,
  stopsOf,
  sum,
  ZERO,
} from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";
import { personNames } from "../people/index.ts";
import { type Pickable, type PickRef, refKey } from "./documents.ts";
import { planRound, type RoundPlan, refsOf, roundById } from "./plan.ts";
import { substitutesIn } from "./substitutes.ts";

/** A round as the picker sees it. */
export async function roundSheet(ctx: Reading, id: number): Promise<PickRound> {
  const round = await roundById(ctx, id);
  const plan = await planRound(ctx, round);
  const names = await personNames(ctx);
  const moved = await movedIn(ctx, round.number);
  const items = new Set([
    ...plan.held.map(({ line }) => line.item),
    ...plan.documents.flatMap(({ missing }) => missing.map((own) => own.item)),
    ...moved.map((row) => row.item),
  ]);
  const brief = await briefs(ctx, items);
  return {
    id: round.id,
    number: round.number,
    picker: names.get(round.picker_id) ?? "",
    pickerId: round.picker_id,
    startedAt: round.started_at,
    endedAt: round.ended_at,
    documents: await documentsOf(ctx, plan, moved),
    stops: await stopAnswers(ctx, plan, brief),
    fetched: await fetchedOf(ctx, moved, brief),
    missing: missingOf(plan, brief),
    ...(await substitutesIn(ctx, plan)),
  };
}

type Brief = Awaited<ReturnType<typeof briefs>>;

async function stopAnswers(ctx: Reading, plan: RoundPlan, brief: Brief): Promise<StopAnswer[]> {
  const names = await locationNames(ctx);
  const bySpot = new Map(plan.ready.map((balance) => [spotKey(balance), balance]));
  const at = (
    hold: Pick<PickableStock, "item" | "lot" | "serial"> & {
      from: PickableStock | { location: number; bin: string };
    },
  ) => bySpot.get(spotKey({ ...hold, ...hold.from }));
  const byDocument = new Map(plan.documents.map((document) => [refKey(document), document]));
  const stops = stopsOf(
    plan.held.flatMap(({ holds }) => holds),
    (hold) => at(hold)?.walk ?? null,
  );
  const inBin = groupBy(plan.ready, ({ item, location, bin }) => `${item} ${location} ${bin}`);
  const scanned = await scannedBy(
    ctx,
    stops.map((stop) => stop.item),
  );
  return stops.map(({ item, lot, serial, from, quantity, holds, ...key }) => {
    const here = at({ item, lot, serial, from, ...key });
    return {
      location: from.location,
      store: names.get(from.location) ?? "",
      bin: from.bin,
      item: brief(item),
      barcode: scanned.get(item)?.barcode ?? "",
      lotFixed: scanned.get(item)?.fixed === 1,
      lot,
      serial,
      expiry: here?.expiry ?? null,
      quantity: quantity.toFixed(),
      inBin: (here?.quantity ?? ZERO).toFixed(),
      shares: holds.map((hold) => ({
        kind: hold.document.kind,
        id: hold.document.id,
        number: hold.document.number,
        line: hold.line,
        quantity: hold.quantity.toFixed(),
        set: byDocument.get(refKey(hold.document))?.setOf(hold.line) ?? "",
      })),
      others: (inBin.get(`${item} ${from.location} ${from.bin}`) ?? [])
        .filter((balance) => balance !== here)
        .sort(byTurn)
        .map((balance) => ({
          lot: balance.lot,
          serial: balance.serial,
          quantity: balance.quantity.toFixed(),
          expiry: balance.expiry,
        })),
    };
  });
}

/** By what items are scanned, and whether their lot is fixed. */
async function scannedBy(ctx: Reading, items: readonly number[]) {
  const rows = await ctx.sql.all<{ id: number; barcode: string; fixed: number }>(
    "SELECT id, barcode, lot_fixed AS fixed FROM item_head WHERE id IN (SELECT value FROM json_each($items))",
    { items: asJson(new Set(items)) },
  );
  return new Map(rows.map((row) => [row.id, row]));
}

interface MovedRow {
  posting: number;
  moment: string;
  person: number;
  location: number;
  bin: string;
  item: number;
  lot: string;
  serial: string;
  kind: PickRef["kind"];
  document: number;
  line: number;
  quantity: number;
  reason: string;
}

/** What was fetched in a round and not undone, the latest first. */
const movedIn = (ctx: Reading, number: string): Promise<MovedRow[]> =>
  ctx.sql.all<MovedRow>(
    `SELECT o.id AS posting, o.moment, o.person_id AS person, m.from_location AS location, m.from_bin AS bin, m.item_id AS item, m.lot, m.serial,
            m.source AS kind, m.source_id AS document, m.source_line AS line, m.quantity, m.reason
       FROM posting_head o JOIN stock_movement m ON m.posting_id = o.id
      WHERE o.document = $number AND o.kind = 'pick' AND o.undoes IS NULL AND m.purpose IN ('handed out', 'packed')
        AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id)
      ORDER BY o.id DESC, m.id`,
    { number },
  );

async function fetchedOf(
  ctx: Reading,
  moved: readonly MovedRow[],
  brief: Brief,
): Promise<PickRound["fetched"]> {
  const names = await personNames(ctx);
  const stores = await locationNames(ctx);
  const heads = await headsOf(
    ctx,
    moved.map(({ kind, document: id }) => ({ kind, id })),
  );
  return [...groupBy(moved, (row) => row.posting).values()].flatMap((rows) => {
    const [first] = rows;
    if (!first) return [];
    return [
      {
        posting: first.posting,
        moment: first.moment,
        person: names.get(first.person) ?? "",
        from: `${stores.get(first.location) ?? ""} ${first.bin}`.trim(),
        item: brief(first.item),
        lot: first.lot,
        serial: first.serial,
        quantity: quantityFromScaled(rows.reduce((n, row) => n + row.quantity, 0)).toFixed(),
        numbers: [
          ...new Set(rows.map(({ kind, document: id }) => heads.get(refKey({ kind, id }))?.number ?? "")),
        ],
        reason: first.reason,
      },
    ];
  });
}

interface Head extends PickRef {
  number: string;
  name: string;
  reference: string;
  due: Day | null;
  stage: BuildStage | OrderStage;
}

/** What documents are called, whatever became of them. */
async function headsOf(ctx: Reading, refs: readonly PickRef[]): Promise<Map<string, Head>> {
  const rows = await ctx.sql.all<Head>(
    `SELECT 'build' AS kind, b.id, b.number, i.name, '' AS reference, b.due, b.stage
       FROM build_head b JOIN item_head i ON i.id = b.product_id WHERE b.id IN (SELECT value FROM json_each($builds))
      UNION ALL
     SELECT 'order', o.id, o.number, f.name, o.reference, o.due, o.stage
       FROM order_head o JOIN firm_head f ON f.id = o.customer_id WHERE o.id IN (SELECT value FROM json_each($orders))`,
    {
      builds: asJson(new Set(refs.filter(({ kind }) => kind === "build").map(({ id }) => id))),
      orders: asJson(new Set(refs.filter(({ kind }) => kind === "order").map(({ id }) => id))),
    },
  );
  return new Map(rows.map((row) => [refKey(row), row]));
}

/** How far each document of the round is, and what comes next for it. */
async function documentsOf(
  ctx: Reading,
  plan: RoundPlan,
  moved: readonly MovedRow[],
): Promise<PickRound["documents"]> {
  const refs = await refsOf(ctx, plan.round.id);
  const heads = await headsOf(ctx, refs);
  const byRef = new Map(plan.documents.map((document) => [refKey(document), document]));
  return refs.flatMap((ref) => {
    const found = heads.get(refKey(ref));
    if (!found) return [];
    const { stage, ...head } = found;
    const held = plan.held.filter(({ line }) => refKey(line.document) === refKey(ref));
    const left = new Set(held.map(({ line }) => `${line.line} ${line.item}`));
    const done = new Set(
      moved
        .filter(({ kind, document: id }) => refKey({ kind, id }) === refKey(ref))
        .map(({ line, item }) => `${line} ${item}`)
        .filter((line) => !left.has(line)),
    );
    const missing = byRef.get(refKey(ref))?.missing.length ?? 0;
    return [
      {
        ...head,
        fetched: done.size,
        lines: done.size + left.size + missing,
        next: nextOf(ref, stage, byRef.get(refKey(ref)), held),
      },
    ];
  });
}

function nextOf(
  { kind }: PickRef,
  stage: Head["stage"],
  document: Pickable | undefined,
  held: RoundPlan["held"],
): PickRound["documents"][number]["next"] {
  if (stage === "cancelled") return "cancelled";
  if (stage === "finished" || stage === "shipped") return "done";
  if (held.some(({ holds }) => holds.length > 0)) return "pick";
  if (held.length > 0 || (document?.missing.length ?? 0) > 0) return "wait";
  return kind === "build" ? "finish" : "ship";
}

function missingOf({ held, documents, isLeftShort }: RoundPlan, brief: Brief): PickRound["missing"] {
  const short = held
    .filter((own) => own.short.gt(0))
    .map(({ line, short: quantity }) => ({
      number: line.document.number,
      item: line.item,
      quantity,
      leftShort: isLeftShort(line),
    }));
  const notInStock = documents.flatMap(({ number, missing }) =>
    [...groupBy(missing, (own) => own.item)].map(([item, own]) => ({
      number,
      item,
      quantity: sum(own.map((one) => one.quantity)),
      leftShort: false,
    })),
  );
  return [...short, ...notInStock].map(({ item, quantity, ...own }) => ({
    ...own,
    item: brief(item),
    quantity: quantity.toFixed(),
  }));
}
