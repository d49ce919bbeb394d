import { CATALOG_TRIGGERS } from "./catalogchanges.ts";
import { scaled, text } from "./columns.ts";
import type { SchemaConnection } from "./schemaconnection.ts";

// The step that gives the ledger owners, purposes and lines, and every table the words of the glossary.

/** Names of columns in any table, before and after. */
const COLUMNS: Record<string, string> = {
  place_id: "location_id",
  home_place_id: "home_location_id",
  from_place: "from_location",
  to_place: "to_location",
  made_by: "created_by",
  made_at: "created_at",
  outside_id: "subcontractor_id",
  standing_id: "recurring_id",
  standing_day: "recurring_day",
  not_counted: "not_stock_tracked",
  wasted: "scrapped",
  keep: "target",
};
/** The same where another table keeps a column of that name. */
const COLUMNS_OF: Record<string, Record<string, string>> = {
  finish: { outside: "fee" },
  finish_line: { back: "returned" },
};
const TABLES: Record<string, string> = {
  place: "location",
  standing_build: "recurring_build",
  keep_rule: "stock_target",
  own_field: "custom_field",
  own_value: "custom_value",
  kept_check: "saved_check",
  sales_take: "order_component",
  build_order: "allocation",
  purchase_for: "purchase_need",
};
/** Indexes are named for their tables. */
const INDEX_PREFIXES = Object.entries({ ...TABLES, standing: "recurring", keep: "stock_target" });

/** Their kinds and stages are text that the code checks, so that a new one needs no new table. */
const FREE_TEXT = ["location", "build", "purchase", "sales_order"];
const FIXED_LIST = / CHECK \((?:kind|stage) IN \([^()]*\)\)/g;

/** Documents, and what is changed in a form: each carries a version, which counts its changes. */
export const VERSIONED = [
  "company",
  "item",
  "item_group",
  "firm",
  "kit",
  "revision",
  "build",
  "purchase",
  "sales_order",
  "recurring_build",
  "stock_target",
];

/** Changes an existing database in place; called with foreign keys off, inside the transaction of the migration. */
export async function fillLedger(db: SchemaConnection): Promise<void> {
  await dropViewsAndTriggers(db);
  await rename(db);
  for (const table of VERSIONED)
    await db.exec(`ALTER TABLE ${table} ADD COLUMN version INTEGER NOT NULL DEFAULT 1`);
  // Where a bin comes in the walk of a picker; without one, by its code.
  await db.exec("ALTER TABLE bin ADD COLUMN walk INTEGER CHECK (walk >= 0)");
  await rebuildLedger(db);
  await rebuildTables(db);
  await db.exec("UPDATE location SET kind = 'subcontractor' WHERE kind = 'outside'");
  await db.exec(OLD_VALUES);
  await db.exec(TRIGGERS);
}

interface Named {
  name: string;
  sql: string;
}

/** They are of the old names; SQLite renames nothing that they would not follow. */
async function dropViewsAndTriggers(db: SchemaConnection): Promise<void> {
  const seen = await db.all<Named & { type: string }>(
    "SELECT type, name, sql FROM sqlite_master WHERE type IN ('view', 'trigger')",
  );
  for (const { type, name } of seen) await db.exec(`DROP ${type} IF EXISTS ${name}`);
}

async function rename(db: SchemaConnection): Promise<void> {
  for (const { name: table } of await tables(db)) {
    const columns = await db.all<{ name: string }>(`PRAGMA table_info(${table})`);
    for (const { name } of columns) {
      const to = COLUMNS_OF[table]?.[name] ?? COLUMNS[name];
      if (to !== undefined) await db.exec(`ALTER TABLE ${table} RENAME COLUMN ${name} TO ${to}`);
    }
  }
  for (const [from, to] of Object.entries(TABLES)) await db.exec(`ALTER TABLE ${from} RENAME TO ${to}`);
}

const tables = (db: SchemaConnection) =>
  db.all<Named>("SELECT name, sql FROM sqlite_master WHERE type = 'table' AND name NOT LIKE 'sqlite_%'");

/** Writes each table anew whose ids may be given twice, or whose kinds or stages are a fixed list; with its rows and indexes. */
async function rebuildTables(db: SchemaConnection): Promise<void> {
  for (const { name, sql } of await tables(db)) {
    const anew = (FREE_TEXT.includes(name) ? sql.replace(FIXED_LIST, "") : sql).replace(
      /\bid INTEGER PRIMARY KEY(?! AUTOINCREMENT| CHECK)/,
      "id INTEGER PRIMARY KEY AUTOINCREMENT",
    );
    const indexes = await db.all<Named>(
      "SELECT name, sql FROM sqlite_master WHERE type = 'index' AND tbl_name = $name AND sql IS NOT NULL",
      { name },
    );
    if (anew !== sql) {
      await db.exec(anew.replace(/^CREATE TABLE\s+("?)\w+\1/, "CREATE TABLE rebuilt"));
      await db.exec(`INSERT INTO rebuilt SELECT * FROM ${name}`);
      await sameCount(db, name, "rebuilt");
      await db.exec(`DROP TABLE ${name}; ALTER TABLE rebuilt RENAME TO ${name}`);
    }
    for (const index of indexes) {
      const renamed = indexName(index.name);
      if (anew === sql && renamed === index.name) continue;
      await db.exec(`DROP INDEX IF EXISTS ${index.name}`);
      await db.exec(index.sql.replace(index.name, renamed));
    }
  }
}

function indexName(name: string): string {
  const found = INDEX_PREFIXES.find(([from]) => name.startsWith(`${from}_`));
  return found ? `${found[1]}${name.slice(found[0].length)}` : name;
}

async function sameCount(db: SchemaConnection, before: string, after: string): Promise<void> {
  const [row] = await db.all<{ before: number; after: number }>(
    `SELECT (SELECT COUNT(*) FROM ${before}) AS before, (SELECT COUNT(*) FROM ${after}) AS after`,
  );
  if (row?.before !== row?.after)
    throw new Error(`${before} had ${row?.before} rows, and ${row?.after} of them came along`);
}

/** The four tables of the ledger: stock by owner, movements by purpose and line, and what stands beside a posting. */
async function rebuildLedger(db: SchemaConnection): Promise<void> {
  await db.exec(LEDGER_TABLES);
  for (const table of ["posting", "movement", "balance", "pool"]) {
    await sameCount(db, table, `new_${table}`);
    await db.exec(`DROP TABLE ${table}; ALTER TABLE new_${table} RENAME TO ${table}`);
  }
  await db.exec(LEDGER_INDEXES);
}

const owner = (column: string) => `CASE WHEN ${column} = 0 THEN 'company' ELSE 'build' END`;
/** Of a movement's end: no owner where it has no location. */
const ownerAt = (end: "from" | "to") =>
  `CASE WHEN m.${end}_location IS NULL THEN '' WHEN m.${end}_build IS NULL THEN 'company' ELSE 'build' END,
       COALESCE(m.${end}_build, 0)`;

const UNDOES_COUNT = `EXISTS (SELECT 1 FROM movement x WHERE x.posting_id = o.undoes AND x.reason <> '' AND x.item_id = m.item_id
  AND x.lot = m.lot AND x.serial = m.serial AND x.quantity = m.quantity AND x.value = m.value
  AND x.from_location IS m.to_location AND x.to_location IS m.from_location)`;

const LEDGER_TABLES = `
CREATE TABLE new_posting (
  id INTEGER PRIMARY KEY AUTOINCREMENT, kind ${text("kind", 40, 1)}, document TEXT NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id), day TEXT NOT NULL, moment TEXT NOT NULL, reason ${text("reason", 500)},
  undoes INTEGER REFERENCES posting (id)
) STRICT;
INSERT INTO new_posting
SELECT id, CASE kind WHEN 'put back' THEN 'return to stock' ELSE kind END, document, person_id, day, moment, reason, undoes
  FROM posting;
CREATE TABLE new_movement (
  id INTEGER PRIMARY KEY AUTOINCREMENT, posting_id INTEGER NOT NULL REFERENCES posting (id),
  item_id INTEGER NOT NULL REFERENCES item (id), quantity ${scaled("quantity")}, value ${scaled("value")},
  from_location INTEGER REFERENCES location (id), from_bin TEXT NOT NULL, from_owner TEXT NOT NULL, from_owner_id INTEGER NOT NULL,
  to_location INTEGER REFERENCES location (id), to_bin TEXT NOT NULL, to_owner TEXT NOT NULL, to_owner_id INTEGER NOT NULL,
  lot TEXT NOT NULL, serial TEXT NOT NULL, purpose ${text("purpose", 40, 1)},
  source TEXT NOT NULL, source_id INTEGER NOT NULL, source_line INTEGER NOT NULL, reason ${text("reason", 500)},
  CHECK (quantity > 0 OR value > 0), CHECK (from_location IS NOT NULL OR to_location IS NOT NULL),
  CHECK ((from_location IS NULL) = (from_owner = '')), CHECK ((to_location IS NULL) = (to_owner = ''))
) STRICT;
-- An undo goes the other way for the same purpose. What a count found is known by its reason; its undo has none.
INSERT INTO new_movement
SELECT m.id, m.posting_id, m.item_id, m.quantity, m.value, m.from_location, m.from_bin, ${ownerAt("from")},
       m.to_location, m.to_bin, ${ownerAt("to")}, m.lot, m.serial,
       CASE WHEN o.kind = 'opening' THEN 'opening' WHEN o.kind = 'receipt' THEN 'bought' WHEN o.kind = 'hand out' THEN 'handed out'
            WHEN o.kind = 'put back' THEN 'returned to stock' WHEN o.kind = 'split' THEN 'moved' WHEN m.reason <> '' OR ${UNDOES_COUNT} THEN 'counted'
            WHEN m.from_location IS NOT NULL AND m.to_location IS NOT NULL THEN 'returned to stock'
            WHEN (m.from_location IS NULL) = (o.undoes IS NULL) THEN 'built' ELSE 'used' END,
       CASE WHEN o.build_id IS NOT NULL THEN 'build' WHEN r.id IS NOT NULL THEN 'purchase' ELSE '' END,
       COALESCE(o.build_id, r.purchase_id, 0),
       -- The line, where only one can be meant; of old movements the others lack theirs.
       COALESCE((SELECT MIN(line) FROM build_line WHERE build_id = o.build_id AND item_id = m.item_id HAVING COUNT(*) = 1),
                (SELECT MIN(x.line_id) FROM receipt_line x JOIN purchase_line l ON l.id = x.line_id
                  WHERE x.receipt_id = r.id AND l.item_id = m.item_id HAVING COUNT(DISTINCT x.line_id) = 1), 0),
       m.reason
  FROM movement m JOIN posting o ON o.id = m.posting_id
  LEFT JOIN receipt r ON r.posting_id = COALESCE(o.undoes, o.id);
CREATE TABLE new_balance (
  item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL,
  location_id INTEGER NOT NULL REFERENCES location (id), bin TEXT NOT NULL, owner TEXT NOT NULL, owner_id INTEGER NOT NULL,
  quantity ${scaled("quantity")}, PRIMARY KEY (item_id, lot, serial, location_id, bin, owner, owner_id)
) STRICT, WITHOUT ROWID;
INSERT INTO new_balance
SELECT item_id, lot, serial, location_id, bin, ${owner("build_id")}, build_id, quantity FROM balance;
CREATE TABLE new_pool (
  item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL, owner TEXT NOT NULL,
  owner_id INTEGER NOT NULL, quantity ${scaled("quantity")}, value ${scaled("value")},
  PRIMARY KEY (item_id, lot, serial, owner, owner_id), CHECK (quantity > 0 OR value = 0),
  CHECK (serial = '' OR quantity <= 1000000)
) STRICT, WITHOUT ROWID;
INSERT INTO new_pool SELECT item_id, lot, serial, ${owner("build_id")}, build_id, quantity, value FROM pool;
CREATE TABLE posting_entry (
  posting_id INTEGER NOT NULL REFERENCES posting (id), position INTEGER NOT NULL,
  side TEXT NOT NULL CHECK (side IN ('added', 'lost')), what ${text("what", 40, 1)},
  value INTEGER NOT NULL CHECK (value BETWEEN -9000000000000000 AND 9000000000000000 AND value <> 0),
  reason ${text("reason", 500)}, PRIMARY KEY (posting_id, position)
) STRICT, WITHOUT ROWID;
-- The price of a received line as it was before it was put right; without a posting where nothing of it is stock.
CREATE TABLE price_correction (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, receipt_id INTEGER NOT NULL REFERENCES receipt (id),
  position INTEGER NOT NULL, price ${scaled("price")}, price_per ${scaled("price_per", 1)}, price_unit ${text("price_unit", 60)},
  reason ${text("reason", 500, 1)}, posting_id INTEGER UNIQUE REFERENCES posting (id),
  person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL
) STRICT;
CREATE INDEX price_correction_receipt ON price_correction (receipt_id);`;

const LEDGER_INDEXES = `
CREATE INDEX posting_document ON posting (document);
CREATE INDEX posting_day ON posting (day);
CREATE UNIQUE INDEX posting_undoes ON posting (undoes) WHERE undoes IS NOT NULL;
CREATE INDEX movement_posting ON movement (posting_id);
CREATE INDEX movement_item ON movement (item_id, id);
CREATE INDEX movement_issue ON movement (item_id, id) WHERE to_location IS NULL;
CREATE INDEX movement_lot ON movement (item_id, lot) WHERE lot <> '';
CREATE INDEX movement_serial ON movement (item_id, serial, id) WHERE serial <> '';
CREATE INDEX movement_source ON movement (source, source_id, id) WHERE source <> '';
CREATE INDEX movement_to_owner ON movement (to_owner, to_owner_id) WHERE to_owner NOT IN ('', 'company');
CREATE INDEX balance_bin ON balance (location_id, bin);
CREATE INDEX balance_owner ON balance (owner, owner_id) WHERE owner <> 'company';`;

/** Costs and losses of what was finished before they were entered, so that every posting balances (docs/rules.md § 9). */
const OLD_VALUES = `
CREATE TEMP TABLE entered AS
WITH moved AS (
  SELECT posting_id, SUM(CASE purpose WHEN 'used' THEN value ELSE 0 END) AS used, SUM(purpose = 'built') AS arrived
    FROM movement GROUP BY posting_id)
SELECT f.posting_id, 1 AS rank, 'added' AS side, 'parts not stock-tracked' AS what, f.parts - COALESCE(m.used, 0) AS value, '' AS reason
  FROM finish f LEFT JOIN moved m ON m.posting_id = f.posting_id
UNION ALL SELECT posting_id, 2, 'added', 'work', work, '' FROM finish
UNION ALL SELECT posting_id, 3, 'added', 'overhead', overhead, '' FROM finish
UNION ALL SELECT posting_id, 4, 'added', 'extra cost', extra, '' FROM finish
UNION ALL SELECT posting_id, 5, 'added', 'subcontractor''s fee', fee, '' FROM finish
UNION ALL SELECT f.posting_id, 6, 'lost', CASE f.good WHEN 0 THEN 'rejected' ELSE 'not stock-tracked' END, f.total, o.reason
  FROM finish f JOIN posting o ON o.id = f.posting_id LEFT JOIN moved m ON m.posting_id = f.posting_id
 WHERE COALESCE(m.arrived, 0) = 0
UNION ALL SELECT m.posting_id, 7, CASE WHEN m.from_location IS NULL THEN 'added' ELSE 'lost' END,
       CASE WHEN m.from_location IS NULL THEN 'found by a count' ELSE 'count down' END, m.value, m.reason
  FROM movement m JOIN posting o ON o.id = m.posting_id WHERE m.purpose = 'counted' AND o.undoes IS NULL;
INSERT INTO posting_entry
SELECT posting_id, ROW_NUMBER() OVER (PARTITION BY posting_id ORDER BY rank), side, what, value, reason FROM entered WHERE value <> 0;
INSERT INTO posting_entry
SELECT u.id, e.position, e.side, e.what, -e.value, e.reason FROM posting u JOIN posting_entry e ON e.posting_id = u.undoes;
DROP TABLE entered;`;

const appendOnly = (table: string, what: string) => `
CREATE TRIGGER ${table}_stays BEFORE UPDATE ON ${table} BEGIN SELECT RAISE(ABORT, '${what} are append-only'); END;
CREATE TRIGGER ${table}_kept BEFORE DELETE ON ${table} BEGIN SELECT RAISE(ABORT, '${what} are append-only'); END;`;
const countVersion = (table: string) => `
CREATE TRIGGER ${table}_version AFTER UPDATE ON ${table} WHEN NEW.version = OLD.version BEGIN
  UPDATE ${table} SET version = version + 1 WHERE rowid = NEW.rowid;
END;`;
const TRIGGERS = `
${appendOnly("posting", "postings")}${appendOnly("movement", "movements")}${appendOnly("posting_entry", "entries of postings")}
${VERSIONED.map(countVersion).join("")}
${CATALOG_TRIGGERS}`;
