import { SHIPPED_UNITS } from "@yosegi/core";
import { QueryTypes, type Sequelize, Transaction } from "sequelize";
import { Umzug } from "umzug";

// Quantities are whole millionths, money whole ten-thousandths; the bounds keep both exact when read as a number.
const whole = (column: string, least = 0) =>
  `INTEGER NOT NULL CHECK (${column} BETWEEN ${least} AND 9000000000000000)`;
const wholeOrNull = (column: string) => `INTEGER CHECK (${column} BETWEEN 0 AND 9000000000000000)`;
const text = (column: string, most: number, least = 0) =>
  `TEXT NOT NULL CHECK (length(${column}) BETWEEN ${least} AND ${most})`;
const day = (column: string) => `TEXT CHECK (${column} GLOB '[0-9][0-9][0-9][0-9]-[0-9][0-9]-[0-9][0-9]')`;

const quoted = (value: string) => `'${value.replaceAll("'", "''")}'`;
const shippedUnits = SHIPPED_UNITS.map(
  (u) =>
    `(${[u.code, u.name, u.dimension, u.factor.toFixed()].map(quoted).join(", ")}, ${u.decimals}, ${quoted(u.rec20)})`,
).join(", ");

const migrations: { name: string; sql: string }[] = [
  {
    name: "0001-people",
    sql: `
CREATE TABLE company (
  id INTEGER PRIMARY KEY CHECK (id = 1), name ${text("name", 120, 1)},
  currency TEXT NOT NULL CHECK (currency GLOB '[A-Z][A-Z][A-Z]'), time_zone TEXT NOT NULL
) STRICT;
CREATE TABLE person (id INTEGER PRIMARY KEY, name ${text("name", 120, 1)}, name_key TEXT NOT NULL UNIQUE) STRICT;
CREATE TABLE counter (prefix TEXT PRIMARY KEY, last INTEGER NOT NULL) STRICT;
CREATE TABLE request (
  key TEXT PRIMARY KEY, route TEXT NOT NULL, body_hash TEXT NOT NULL, answer TEXT NOT NULL, moment TEXT NOT NULL
) STRICT;`,
  },
  {
    // 'kit' is a kind of the glossary that the contract does not open yet; SQLite cannot widen a CHECK later.
    name: "0002-catalog",
    sql: `
CREATE TABLE unit (
  code TEXT PRIMARY KEY, name TEXT NOT NULL,
  dimension TEXT NOT NULL CHECK (dimension IN ('mass', 'volume', 'length', 'count', 'time')),
  factor TEXT NOT NULL, decimals INTEGER NOT NULL CHECK (decimals BETWEEN 0 AND 6), rec20 TEXT NOT NULL
) STRICT;
INSERT INTO unit (code, name, dimension, factor, decimals, rec20) VALUES ${shippedUnits};
CREATE TABLE place (
  id INTEGER PRIMARY KEY, name ${text("name", 120, 1)}, name_key TEXT NOT NULL UNIQUE,
  kind TEXT NOT NULL CHECK (kind IN ('store', 'bench', 'outside', 'returns'))
) STRICT;
CREATE TABLE bin (
  place_id INTEGER NOT NULL REFERENCES place (id), code ${text("code", 20, 1)}, PRIMARY KEY (place_id, code)
) STRICT, WITHOUT ROWID;
CREATE TABLE item (
  id INTEGER PRIMARY KEY, code ${text("code", 40, 1)}, code_key TEXT NOT NULL UNIQUE, name ${text("name", 120, 1)},
  search TEXT NOT NULL, kind TEXT NOT NULL CHECK (kind IN ('bought', 'built', 'kit', 'service')),
  unit TEXT NOT NULL REFERENCES unit (code), tracking TEXT NOT NULL CHECK (tracking IN ('none', 'lot', 'serial')),
  standard_cost ${wholeOrNull("standard_cost")}, price ${wholeOrNull("price")},
  home_place_id INTEGER REFERENCES place (id), home_bin ${text("home_bin", 20)},
  CHECK (kind <> 'service' OR tracking = 'none')
) STRICT;
CREATE TABLE parts_list (
  id INTEGER PRIMARY KEY, product_id INTEGER NOT NULL UNIQUE REFERENCES item (id),
  makes ${whole("makes", 1)}, usual ${whole("usual", 1)}, overhead ${whole("overhead")}
) STRICT;
CREATE TABLE parts_list_line (
  list_id INTEGER NOT NULL REFERENCES parts_list (id) ON DELETE CASCADE, line INTEGER NOT NULL CHECK (line >= 1),
  item_id INTEGER NOT NULL REFERENCES item (id), quantity ${whole("quantity", 1)},
  unit TEXT NOT NULL REFERENCES unit (code), waste ${whole("waste")}, once INTEGER NOT NULL CHECK (once IN (0, 1)),
  PRIMARY KEY (list_id, line)
) STRICT, WITHOUT ROWID;
CREATE INDEX parts_list_line_item ON parts_list_line (item_id);`,
  },
  {
    name: "0003-builds",
    sql: `
CREATE TABLE build (
  id INTEGER PRIMARY KEY, number TEXT NOT NULL UNIQUE, product_id INTEGER NOT NULL REFERENCES item (id),
  quantity ${whole("quantity", 1)}, good ${whole("good")}, rejected ${whole("rejected")},
  stage TEXT NOT NULL CHECK (stage IN ('draft', 'queued', 'finished', 'cancelled')),
  due ${day("due")}, note ${text("note", 500)}, makes ${wholeOrNull("makes")}, overhead ${wholeOrNull("overhead")},
  made_by INTEGER NOT NULL REFERENCES person (id), made_at TEXT NOT NULL,
  queued_by INTEGER REFERENCES person (id), queued_at TEXT,
  finished_by INTEGER REFERENCES person (id), finished_at TEXT,
  cancelled_by INTEGER REFERENCES person (id), cancelled_at TEXT,
  CHECK (good + rejected <= quantity), CHECK (stage IN ('draft', 'cancelled') OR makes IS NOT NULL)
) STRICT;
CREATE INDEX build_stage ON build (stage);
CREATE TABLE build_line (
  build_id INTEGER NOT NULL REFERENCES build (id), line INTEGER NOT NULL CHECK (line >= 1),
  item_id INTEGER NOT NULL REFERENCES item (id), quantity ${whole("quantity", 1)},
  unit TEXT NOT NULL REFERENCES unit (code), waste ${whole("waste")}, once INTEGER NOT NULL CHECK (once IN (0, 1)),
  need ${whole("need")}, used ${whole("used")}, open ${whole("open")},
  PRIMARY KEY (build_id, line)
) STRICT, WITHOUT ROWID;
CREATE INDEX build_line_open ON build_line (item_id, open) WHERE open > 0;`,
  },
  {
    name: "0004-ledger",
    sql: `
CREATE TABLE posting (
  id INTEGER PRIMARY KEY, kind TEXT NOT NULL CHECK (kind IN ('opening', 'receipt', 'finish')),
  document TEXT NOT NULL, build_id INTEGER REFERENCES build (id), person_id INTEGER NOT NULL REFERENCES person (id),
  day ${day("day")} NOT NULL, moment TEXT NOT NULL, reason ${text("reason", 500)}
) STRICT;
CREATE INDEX posting_document ON posting (document);
CREATE TABLE movement (
  id INTEGER PRIMARY KEY, posting_id INTEGER NOT NULL REFERENCES posting (id),
  item_id INTEGER NOT NULL REFERENCES item (id), quantity ${whole("quantity", 1)},
  from_place INTEGER REFERENCES place (id), from_bin TEXT NOT NULL, to_place INTEGER REFERENCES place (id),
  to_bin TEXT NOT NULL, lot TEXT NOT NULL, serial TEXT NOT NULL, value ${whole("value")},
  CHECK (from_place IS NOT NULL OR to_place IS NOT NULL)
) STRICT;
CREATE INDEX movement_posting ON movement (posting_id);
CREATE INDEX movement_item ON movement (item_id, id);
CREATE INDEX movement_issue ON movement (item_id, id) WHERE to_place IS NULL;
CREATE TRIGGER movement_stays BEFORE UPDATE ON movement BEGIN SELECT RAISE(ABORT, 'movements are append-only'); END;
CREATE TRIGGER movement_kept BEFORE DELETE ON movement BEGIN SELECT RAISE(ABORT, 'movements are append-only'); END;
CREATE TRIGGER posting_stays BEFORE UPDATE ON posting BEGIN SELECT RAISE(ABORT, 'postings are append-only'); END;
CREATE TRIGGER posting_kept BEFORE DELETE ON posting BEGIN SELECT RAISE(ABORT, 'postings are append-only'); END;
CREATE TABLE balance (
  item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL,
  place_id INTEGER NOT NULL REFERENCES place (id), bin TEXT NOT NULL, quantity ${whole("quantity")},
  PRIMARY KEY (item_id, lot, serial, place_id, bin)
) STRICT, WITHOUT ROWID;
CREATE TABLE pool (
  item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL,
  quantity ${whole("quantity")}, value ${whole("value")},
  PRIMARY KEY (item_id, lot, serial), CHECK (quantity > 0 OR value = 0), CHECK (serial = '' OR quantity <= 1000000)
) STRICT, WITHOUT ROWID;
CREATE TABLE lot (
  item_id INTEGER NOT NULL REFERENCES item (id), code ${text("code", 40, 1)}, expiry ${day("expiry")},
  received ${day("received")} NOT NULL, PRIMARY KEY (item_id, code)
) STRICT, WITHOUT ROWID;
CREATE TABLE serial (
  item_id INTEGER NOT NULL REFERENCES item (id), code ${text("code", 60, 1)}, received ${day("received")} NOT NULL,
  PRIMARY KEY (item_id, code)
) STRICT, WITHOUT ROWID;
CREATE TABLE finish (
  id INTEGER PRIMARY KEY, build_id INTEGER NOT NULL REFERENCES build (id),
  posting_id INTEGER NOT NULL UNIQUE REFERENCES posting (id), good ${whole("good")}, rejected ${whole("rejected")},
  place_id INTEGER NOT NULL REFERENCES place (id), bin TEXT NOT NULL, lot TEXT NOT NULL, expiry ${day("expiry")},
  parts ${whole("parts")}, work ${whole("work")}, overhead ${whole("overhead")}, total ${whole("total")},
  CHECK (good + rejected > 0), CHECK (total = parts + work + overhead)
) STRICT;
CREATE INDEX finish_build ON finish (build_id);
CREATE TABLE finish_line (
  finish_id INTEGER NOT NULL REFERENCES finish (id), line INTEGER NOT NULL, planned ${whole("planned")},
  used ${whole("used")}, cost ${whole("cost")}, difference_cost INTEGER NOT NULL,
  PRIMARY KEY (finish_id, line)
) STRICT, WITHOUT ROWID;`,
  },
];

/** Brings the database to the newest schema, each step whole or not at all. Gives the names of those applied. */
export async function migrate(db: Sequelize): Promise<string[]> {
  await db.query(
    "CREATE TABLE IF NOT EXISTS schema_migration (name TEXT PRIMARY KEY, applied_at TEXT NOT NULL) STRICT",
  );
  const umzug = new Umzug<Sequelize>({
    context: db,
    logger: undefined,
    storage: {
      logMigration: async ({ name }) => {
        await db.query("INSERT INTO schema_migration VALUES ($name, datetime('now'))", { bind: { name } });
      },
      unlogMigration: async ({ name }) => {
        await db.query("DELETE FROM schema_migration WHERE name = $name", { bind: { name } });
      },
      executed: async () =>
        (
          await db.query<{ name: string }>("SELECT name FROM schema_migration ORDER BY name", {
            type: QueryTypes.SELECT,
          })
        ).map((row) => row.name),
    },
    migrations: migrations.map(({ name, sql }) => ({
      name,
      up: async ({ context }) => {
        await context.transaction({ type: Transaction.TYPES.IMMEDIATE }, async (transaction) => {
          // query() runs only the first statement of a string
          for (const statement of sql
            .split(/;\s*\n/)
            .map((s) => s.trim())
            .filter(Boolean))
            await context.query(statement, { transaction });
        });
      },
    })),
  });
  return (await umzug.up()).map((applied) => applied.name);
}
