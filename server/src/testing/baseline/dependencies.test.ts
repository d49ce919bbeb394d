import { mkdtemp, readFile, rm, writeFile } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { gunzipSync } from "node:zlib";
import { dependenciesOf, routes } from "@yosegi/contract";
import { Sequelize } from "sequelize";
import { expect, it, vi } from "vitest";
import { areasOf } from "../../db/index.ts";
import { VIEWS } from "../../store.ts";
import { openWorld, TODAY } from "../open.ts";
import type { Answered } from "./questions.ts";
import { inTodaysWords } from "./words.ts";

const unpacked = async (name: string) => gunzipSync(await readFile(new URL(name, import.meta.url)));

/** So many questions of each route are asked: the first, the last, and some between. */
const EACH = 4;

const pattern = (path: string): RegExp => new RegExp(`^${path.replace(/:\w+/g, "[^/?]+")}(\\?|$)`);

const asks = Object.values(routes).filter((route) => !route.command);

/** The areas of the tables that SQL reads, through views too. */
function areasRead(sql: string): string[] {
  const names = [...sql.matchAll(/\b(?:FROM|JOIN|,)\s+[`"]?(\w+)/gi)].map((found) => found[1] ?? "");
  // A view's statement begins with its own name, which is no table's.
  const views = names.flatMap((name) => areasRead(VIEWS.get(name) ?? ""));
  return [...areasOf(names), ...views];
}

it("each answer is asked again when something that it was read from has changed", async () => {
  const folder = await mkdtemp(join(tmpdir(), "yosegi-dependencies-"));
  const file = join(folder, "year.db");
  await writeFile(file, await unpacked("year.db.gz"));
  const before = JSON.parse((await unpacked("answers.json.gz")).toString()) as Record<string, Answered>;
  const asked = Object.keys(inTodaysWords(before));
  const missed = new Set<string>();
  for (const route of asks) {
    const mine = asked.filter((one) => {
      const [method = "", url = ""] = one.split(" ");
      return method === route.method && pattern(route.path).test(url);
    });
    const some = mine.filter((_, i) => i % Math.ceil(mine.length / EACH) === 0 || i === mine.length - 1);
    for (const one of some) {
      // A server that has read nothing yet remembers nothing.
      const world = await openWorld(file, () => new Date(`${TODAY}T16:00:00Z`));
      const query = vi.spyOn(Sequelize.prototype, "query");
      const [method = "", url = "", ...body] = one.split(" ");
      await world.app.inject({
        method: method as "GET" | "POST",
        url,
        ...(body.length > 0 && { payload: JSON.parse(body.join(" ")) as object }),
      });
      const statements = query.mock.calls.map(([sql]) => String(sql));
      // Whether what is remembered still holds is no part of an answer.
      const read = statements.filter((sql) => !sql.includes("FROM catalog_change")).flatMap(areasRead);
      query.mockRestore();
      await world.close();
      for (const area of read)
        if (!dependenciesOf(route.area).some((known) => known === area))
          missed.add(`${route.method} ${route.path}: ${area}`);
    }
  }
  await rm(folder, { recursive: true });
  expect([...missed].sort()).toEqual([]);
});
