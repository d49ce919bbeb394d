import { copyFile, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { QueryTypes } from "sequelize";
import { expect, it } from "vitest";
import { audit } from "../audits.ts";
import { read } from "../db/index.ts";
import { openStore } from "../store.ts";
import { bareWorld } from "../testing/world.ts";
import { killed } from "./killing.ts";
import { LONG, makeScarce, queueSet } from "./scarce.ts";

const KILLS = LONG ? 20 : 3;
const POSTINGS = LONG ? 200 : 40;
const PARTS = 6;

it(`leaves every posting whole or absent when it is killed in the middle of ${POSTINGS}, ${KILLS} times`, async () => {
  const world = await bareWorld();
  const scarce = await makeScarce(world, PARTS, POSTINGS);
  const build = await queueSet(world, scarce, String(POSTINGS));
  const folder = await mkdtemp(join(tmpdir(), "yosegi-kill-"));
  // Copied with its log folded in, so that each kill begins from the same file.
  await world.store.db.query("PRAGMA wal_checkpoint(TRUNCATE)", { type: QueryTypes.SELECT });
  for (let kill = 0; kill < KILLS; kill++) {
    const file = join(folder, `${kill}.db`);
    await copyFile(world.file, file);
    const after = 1 + ((kill * 37) % (POSTINGS - 10));
    const said = await killed("poster.ts", [file, build, POSTINGS], { after, moment: (kill * 3) % 17 });
    const store = await openStore(file);
    expect(await read(store, audit)).toEqual([]);
    const counts = await read(store, (ctx) =>
      ctx.sql.all<{ movements: number; lines: number; finishes: number }>(
        `SELECT (SELECT COUNT(*) FROM movement WHERE posting_id = o.id) AS movements,
                (SELECT COUNT(*) FROM finish WHERE posting_id = o.id) AS finishes,
                (SELECT COUNT(*) FROM finish f JOIN finish_line l ON l.finish_id = f.id WHERE f.posting_id = o.id) AS lines
           FROM posting o WHERE o.kind = 'finish'`,
      ),
    );
    // Whole: a movement for each part and one for the product, with its record; and nothing that was said is gone.
    expect(counts.every((c) => c.movements === PARTS + 1 && c.finishes === 1 && c.lines === PARTS)).toBe(
      true,
    );
    expect(counts.length).toBeGreaterThanOrEqual(said);
    expect(counts.length).toBeLessThanOrEqual(said + 1);
    const row = await read(store, (ctx) =>
      ctx.sql.one<{ good: number; used: number; onHand: number }>(
        `SELECT good / 1000000 AS good,
                (SELECT MIN(used) / 1000000 FROM build_line WHERE build_id = $build) AS used,
                (SELECT SUM(quantity) / 1000000 FROM balance WHERE item_id = $product) AS onHand
           FROM build WHERE id = $build`,
        { build, product: scarce.product },
      ),
    );
    expect(row).toEqual({ good: counts.length, used: counts.length, onHand: counts.length });
    await store.close();
  }
  await rm(folder, { recursive: true });
}, 900_000);
