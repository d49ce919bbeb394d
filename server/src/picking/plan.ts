import { Refusal } from "@yosegi/contract";
import {
  type HeldLine,
  type Hold,
  type PickableStock,
  type PickLine,
  quantityFromScaled,
  quantityToScaled,
  renewHolds,
  withoutHeld,
} from "@yosegi/core";
import { asJson, type Reading, type Writing } from "../db/index.ts";
import { loadBooks } from "../ledger/index.ts";
import { type Pickable, type PickRef, pickables, refKey } from "./documents.ts";
import { PICK_HOLD, PICK_ROUND, type PickRoundRow } from "./tables.ts";

/** A round as it stands: where each line of its documents is sent. */
export interface RoundPlan {
  round: PickRoundRow;
  documents: Pickable[];
  held: HeldLine[];
  /** Whether a person left a line short in this round. */
  isLeftShort: (line: PickLine) => boolean;
  /** What lies ready of all that is to be fetched, whoever it is held for. */
  ready: readonly PickableStock[];
}

export async function roundById(ctx: Reading, id: number): Promise<PickRoundRow> {
  const row = await ctx.model(PICK_ROUND).findByPk(id);
  if (!row) throw new Refusal("not-found", { what: "pick round", id });
  return row.get({ plain: true });
}

export async function refsOf(ctx: Reading, round: number): Promise<PickRef[]> {
  return ctx.sql.all<PickRef>(
    "SELECT kind, document_id AS id FROM pick_document WHERE round_id = $round ORDER BY kind DESC, document_id",
    { round },
  );
}

interface HoldRow {
  round: number;
  kind: PickRef["kind"];
  id: number;
  line: number;
  item: number;
  lot: string;
  serial: string;
  location: number;
  bin: string;
  quantity: number;
}

/** Where the lines of a round are sent, by what is there, what they still want, and what is held for others. */
export async function planRound(ctx: Reading, round: PickRoundRow): Promise<RoundPlan> {
  const documents = round.ended_at === null ? await pickables(ctx, await refsOf(ctx, round.id)) : [];
  const lines = documents.flatMap((document) => document.lines);
  const items = new Set(lines.map((line) => line.item));
  const { ready } = await loadBooks(ctx, items);
  const rows = await holdsOf(ctx, items);
  const byRef = new Map(documents.map((document) => [refKey(document), document]));
  const own = rows.flatMap(({ round: of, kind, id, line, location, bin, quantity, ...pick }): Hold[] => {
    const document = byRef.get(refKey({ kind, id }));
    if (of !== round.id || !document) return [];
    return [{ ...pick, quantity: quantityFromScaled(quantity), from: { location, bin }, document, line }];
  });
  const others = rows
    .filter((row) => row.round !== round.id)
    .map(({ location, bin, quantity, ...pick }) => ({
      ...pick,
      quantity: quantityFromScaled(quantity),
      from: { location, bin },
    }));
  const short = await leftShort(ctx, round.id);
  const isLeftShort = ({ document, line, item }: PickLine) =>
    short.has(`${refKey(document)} ${line} ${item}`);
  const free = withoutHeld(ready, others);
  const held = renewHolds(lines, own, free, ctx.today, (line) => !isLeftShort(line));
  return { round, documents, held, ready, isLeftShort };
}

/** What is held of items for rounds that are still walked. */
const holdsOf = (ctx: Reading, items: Iterable<number>): Promise<HoldRow[]> =>
  ctx.sql.all<HoldRow>(
    `SELECT round_id AS round, kind, document_id AS id, line, item_id AS item, lot, serial, location_id AS location, bin, quantity
       FROM pick_hold WHERE item_id IN (SELECT value FROM json_each($items)) ORDER BY id`,
    { items: asJson(items) },
  );

async function leftShort(ctx: Reading, round: number): Promise<Set<string>> {
  const rows = await ctx.sql.all<PickRef & { line: number; item: number }>(
    "SELECT kind, document_id AS id, line, item_id AS item FROM pick_short WHERE round_id = $round",
    { round },
  );
  return new Set(rows.map((row) => `${refKey(row)} ${row.line} ${row.item}`));
}

/** Writes down where a round is sent now, so that others are sent elsewhere. */
export async function writeHolds(ctx: Writing, round: PickRoundRow): Promise<void> {
  const { held } = await planRound(ctx, round);
  await ctx.model(PICK_HOLD).destroy({ where: { round_id: round.id } });
  await ctx.sql.insert(
    PICK_HOLD,
    held.flatMap(({ holds }) =>
      holds.map(({ document, line, item, lot, serial, from, quantity }) => ({
        round_id: round.id,
        kind: document.kind,
        document_id: document.id,
        line,
        item_id: item,
        lot,
        serial,
        location_id: from.location,
        bin: from.bin,
        quantity: quantityToScaled(quantity),
      })),
    ),
  );
}
