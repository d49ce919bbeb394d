import { Refusal } from "@yosegi/contract";
import { type Decimal, ZERO } from "@yosegi/core";
import type { Writing } from "../db/index.ts";
import { undo } from "../ledger/index.ts";
import { bookHandedOut } from "./bench.ts";
import { buildById } from "./rows.ts";

/** Undoes one hand-out: its parts are back where they came from and reserved again. Refused where some were used. */
export async function undoHandOut(ctx: Writing, build: number, n: number): Promise<void> {
  const found = await ctx.sql.one<{ posting: number | null; round: string | null; undone: number }>(
    `SELECT h.posting_id AS posting, h.round, EXISTS (SELECT 1 FROM posting_head u WHERE u.undoes = h.posting_id) AS undone
       FROM hand_out h WHERE h.build_id = $build AND h.n = $n`,
    { build, n },
  );
  const { number } = await buildById(ctx, build);
  if (!found) throw Refusal.at("n", "not-found", { what: "hand-out", id: `${number}/${n}` });
  if (found.posting === null)
    throw Refusal.at("n", "hand-out-of-round", { number: `${number}/${n}`, round: found.round ?? "" });
  if (found.undone === 1) throw Refusal.at("n", "document-undone", { document: `${number}/${n}` });
  const { movements } = await undo(ctx, {
    kind: "hand out",
    document: number,
    reason: `${number}/${n} undone`,
    undoes: found.posting,
  });
  const back = new Map<number, Decimal>();
  for (const { source, quantity } of movements)
    if (source?.document === "build") back.set(source.line, (back.get(source.line) ?? ZERO).minus(quantity));
  await bookHandedOut(ctx, build, back);
}
