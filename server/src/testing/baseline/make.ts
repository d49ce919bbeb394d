import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gzipSync } from "node:zlib";
import { routes } from "@yosegi/contract";
import { addDays, dayIn, weekday } from "@yosegi/core";
import { change } from "../../db/index.ts";
import { makeRecurring } from "../../recurring/index.ts";
import { Chance } from "../chance.ts";
import { importDemo, setUpCompany } from "../demo.ts";
import { doSomething, startHistory } from "../history.ts";
import { openWorld } from "../open.ts";
import { askAll } from "./questions.ts";

// Plays a year of random work, and keeps its database and the answers to everything that can be asked of it. Run once, at
// the commit whose answers later ones are compared with (2954120, with nothing but this folder and `testing` added):
//   node --import tsx server/src/testing/baseline/make.ts

/** The last day of the year that is played, and the moment at which everything is asked. */
const LAST = "2026-11-23";

const ASKED_AT = `${LAST}T16:00:00Z`;

const DAYS = 365;

const folder = await mkdtemp(join(tmpdir(), "yosegi-year-"));

const file = join(folder, "year.db");

let day = addDays(LAST, -DAYS);

let minutes = 0;

const world = await openWorld(file, () => new Date(Date.parse(`${day}T07:00:00Z`) + minutes++ * 60_000));
await setUpCompany(world);
await importDemo(world);

const chance = new Chance(20_261_123);

const history = await startHistory(world, chance, () => day, 24);
await otherLists();
for (; day <= LAST; day = addDays(day, 1), minutes = 0) {
  await makeRecurring(world.store);
  if (weekday(day) > 5) continue;
  for (let n = chance.int(5, 10); n > 0; n--) await doSomething(history);
}
day = LAST;

console.log("answers by status:", Object.fromEntries(history.statuses));
await trim();
await world.close();

const later = await openWorld(file, () => new Date(ASKED_AT));

const answers = await askAll(later.app);
await later.store.db.query("PRAGMA wal_checkpoint(TRUNCATE)");
await later.close();

const keep = async (name: string, content: Buffer | string) => {
  const packed = gzipSync(content, { level: 9 });
  await writeFile(new URL(name, import.meta.url), packed);
  console.log(name, packed.length);
};
await keep("year.db.gz", await readFile(file));
await keep("answers.json.gz", JSON.stringify(answers));

const failed = Object.entries(answers).filter(([, { status }]) => status >= 400);

console.log(Object.keys(answers).length, "answers; refused or failed:");
for (const [url, { status }] of failed) console.log(status, url);
await rm(folder, { recursive: true });

/** A product with a revision that starts later, what is kept in stock, what recurring, and a swap that is used up. */
async function otherLists(): Promise<void> {
  const feed = history.ids.get("FEED-12") ?? 0;
  const frames = history.ids.get("FRM-A") ?? 0;
  const { lists } = await world.ok(routes.lists, { params: { id: frames } });
  const revision = lists[0]?.revisions[0]?.id ?? 0;
  const lock = { note: "", startsOn: null, startsAfter: null, starts: "at once" };
  await world.ok(routes.lockRevision, { params: { id: revision }, body: lock });
  const line = (part: string, quantity: string, unit: string, more: object = {}) => ({
    part,
    quantity,
    unit,
    ...more,
  });
  const next = await world.ok(routes.saveList, {
    params: { id: frames },
    body: {
      makes: "1",
      usual: "100",
      lines: [
        line("FRM-D", "1", "pc"),
        line("FND-D", "1", "pc"),
        line("PIN-20", "12", "g", { drawnAt: "finish" }),
        line("GLUE-W", "6", "mL", { drawnAt: "finish" }),
        line("LAB-B", "4", "min"),
      ],
    },
  });
  const later = { ...lock, starts: "day", startsOn: addDays(LAST, -90) };
  await world.ok(routes.lockRevision, { params: { id: next.revision.id }, body: later });
  await world.ok(routes.setStockTarget, { body: { product: feed, target: "20", batch: "8" } });
  await world.ok(routes.setStockTarget, { body: { product: frames, target: "120", batch: "50" } });
  const weekly = { product: frames, quantity: "20", weekdays: [1, 3], starts: addDays(LAST, -300) };
  await world.ok(routes.newRecurring, { body: weekly });
}

/** What nothing is asked of is not kept: answers to repeated requests, and the bytes of papers. */
async function trim(): Promise<void> {
  await change(world.store, 1, async (ctx) => {
    await ctx.sql.run("DELETE FROM request");
    await ctx.sql.run("UPDATE file SET content = $content", { content: Buffer.from(dayIn("UTC", ASKED_AT)) });
  });
  await world.store.db.query("VACUUM");
}
