import { mkdtempSync, rmSync } from "node:fs";
import { tmpdir } from "node:os";
import { join } from "node:path";
import { PLAIN_SHIPMENT, parseAmounts, routes } from "@yosegi/contract";
import { change, openStore, shipOrder } from "@yosegi/server";
import sqlite3 from "sqlite3";
import { BUSY, makeCompany, makeOrders } from "./make.ts";
import { against, report, WARM } from "./measure.ts";

/** Most times the bare transaction that writes the same rows that a shipment may take. */
const MOST = 4;
const RUNS = 60;
const DAY = "2026-01-01";
const LINES = 100;
/** From here on items are bought, and hardly any is in a build. */
const FIRST = 20_000;

const folder = mkdtempSync(join(tmpdir(), "yosegi-bench-"));
const file = join(folder, "ship.db");
console.log(
  `Making ${BUSY.items} items, ${BUSY.balances} balances, ${BUSY.builds} open builds, 10000 open orders …`,
);
const made = await makeCompany(file, BUSY);
await change(made, 1, (ctx) => makeOrders(ctx, BUSY, { orders: 10_000, linesEach: 3 }));
await made.db.query("ANALYZE");
await made.close();
const store = await openStore(file, () => new Date(`${DAY}T09:00:00Z`));

// An order for each run, of 100 items that no other asks for, each shipped whole.
const wanted = (RUNS + WARM) * 2;
const orders = await change(store, 1, async (ctx) => {
  const bind = { wanted, lines: LINES, first: FIRST };
  const numbers = "WITH RECURSIVE n (i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM n WHERE i + 1 < $wanted)";
  await ctx.sql.run(
    `${numbers} INSERT INTO sales_order (number, customer_id, stage, reference, note, created_by, created_at)
     SELECT 'O-W' || i, 2, 'open', '', '', 1, '2026-01-01T00:00:00.000Z' FROM n`,
    { wanted },
  );
  await ctx.sql.run(
    `WITH RECURSIVE l (i) AS (SELECT 0 UNION ALL SELECT i + 1 FROM l WHERE i + 1 < $wanted * $lines)
     INSERT INTO sales_line (order_id, line, item_id, quantity, price)
     SELECT o.id, l.i % $lines + 1, $first + l.i, 1000000, 50000
       FROM l JOIN sales_order o ON o.number = 'O-W' || (l.i / $lines)`,
    bind,
  );
  await ctx.sql.run(
    `INSERT INTO order_component (line_id, item_id, per, open) SELECT l.id, l.item_id, 1000000, l.quantity
       FROM sales_line l JOIN sales_order o ON o.id = l.order_id WHERE o.number LIKE 'O-W%'`,
  );
  // What builds reserve of these items is there besides.
  const range = { first: FIRST, last: FIRST + wanted * LINES };
  await ctx.sql.run(
    "UPDATE balance SET quantity = 5000000000000 WHERE item_id BETWEEN $first AND $last AND bin = 'A-0'",
    range,
  );
  await ctx.sql.run(
    `UPDATE pool SET quantity = (SELECT SUM(quantity) FROM balance b WHERE b.item_id = pool.item_id), value = 700000000
      WHERE item_id BETWEEN $first AND $last`,
    range,
  );
  const made = await ctx.sql.all<{ id: number }>(
    "SELECT id FROM sales_order WHERE number LIKE 'O-W%' ORDER BY id",
  );
  return made.map((order) => order.id);
});

const bare = new sqlite3.Database(file);
const sql = (text: string, values: Record<string, unknown> = {}) =>
  new Promise<{ id: number }[]>((resolve, reject) =>
    bare.all(text, values, (error, rows) => (error ? reject(error) : resolve(rows as { id: number }[]))),
  );
await sql("PRAGMA foreign_keys = ON");
await sql("PRAGMA synchronous = FULL");
const linesOf = (order: number) =>
  sql("SELECT id, item_id AS item FROM sales_line WHERE order_id = $order ORDER BY line", { $order: order });
/** Which order comes next, and its lines as JSON; read before it is measured. */
const next = { at: -1, order: 0, rows: "[]", lines: [] as { id: number }[] };
async function take(): Promise<void> {
  next.at += 1;
  next.order = orders[next.at] ?? 0;
  next.lines = await linesOf(next.order);
  next.rows = JSON.stringify(next.lines);
}

let shipments = 0;
/** The rows that a shipment writes, with figures that are known already: nothing is read, checked or calculated. */
async function bareShipment(): Promise<void> {
  const { order, rows } = next;
  await sql("BEGIN IMMEDIATE");
  const moment = new Date().toISOString();
  const [posting] = await sql(
    `INSERT INTO posting (kind, document, person_id, day, moment, reason)
     VALUES ('shipment', 'S-0', 1, $day, $moment, '') RETURNING id`,
    { $day: DAY, $moment: moment },
  );
  const ids = { $posting: posting?.id, $rows: rows };
  await sql(
    `INSERT INTO movement (posting_id, item_id, quantity, value, from_location, from_bin, from_owner, from_owner_id, to_location,
                           to_bin, to_owner, to_owner_id, lot, serial, purpose, source, source_id, source_line, reason)
     SELECT $posting, value ->> 'item', 1000000, 10, 1, 'A-0', 'company', 0, NULL, '', '', 0, '', '', 'shipped', 'order', $order,
            value ->> 'id', '' FROM json_each($rows)`,
    { ...ids, $order: order },
  );
  await sql(
    `INSERT INTO balance (item_id, lot, serial, location_id, bin, owner, owner_id, quantity)
     SELECT item_id, lot, serial, location_id, bin, owner, owner_id, quantity - 1000000 FROM balance
      WHERE item_id IN (SELECT value ->> 'item' FROM json_each($rows)) AND bin = 'A-0'
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity`,
    { $rows: rows },
  );
  await sql(
    `INSERT INTO pool (item_id, lot, serial, owner, owner_id, quantity, value)
     SELECT item_id, lot, serial, owner, owner_id, quantity - 1000000, value - 10 FROM pool
      WHERE item_id IN (SELECT value ->> 'item' FROM json_each($rows))
         ON CONFLICT DO UPDATE SET quantity = excluded.quantity, value = excluded.value`,
    { $rows: rows },
  );
  const [shipment] = await sql(
    `INSERT INTO shipment (number, order_id, posting_id, day, person_id, moment, note, address)
     VALUES ($number, $order, $posting, $day, 1, $moment, '', '') RETURNING id`,
    { $number: `bare ${shipments++}`, $order: order, $posting: posting?.id, $day: DAY, $moment: moment },
  );
  const own = { $shipment: shipment?.id, $rows: rows };
  await sql(
    `INSERT INTO shipment_line (shipment_id, line_id, units, revenue, cost)
     SELECT $shipment, value ->> 'id', 1000000, 50000, 10 FROM json_each($rows)`,
    own,
  );
  await sql(
    `INSERT INTO shipment_component (shipment_id, line_id, position, item_id, stocked, quantity, revenue, cost)
     SELECT $shipment, value ->> 'id', 0, value ->> 'item', 1, 1000000, 50000, 10 FROM json_each($rows)`,
    own,
  );
  await sql(
    `UPDATE order_component SET shipped = shipped + 1000000, open = open - 1000000
      WHERE line_id IN (SELECT value ->> 'id' FROM json_each($rows))`,
    { $rows: rows },
  );
  await sql("UPDATE sales_order SET stage = 'shipped' WHERE id = $order", { $order: order });
  await sql("COMMIT");
}

const shipment = () => {
  const body = parseAmounts(routes.shipOrder.body, {
    ...PLAIN_SHIPMENT,
    day: DAY,
    lines: next.lines.map(({ id }) => ({ line: id, quantity: null, pieces: [], only: [] })),
  });
  return change(store, 1, (ctx) => shipOrder(ctx, next.order, body));
};
const measured = await against(`shipping an order of ${LINES} lines`, RUNS, shipment, bareShipment, take);
const ok = report([measured], MOST);
await store.close();
bare.close();
rmSync(folder, { recursive: true });
process.exit(ok ? 0 : 1);
