import { type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  buildLine,
  buildOwner,
  byPickTurn,
  checkDecimals,
  countEntries,
  countMovements,
  type Decimal,
  dealFetched,
  earlier,
  expired,
  type Hold,
  type Movement,
  ONE,
  type Problem,
  post,
  quantityFromScaled,
  quantityToScaled,
  reporter,
  sum,
  ZERO,
} from "@yosegi/core";
import { benchName, bookHandedOut, buildsById, numberHandOut } from "../builds/index.ts";
import { groupBy, nextNumber, type Reading, type Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import {
  loadBooks,
  locationNames,
  packedLocation,
  record,
  serialsElsewhere,
  undo,
  workLocation,
} from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { bookPacked } from "../orders/index.ts";
import { refuseProblems } from "../problems.ts";
import { countsOf } from "../stock/index.ts";
import { planRound, type RoundPlan, roundById, writeHolds } from "./plan.ts";
import { refuseEndedRound } from "./rounds.ts";

type Fetched = ParsedBody<typeof routes.fetchPick>;

/** What of a fetch is for one line. */
interface Share extends Pick<Hold, "document" | "line"> {
  quantity: Decimal;
}

/**
 * Records what was fetched from a bin, dealt out to those that want it in their turn (docs/rules.md § 13): a build's goes to its bench, an
 * order's to its own bin. Where the bin has another quantity than the books, it is counted in the same posting.
 */
export async function fetchPick(ctx: Writing, id: number, typed: Fetched): Promise<void> {
  const round = await roundById(ctx, id);
  refuseEndedRound(round);
  // The day is the device's, and its clock may be fast.
  const body = { ...typed, day: earlier(typed.day, ctx.today) };
  const plan = await planRound(ctx, round);
  const { code, unit, decimals } = (await briefs(ctx, [body.item]))(body.item);
  const problems: Problem[] = [];
  checkDecimals("quantity", body.quantity, { code: unit, decimals }, reporter(0, problems));
  refuseProblems(problems, (p) => p.field);
  if (body.quantity.eq(0) && body.there === null) throw Refusal.at("quantity", "fetch-nothing");
  const wants = wantsOf(plan, body);
  if (wants.length === 0) throw Refusal.at("item", "not-in-round", { code, number: round.number });
  const shares = sharesOf(wants, body, { code, unit });
  await refuseNotThere(ctx, plan, body, { code, unit });
  await refuseOtherLot(ctx, wants, body, code);
  await recordFetch(ctx, round.number, shares, body);
  await writeHolds(ctx, round);
}

/** Who wants what was fetched, first those who were sent to this very bin and lot, then others of the item, each in turn. */
function wantsOf({ held }: RoundPlan, { item, lot, serial, location, bin }: Fetched): Hold[] {
  const isHere = ({ from, ...hold }: Hold) =>
    hold.lot === lot && hold.serial === serial && from.location === location && from.bin === bin;
  return held
    .filter(({ line }) => line.item === item)
    .filter(({ line: { only } }) => only.length === 0 || only.includes(serial || lot))
    .flatMap(({ holds }) => holds)
    .sort(
      (a, b) =>
        Number(isHere(b)) - Number(isHere(a)) || byPickTurn(a.document, b.document) || a.line - b.line,
    );
}

/** Deals what was fetched out to those that want it; more than that goes to a build, where the person says so. */
function sharesOf(
  wants: readonly Hold[],
  { quantity, more }: Fetched,
  item: { code: string; unit: string },
): Share[] {
  const wanted = sum(wants.map((hold) => hold.quantity));
  const dealt = dealFetched(
    wants.map((hold) => hold.quantity),
    quantity,
  );
  const surplus = quantity.minus(wanted);
  const forBuild = wants.findIndex(({ document }) => document.kind === "build");
  if (surplus.gt(0)) {
    const params = { ...item, wanted: wanted.toFixed() };
    if (forBuild === -1) throw Refusal.at("quantity", "pick-more-for-order", params);
    if (!more) throw Refusal.at("quantity", "pick-too-many", params);
  }
  const shares = wants.map(({ document, line }, i) => ({
    document,
    line,
    quantity: (dealt[i] ?? ZERO).plus(surplus.gt(0) && i === forBuild ? surplus : ZERO),
  }));
  return [
    ...groupBy(shares, ({ document, line }) => `${document.kind} ${document.id} ${line}`).values(),
  ].flatMap((own) => {
    const [first] = own;
    const total = sum(own.map((share) => share.quantity));
    return first && total.gt(0) ? [{ ...first, quantity: total }] : [];
  });
}

/** Refuses what the books don't have in the bin, unless it is counted; an expired lot; a serial number that is elsewhere. */
async function refuseNotThere(
  ctx: Reading,
  { ready }: RoundPlan,
  { item, lot, serial, location, bin, quantity, there }: Fetched,
  named: { code: string; unit: string },
): Promise<void> {
  const here = ready.find(
    (b) =>
      b.item === item && b.lot === lot && b.serial === serial && b.location === location && b.bin === bin,
  );
  const ofLot = here ?? ready.find((b) => b.item === item && b.lot === lot && b.serial === serial);
  if (expired(ofLot?.expiry ?? null, ctx.today))
    throw Refusal.at("lot", "lot-expired", { lot, day: ofLot?.expiry ?? "" });
  if (serial !== "" && quantity.gt(ONE)) throw Refusal.at("quantity", "serial-one", { serial });
  const has = here?.quantity ?? ZERO;
  if (there !== null || quantity.lte(has)) return;
  if (serial !== "") {
    const elsewhere = await serialsElsewhere(ctx, [{ item, serial }], "counted");
    const where = elsewhere({ item, serial }) ?? "";
    throw Refusal.at("serial", "not-in-stock", { name: serial, code: named.code, where });
  }
  throw Refusal.at("quantity", "pick-not-there", { ...named, there: has.toFixed(), bin });
}

/** Where the lot of an item is fixed, another than the suggested one needs a reason. */
async function refuseOtherLot(
  ctx: Reading,
  wants: readonly Hold[],
  { item, lot, reason }: Fetched,
  code: string,
): Promise<void> {
  if (lot === "" || reason !== "" || wants.some((hold) => hold.lot === lot)) return;
  const row = await ctx.sql.one<{ fixed: number }>(
    "SELECT lot_fixed AS fixed FROM item_head WHERE id = $item",
    {
      item,
    },
  );
  const expected = [...new Set(wants.map((hold) => hold.lot))].join(", ");
  if (row?.fixed === 1) throw Refusal.at("reason", "lot-fixed", { code, lot, expected });
}

async function recordFetch(
  ctx: Writing,
  number: string,
  shares: readonly Share[],
  { item, lot, serial, location, bin, quantity, there, reason, day }: Fetched,
): Promise<void> {
  const { stock } = await loadBooks(ctx, [item]);
  const store = (await locationNames(ctx)).get(location) ?? "";
  // What is there was counted after the taking; the books are put right before it.
  const counts =
    there === null
      ? []
      : await countsOf(
          ctx,
          [
            {
              item,
              store,
              bin,
              lot,
              serial,
              there: there.plus(quantity),
              cost: null,
              newBin: false,
              reason: `counted while picking ${number}`,
            },
          ],
          { at: (_, field) => field, unitCost: await currentCosts(ctx, [item]), stock },
        );
  const counted = countMovements(stock, counts);
  const { placeOf, costTag } = await placesOf(ctx, shares);
  const moves = shares.map((share): Movement => {
    const { kind, id } = share.document;
    const to = placeOf(share);
    const from = { location, bin };
    const pick = { item, lot, serial, quantity: share.quantity, from, to, value: null };
    return {
      ...pick,
      ...(kind === "build"
        ? { purpose: "handed out", source: buildLine(id, share.line) }
        : { purpose: "packed", source: { document: "order", id, line: share.line } }),
      ...(reason !== "" && { reason }),
    };
  });
  const movements = [...counted, ...moves];
  if (movements.length === 0) return;
  const posted = post(stock, movements);
  await record(ctx, {
    kind: moves.length > 0 ? "pick" : "count",
    document: moves.length > 0 ? number : await nextNumber(ctx, "C"),
    day,
    reason: "",
    costTag,
    lots: [],
    movements,
    entries: posted.ok ? countEntries(posted.movements) : [],
    books: stock,
    posted,
  });
  for (const build of new Set(shares.flatMap(({ document: { kind, id } }) => (kind === "build" ? id : []))))
    await numberHandOut(ctx, build, { round: number });
  await bookShares(ctx, item, shares);
}

/** Where the shares go: to the bench of a build, or a subcontractor; into an order's own bin. */
async function placesOf(ctx: Writing, shares: readonly Share[]) {
  const packed = shares.some(({ document }) => document.kind === "order") ? await packedLocation(ctx) : 0;
  const builds = await buildsById(
    ctx,
    shares.filter(({ document }) => document.kind === "build").map(({ document }) => document.id),
  );
  const benches = new Map<number, number>();
  for (const [id, build] of builds)
    benches.set(id, await workLocation(ctx, build.subcontractor_id, await benchName(ctx, build)));
  const tags = new Set([...builds.values()].map((build) => build.cost_tag));
  const [tag = ""] = tags;
  return {
    placeOf: ({ document: { kind, id, number } }: Share) =>
      kind === "order"
        ? { location: packed, bin: number }
        : { location: benches.get(id) ?? 0, bin: "", owner: buildOwner(id) },
    /** Of its builds, where all of it is for builds of one tag. */
    costTag: packed === 0 && tags.size === 1 ? tag : "",
  };
}

/** Writes at builds and orders what was fetched for them; below zero what was put back. */
async function bookShares(
  ctx: Writing,
  item: number,
  shares: readonly { document: Pick<Share["document"], "kind" | "id">; line: number; quantity: Decimal }[],
): Promise<void> {
  await bookPacked(
    ctx,
    shares
      .filter(({ document }) => document.kind === "order")
      .map(({ line, quantity }) => ({ line, item, quantity: quantityToScaled(quantity) })),
  );
  const builds = groupBy(
    shares.filter(({ document }) => document.kind === "build"),
    ({ document }) => document.id,
  );
  for (const [build, own] of builds)
    await bookHandedOut(ctx, build, new Map(own.map(({ line, quantity }) => [line, quantity])));
}

/** Undoes one fetch of a round: the goods are back in their bin. */
export async function undoFetch(ctx: Writing, id: number, posting: number): Promise<void> {
  const round = await roundById(ctx, id);
  const found = await ctx.sql.one<{ undone: number }>(
    `SELECT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id) AS undone FROM posting_head o
      WHERE o.id = $posting AND o.kind = 'pick' AND o.document = $number AND o.undoes IS NULL`,
    { posting, number: round.number },
  );
  if (!found) throw Refusal.at("posting", "not-found", { what: `fetch of ${round.number}`, id: posting });
  if (found.undone === 1) throw Refusal.at("posting", "fetch-undone");
  await undo(ctx, { kind: "pick", document: round.number, reason: "", undoes: posting });
  const rows = await ctx.sql.all<{
    item: number;
    source: "build" | "order";
    id: number;
    line: number;
    quantity: number;
  }>(
    `SELECT item_id AS item, source, source_id AS id, source_line AS line, quantity FROM stock_movement
      WHERE posting_id = $posting AND purpose IN ('handed out', 'packed')`,
    { posting },
  );
  for (const [item, own] of groupBy(rows, (row) => row.item))
    await bookShares(
      ctx,
      item,
      own.map(({ source, id: document, line, quantity }) => ({
        document: { kind: source, id: document },
        line,
        quantity: quantityFromScaled(-quantity),
      })),
    );
  if (round.ended_at === null) await writeHolds(ctx, round);
}
