import type { AnswerOf, routes } from "@yosegi/contract";
import { type Decimal, quantityFromScaled, quantityToScaled, ZERO } from "@yosegi/core";
import { groupBy, type Reading, type Writing } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { locationNames } from "../ledger/index.ts";
import { buildById, doneOf } from "./rows.ts";
import { type BuildTableRow, HAND_OUT } from "./tables.ts";

type Answer = AnswerOf<typeof routes.handOuts>["handOuts"][number];

interface Row {
  n: number;
  posting: number | null;
  round: string | null;
  roundId: number | null;
  units: number | null;
  note: string;
  moment: string;
  day: string;
  person: string;
  undone: number;
  item: number;
  lot: string;
  serial: string;
  location: number;
  bin: string;
  quantity: number;
}

/** What was handed out for a build, the latest first: by its own step, or fetched in a round. Fetches that were undone are left out. */
export async function handOuts(ctx: Reading, build: number): Promise<Answer[]> {
  const { number } = await buildById(ctx, build);
  const rows = await ctx.sql.all<Row>(
    `SELECT h.n, h.posting_id AS posting, h.round, r.id AS roundId, h.units, h.note, o.moment, o.day, p.name AS person,
            EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id) AS undone,
            m.item_id AS item, m.lot, m.serial, m.from_location AS location, m.from_bin AS bin, m.quantity
       FROM hand_out h JOIN posting_head o ON o.undoes IS NULL AND (o.id = h.posting_id OR o.document = h.round AND o.kind = 'pick')
       JOIN stock_movement m ON m.posting_id = o.id AND m.purpose = 'handed out' AND m.to_owner = 'build' AND m.to_owner_id = h.build_id
       JOIN person_name p ON p.id = o.person_id LEFT JOIN pick_round_head r ON r.number = h.round
      WHERE h.build_id = $build ORDER BY h.n DESC, m.id`,
    { build },
  );
  // Of a round only the fetches that stand; a hand-out that was undone stays listed as such.
  const shown = rows.filter((row) => row.round === null || row.undone === 0);
  const brief = await briefs(
    ctx,
    shown.map((row) => row.item),
  );
  const names = await locationNames(ctx);
  return [...groupBy(shown, (row) => row.n)].flatMap(([n, own]) => {
    const [first] = own;
    if (!first) return [];
    return [
      {
        n,
        number: `${number}/${n}`,
        posting: first.posting,
        round: first.round === null ? null : { id: first.roundId ?? 0, number: first.round },
        units: first.units === null ? null : quantityFromScaled(first.units).toFixed(),
        note: first.note,
        moment: first.moment,
        day: first.day,
        person: first.person,
        undone: first.undone === 1,
        parts: own.map((row) => ({
          item: brief(row.item),
          lot: row.lot,
          serial: row.serial,
          from: `${names.get(row.location) ?? ""} ${row.bin}`.trim(),
          quantity: quantityFromScaled(row.quantity).toFixed(),
        })),
      },
    ];
  });
}

/** Gives a hand-out the next number of its build; what a round fetches for it is one, however often it stops. */
export async function numberHandOut(
  ctx: Writing,
  build: number,
  {
    posting = null,
    round = null,
    units = null,
    done = ZERO,
    note = "",
  }: {
    posting?: number | null;
    round?: string | null;
    units?: Decimal | null;
    done?: Decimal;
    note?: string;
  },
): Promise<void> {
  const last = await ctx.sql.one<{ n: number }>(
    "SELECT COALESCE(MAX(n), 0) AS n FROM hand_out WHERE build_id = $build",
    { build },
  );
  const row = { build_id: build, n: (last?.n ?? 0) + 1, posting_id: posting, round, note };
  await ctx.sql.insert(
    HAND_OUT,
    [{ ...row, units: units && quantityToScaled(units), done: quantityToScaled(done) }],
    "ON CONFLICT (build_id, round) DO NOTHING",
  );
}

/**
 * For how many units of a build, the first ones, parts were handed out: those done when the first of its hand-outs was made since its parts were
 * last returned to stock, and those that these hand-outs were for; where there is none since, those done.
 */
export async function unitsHandedOut(ctx: Reading, build: BuildTableRow): Promise<Decimal> {
  const row = await ctx.sql.one<{ done: number | null; units: number }>(
    `SELECT MIN(h.done) AS done, COALESCE(SUM(h.units), 0) AS units FROM hand_out h
      WHERE h.build_id = $build AND h.units IS NOT NULL AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = h.posting_id)
        AND h.posting_id > COALESCE((SELECT MAX(m.posting_id) FROM stock_movement m JOIN posting_head o ON o.id = m.posting_id AND o.undoes IS NULL
             WHERE m.from_owner = 'build' AND m.from_owner_id = $build AND m.purpose = 'returned to stock'
               AND NOT EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = o.id)), 0)`,
    { build: build.id },
  );
  if (!row || row.done === null) return doneOf(build);
  return quantityFromScaled(row.done).plus(quantityFromScaled(row.units));
}
