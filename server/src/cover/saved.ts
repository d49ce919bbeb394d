import {
  type BuildRow,
  coverQuestion,
  type OwnPartInput,
  type ParsedBody,
  PLAIN_BUILD,
  Refusal,
  type routes,
  type SavedCheck,
} from "@yosegi/contract";
import { codeKey, lineNeed, unitsFor } from "@yosegi/core";
import { buildRows, newBuild, queueBuild } from "../builds/index.ts";
import type { Reading, Writing } from "../db/index.ts";
import { readQuestion } from "./question.ts";
import { SAVED_CHECK } from "./tables.ts";

interface Row {
  id: number;
  name: string;
  question: string;
  person: string;
  moment: string;
}

/** Checks that were kept by name. */
export async function savedChecks(ctx: Reading): Promise<SavedCheck[]> {
  const rows = await ctx.sql.all<Row>(
    `SELECT k.id, k.name, k.question, n.name AS person, k.moment FROM saved_check k JOIN person_name n ON n.id = k.person_id
      ORDER BY k.name_key`,
  );
  return rows.map((row) => ({ ...row, question: coverQuestion.parse(JSON.parse(row.question)) }));
}

/** Keeps a check by name; the same name is written anew. */
export async function saveCheck(
  ctx: Writing,
  { name, question }: ParsedBody<typeof routes.saveCheck>,
): Promise<SavedCheck> {
  await ctx.sql.insert(
    SAVED_CHECK,
    [
      {
        name,
        name_key: codeKey(name),
        question: JSON.stringify(question),
        person_id: ctx.person.id,
        moment: ctx.moment,
      },
    ],
    `ON CONFLICT (name_key) DO UPDATE SET name = excluded.name, question = excluded.question,
       person_id = excluded.person_id, moment = excluded.moment`,
  );
  const kept = (await savedChecks(ctx)).find((check) => codeKey(check.name) === codeKey(name));
  if (!kept) throw new Error("The check was kept and is not there");
  return kept;
}

export async function removeCheck(ctx: Writing, id: number): Promise<void> {
  const removed = await ctx.model(SAVED_CHECK).destroy({ where: { id } });
  if (removed === 0) throw new Refusal("not-found", { what: "kept check", id });
}

/**
 * Makes a build of each demand, in one step, and queues them where that is asked for. One with substitutes gets the parts that the
 * check of all of them together says, as its own.
 */
export async function makeBuilds(
  ctx: Writing,
  { demands, store, queue }: ParsedBody<typeof routes.makeBuilds>,
): Promise<BuildRow[]> {
  const ids: number[] = [];
  const partsOf = await partsWithSubstitutes(ctx, demands, store);
  for (const [i, { item, quantity, day, list, options }] of demands.entries()) {
    const plan = { ...PLAIN_BUILD, product: item, quantity, due: day, list, options, parts: partsOf(i) };
    const id = await newBuild(ctx, plan);
    if (queue) await queueBuild(ctx, id);
    ids.push(id);
  }
  return buildRows(ctx, ids);
}

/** The parts of builds in which substitutes are taken; null for a build that takes its list as it is. */
async function partsWithSubstitutes(
  ctx: Reading,
  demands: ParsedBody<typeof routes.makeBuilds>["demands"],
  store: string,
): Promise<(at: number) => OwnPartInput[] | null> {
  if (demands.every((demand) => demand.instead.length === 0)) return () => null;
  const asked = demands.map((demand) => ({ ...demand, priority: 1, build: null }));
  const loaded = await readQuestion(ctx, { demands: asked, store, stock: [], incoming: [] });
  return (at) => {
    const demand = loaded.demands[at];
    if (!demand || demands[at]?.instead.length === 0) return null;
    const { list, listed } = demand;
    const started = unitsFor(demand);
    return list.lines.flatMap((line, i) => {
      const quantity = lineNeed(line, list.makes, started);
      const part = { line: i < listed ? i + 1 : null, item: line.item, quantity, note: "" };
      return quantity.gt(0) ? [part] : [];
    });
  };
}
