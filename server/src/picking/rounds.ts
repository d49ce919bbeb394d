import { type AnswerOf, type ParsedBody, type QueryOf, Refusal, type routes } from "@yosegi/contract";
import { compareDays } from "@yosegi/core";
import { nextNumber, pageOf, type Reading, type Writing } from "../db/index.ts";
import { locationNames } from "../ledger/index.ts";
import { checkPerson } from "../people/index.ts";
import { type Pickable, type PickRef, pickables, refKey } from "./documents.ts";
import { planRound, roundById, writeHolds } from "./plan.ts";
import { PICK_DOCUMENT, PICK_HOLD, PICK_ROUND, PICK_SHORT, type PickRoundRow } from "./tables.ts";

interface OpenRound {
  id: number;
  number: string;
  picker: string;
  pickerId: number;
}

/** The rounds that are walked, by what they are for. */
async function openRounds(ctx: Reading): Promise<Map<string, OpenRound>> {
  const rows = await ctx.sql.all<OpenRound & { kind: PickRef["kind"]; document: number }>(
    `SELECT r.id, r.number, n.name AS picker, r.picker_id AS pickerId, d.kind, d.document_id AS document
       FROM pick_round r JOIN pick_document d ON d.round_id = r.id JOIN person_name n ON n.id = r.picker_id
      WHERE r.ended_at IS NULL ORDER BY r.id`,
  );
  return new Map(rows.map(({ kind, document, ...round }) => [refKey({ kind, id: document }), round]));
}

/** What can be picked for, and the rounds that are walked. */
export async function listPicks(
  ctx: Reading,
  query: QueryOf<typeof routes.picks>,
): Promise<AnswerOf<typeof routes.picks>> {
  const documents = await pickables(ctx, null);
  const rounds = await openRounds(ctx);
  const storesOf = await storesOfItems(ctx, documents);
  const numbers = new Map<number, OpenRound & { documents: string[] }>();
  const number = new Map(documents.map((document) => [refKey(document), document.number]));
  for (const [key, round] of rounds) {
    const own = numbers.get(round.id) ?? { ...round, documents: [] };
    numbers.set(round.id, { ...own, documents: [...own.documents, number.get(key) ?? []].flat() });
  }
  const free = documents
    .filter((document) => !rounds.has(refKey(document)) && document.lines.length > 0)
    .filter((document) => {
      const stores = storesOf(document);
      return query.store === "" ? stores.length > 0 : stores.includes(query.store);
    })
    .sort((a, b) => compareDays(a.due, b.due))
    // Builds and orders have the same ids; a page begins after one of them.
    .map((document) => ({ id: 2 * document.id + Number(document.kind === "order"), document }));
  const page = pageOf(free, query, ({ document }) =>
    [document.number, document.name, document.reference].join(" "),
  );
  return {
    total: page.total,
    next: page.next,
    picks: page.rows.map(({ document }) => ({
      kind: document.kind,
      id: document.id,
      number: document.number,
      name: document.name,
      reference: document.reference,
      due: document.due,
      lines: document.lines.length,
      missing: document.missing.length,
      stores: storesOf(document),
      overdue: document.due !== null && document.due < ctx.today,
    })),
    rounds: [...numbers.values()],
  };
}

/** In which stores there is something of what a document still wants. */
async function storesOfItems(ctx: Reading, documents: readonly Pickable[]) {
  const names = await locationNames(ctx);
  const rows = await ctx.sql.all<{ item: number; location: number }>(
    "SELECT DISTINCT item_id AS item, location_id AS location FROM usable_stock WHERE item_id IN (SELECT value FROM json_each($ids))",
    { ids: JSON.stringify([...new Set(documents.flatMap(({ lines }) => lines.map((line) => line.item)))]) },
  );
  const stores = new Map<number, number[]>();
  for (const { item, location } of rows) stores.set(item, [...(stores.get(item) ?? []), location]);
  return ({ lines }: Pickable): string[] => {
    const found = new Set(lines.flatMap(({ item }) => stores.get(item) ?? []));
    return [...found].sort((a, b) => a - b).map((location) => names.get(location) ?? "");
  };
}

/** Starts a round; each of its documents may be in one at a time. Gives its id. */
export async function startRound(
  ctx: Writing,
  { documents }: ParsedBody<typeof routes.startRound>,
): Promise<number> {
  const rounds = await openRounds(ctx);
  for (const [i, ref] of documents.entries()) {
    const other = rounds.get(refKey(ref));
    if (other)
      throw Refusal.at(`documents.${i}`, "in-round", {
        number: await numberOf(ctx, ref),
        round: other.number,
        picker: other.picker,
      });
  }
  const found = new Map((await pickables(ctx, documents)).map((document) => [refKey(document), document]));
  for (const [i, ref] of documents.entries())
    if ((found.get(refKey(ref))?.lines.length ?? 0) === 0)
      throw Refusal.at(`documents.${i}`, "nothing-to-pick", { number: await numberOf(ctx, ref) });
  const [id = 0] = await ctx.sql.insert(PICK_ROUND, [
    {
      number: await nextNumber(ctx, "PR"),
      picker_id: ctx.person.id,
      started_by: ctx.person.id,
      started_at: ctx.moment,
      ended_by: null,
      ended_at: null,
    },
  ]);
  await ctx.sql.insert(
    PICK_DOCUMENT,
    documents.map((ref) => ({ round_id: id, kind: ref.kind, document_id: ref.id })),
  );
  await writeHolds(ctx, await roundById(ctx, id));
  return id;
}

/** The number of a document that is picked for; refuses one that is not there. */
async function numberOf(ctx: Reading, { kind, id }: PickRef): Promise<string> {
  const row = await ctx.sql.one<{ number: string }>(
    kind === "build"
      ? "SELECT number FROM build_head WHERE id = $id"
      : "SELECT number FROM order_head WHERE id = $id",
    { id },
  );
  if (!row) throw new Refusal("not-found", { what: kind, id });
  return row.number;
}

/** Refuses a step of a round that has ended. */
export function refuseEndedRound({ number, ended_at }: PickRoundRow): void {
  if (ended_at !== null) throw new Refusal("round-ended", { number });
}

/** Gives a round to another person, with all that was fetched and is still to be. */
export async function handOverRound(ctx: Writing, id: number, person: number): Promise<void> {
  const round = await roundById(ctx, id);
  refuseEndedRound(round);
  await checkPerson(ctx, "person", person);
  await ctx.model(PICK_ROUND).update({ picker_id: person }, { where: { id } });
}

/** Ends a round: nothing is held for it any more. */
export async function endRound(ctx: Writing, id: number): Promise<void> {
  refuseEndedRound(await roundById(ctx, id));
  await ctx.model(PICK_ROUND).update({ ended_by: ctx.person.id, ended_at: ctx.moment }, { where: { id } });
  await ctx.model(PICK_HOLD).destroy({ where: { round_id: id } });
}

/** Leaves the rest of a stop short: its lines are sent nowhere else in this round. */
export async function leaveShort(
  ctx: Writing,
  id: number,
  { location, bin, item, lot, serial }: ParsedBody<typeof routes.leaveShort>,
): Promise<void> {
  const round = await roundById(ctx, id);
  refuseEndedRound(round);
  const { held } = await planRound(ctx, round);
  const holds = held
    .flatMap((own) => own.holds)
    .filter(
      (hold) =>
        hold.item === item &&
        hold.lot === lot &&
        hold.serial === serial &&
        hold.from.location === location &&
        hold.from.bin === bin,
    );
  await ctx.sql.insert(
    PICK_SHORT,
    holds.map(({ document, line }) => ({
      round_id: id,
      kind: document.kind,
      document_id: document.id,
      line,
      item_id: item,
    })),
    "ON CONFLICT DO NOTHING",
  );
  await ctx.sql.run(
    `DELETE FROM pick_hold WHERE round_id = $id AND item_id = $item AND lot = $lot AND serial = $serial
        AND location_id = $location AND bin = $bin`,
    { id, item, lot, serial, location, bin },
  );
  await writeHolds(ctx, round);
}
