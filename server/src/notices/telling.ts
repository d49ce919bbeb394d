import {
  factKey,
  isOpenOrder,
  type Notice,
  newNotices,
  type WatchedDocument,
  type WatchedFact,
} from "@yosegi/core";
import { findBuilds } from "../builds/index.ts";
import { findPurchases } from "../buying/index.ts";
import { change, type Reading, read, type Store, type Writing } from "../db/index.ts";
import { findOrders } from "../orders/index.ts";
import { addMessage } from "../outbox/index.ts";
import { NOTICE, WATCHED } from "./tables.ts";

/** So many open documents of a kind are watched, those due first. */
const WATCHED_MOST = 1000;
/** Says that a first look was taken: what was so before somebody chose to be told is nobody's news. */
const LOOKED = "looked";

interface Named extends WatchedDocument {
  number: string;
  name: string;
  why: string;
}

/** What is open now, with what is so of each. */
async function watched(ctx: Reading): Promise<Named[]> {
  const page = { search: "", limit: WATCHED_MOST };
  const facts = (...all: (WatchedFact | false)[]) => all.filter((fact) => fact !== false);
  const { builds } = await findBuilds(ctx, { ...page, open: true });
  const { orders } = await findOrders(ctx, page);
  const { purchases } = await findPurchases(ctx, page);
  return [
    ...builds.map((build) => ({
      kind: "build" as const,
      id: build.id,
      number: build.number,
      name: build.product.name,
      why: build.blocked ? `waits for ${build.waitsFor.join(", ")}` : "",
      facts: facts(
        build.stage === "queued" && "queued",
        build.blocked && "waiting",
        (build.overdue || build.late) && "late",
      ),
    })),
    ...orders
      .filter(({ stage }) => isOpenOrder(stage))
      .map((order) => ({
        kind: "order" as const,
        id: order.id,
        number: order.number,
        name: order.customer.name,
        why: "",
        facts: facts(order.linesReady === order.lines && "ready", order.overdue && "late"),
      })),
    ...purchases
      .filter(({ stage }) => stage === "sent" || stage === "part received")
      .map((purchase) => ({
        kind: "purchase" as const,
        id: purchase.id,
        number: purchase.number,
        name: purchase.supplier.name,
        why: "",
        facts: facts(purchase.expected !== null && purchase.expected < ctx.today && "late"),
      })),
  ];
}

const WORDS: Record<Notice["what"], string> = {
  "build queued": "is queued",
  "parts complete": "has all its parts now",
  "order ready": "is ready to ship",
  late: "is late",
};

interface Choice {
  person: number;
  what: Notice["what"];
  page: number;
  outbox: number;
  email: string;
}

/** Tells people what is new since the last look, as each chose; nothing is looked at while nobody chose anything. Gives how many were told. */
export async function tellPeople(store: Store): Promise<number> {
  const look = await read(store, async (ctx) => {
    const choices = await ctx.sql.all<Choice>(
      `SELECT c.person_id AS person, c.what, c.page, c.outbox, COALESCE(e.email, '') AS email
         FROM notice_choice c LEFT JOIN notice_email e ON e.person_id = c.person_id WHERE c.page = 1 OR c.outbox = 1`,
    );
    if (choices.length === 0) return null;
    const rows = await ctx.sql.all<{ fact: string }>("SELECT fact FROM watched_fact");
    return { choices, before: new Set(rows.map((row) => row.fact)), now: await watched(ctx) };
  });
  if (look === null) return 0;
  const { choices, before, now } = look;
  const facts = new Set([LOOKED, ...now.flatMap((one) => one.facts.map((fact) => factKey(one, fact)))]);
  const news = before.has(LOOKED) ? newNotices(before, now) : [];
  const isSame = facts.size === before.size && [...facts].every((fact) => before.has(fact));
  const [first] = choices;
  if (isSame || !first) return 0;
  const named = new Map(now.map((one) => [`${one.kind} ${one.id}`, one]));
  const told = news.flatMap((notice) =>
    choices.filter(({ what }) => what === notice.what).map((choice) => ({ notice, choice })),
  );
  await change(store, first.person, async (ctx) => {
    await ctx.sql.run("DELETE FROM watched_fact");
    await ctx.sql.insert(
      WATCHED,
      [...facts].map((fact) => ({ fact })),
    );
    for (const { notice, choice } of told) {
      const document = named.get(`${notice.kind} ${notice.id}`);
      if (document) await tell(ctx, notice, choice, document);
    }
  });
  return told.length;
}

async function tell(
  ctx: Writing,
  { what, kind, id }: Notice,
  choice: Choice,
  { number, name, why }: Named,
): Promise<void> {
  const words = `${number}, ${name}, ${WORDS[what]}${what === "late" && why !== "" ? `: it ${why}` : ""}.`;
  await ctx.sql.insert(NOTICE, [
    {
      person_id: choice.person,
      what,
      kind,
      document_id: id,
      words,
      moment: ctx.moment,
      read_at: null,
      page: choice.page,
    },
  ]);
  if (choice.outbox === 1 && choice.email !== "")
    await addMessage(ctx, { document: number }, { to: choice.email, subject: words, text: words, files: [] });
}
