import { copyFile, mkdtemp, rm } from "node:fs/promises";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { routes } from "@yosegi/contract";
import { QueryTypes } from "sequelize";
import { expect, it } from "vitest";
import { audit } from "../audits.ts";
import { read } from "../db/index.ts";
import { openStore } from "../store.ts";
import { takeIn } from "../testing/companies.ts";
import { orderOf } from "../testing/ordering.ts";
import { demoWorld } from "../testing/world.ts";
import { killed } from "./killing.ts";
import { LONG } from "./scarce.ts";

const KILLS = LONG ? 20 : 2;
const PIECES = LONG ? 200 : 20;

it(`loses and doubles no piece when a picker is killed in the middle of ${PIECES} fetches, ${KILLS} times`, async () => {
  const world = await demoWorld();
  const item = await world.idOf("HTL-J");
  await takeIn(world, item, String(2 * PIECES));
  const order = await orderOf(world, [["HTL-J", String(PIECES), "9.60"]]);
  const { onHand } = await world.ok(routes.item, { params: { id: item } });
  const round = await world.ok(routes.startRound, { body: { documents: [{ kind: "order", id: order.id }] } });
  const folder = await mkdtemp(join(tmpdir(), "yosegi-killpicks-"));
  await world.store.db.query("PRAGMA wal_checkpoint(TRUNCATE)", { type: QueryTypes.SELECT });
  for (let kill = 0; kill < KILLS; kill++) {
    const file = join(folder, `${kill}.db`);
    await copyFile(world.file, file);
    const after = 1 + ((kill * 37) % (PIECES - 5));
    const said = await killed("picker.ts", [file, round.id, PIECES], { after, moment: (kill * 5) % 17 });
    const store = await openStore(file);
    expect(await read(store, audit)).toEqual([]);
    const row = await read(store, (ctx) =>
      ctx.sql.one<{ postings: number; packed: number; there: number; held: number }>(
        `SELECT (SELECT COUNT(*) FROM posting WHERE kind = 'pick') AS postings,
                (SELECT SUM(packed) / 1000000 FROM order_component) AS packed,
                (SELECT SUM(b.quantity) / 1000000 FROM balance b JOIN location p ON p.id = b.location_id AND p.kind = 'store' WHERE b.item_id = $item) AS there,
                (SELECT SUM(quantity) / 1000000 FROM pick_hold) AS held`,
        { item },
      ),
    );
    // Whole: each fetch is packed, gone from its bin and held no longer; and nothing that was said is gone.
    const fetched = row?.postings ?? 0;
    expect(fetched).toBeGreaterThanOrEqual(said);
    expect(fetched).toBeLessThanOrEqual(said + 1);
    expect(row).toEqual({
      postings: fetched,
      packed: fetched,
      there: Number(onHand) - fetched,
      held: PIECES - fetched,
    });
    await store.close();
  }
  await rm(folder, { recursive: true });
}, 900_000);
