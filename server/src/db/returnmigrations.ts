import { day, scaled, scaledOrNull, signed, text } from "./columns.ts";
import type { Migration } from "./migration.ts";
import { versionTrigger } from "./whochanged.ts";

/** The steps that returns came with, after those of `pickingMigrations`; one that has shipped is never changed. */
export const returnMigrations: readonly Migration[] = [
  {
    // What customers send back is held in returns, in a bin of its return's number, until each piece is inspected.
    name: "0043-returns",
    sql: `
CREATE TABLE customer_return (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, customer_id INTEGER NOT NULL REFERENCES firm (id),
  shipment_id INTEGER REFERENCES shipment (id), posting_id INTEGER REFERENCES posting (id), day ${day("day")} NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL, reason ${text("reason", 500, 1)}, note ${text("note", 500)},
  fee ${scaled("fee")}, replacement_id INTEGER REFERENCES sales_order (id), replaced_free INTEGER NOT NULL DEFAULT 0 CHECK (replaced_free IN (0, 1)),
  undone_by INTEGER REFERENCES person (id), undone_at TEXT
) STRICT;
CREATE INDEX customer_return_of ON customer_return (shipment_id);
CREATE TABLE return_line (
  return_id INTEGER NOT NULL REFERENCES customer_return (id), line INTEGER NOT NULL, order_line_id INTEGER REFERENCES sales_line (id),
  item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL, quantity ${scaled("quantity", 1)},
  inspected ${scaled("inspected")} DEFAULT 0, credit ${signed("credit")}, tax_rate ${scaled("tax_rate")},
  PRIMARY KEY (return_id, line), CHECK (inspected <= quantity)
) STRICT, WITHOUT ROWID;
CREATE INDEX return_line_of ON return_line (order_line_id);
CREATE TABLE return_inspection (
  id INTEGER PRIMARY KEY AUTOINCREMENT, return_id INTEGER NOT NULL REFERENCES customer_return (id), line INTEGER NOT NULL,
  posting_id INTEGER NOT NULL REFERENCES posting (id), outcome TEXT NOT NULL, quantity ${scaled("quantity", 1)},
  location_id INTEGER REFERENCES location (id), bin TEXT NOT NULL, reason ${text("reason", 500)},
  undone_by INTEGER REFERENCES person (id), undone_at TEXT
) STRICT;
CREATE INDEX return_inspection_of ON return_inspection (return_id);`,
  },
  {
    name: "0044-take-aparts",
    sql: `
CREATE TABLE take_apart (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL,
  quantity ${scaled("quantity", 1)}, location_id INTEGER NOT NULL REFERENCES location (id), bin TEXT NOT NULL, build_id INTEGER REFERENCES build (id),
  return_id INTEGER REFERENCES customer_return (id), return_line INTEGER, posting_id INTEGER REFERENCES posting (id), day ${day("day")} NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL, reason ${text("reason", 500)},
  value_out ${scaled("value_out")}, damaged ${scaled("damaged")}, missing ${scaled("missing")}, work_put_in ${scaled("work_put_in")},
  undone_by INTEGER REFERENCES person (id), undone_at TEXT
) STRICT;
CREATE INDEX take_apart_of ON take_apart (build_id);
CREATE TABLE take_apart_part (
  take_apart_id INTEGER NOT NULL REFERENCES take_apart (id), line INTEGER NOT NULL, item_id INTEGER NOT NULL REFERENCES item (id), lot TEXT NOT NULL, serial TEXT NOT NULL,
  expected ${scaled("expected", 1)}, good ${scaled("good")}, damaged ${scaled("damaged")}, missing ${scaled("missing")},
  location_id INTEGER REFERENCES location (id), bin TEXT NOT NULL, allotted ${scaled("allotted")}, recovered ${scaled("recovered")},
  PRIMARY KEY (take_apart_id, line), CHECK (good + damaged + missing = expected)
) STRICT, WITHOUT ROWID;`,
  },
  {
    name: "0045-supplier-returns",
    sql: `
CREATE TABLE supplier_return (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, supplier_id INTEGER NOT NULL REFERENCES firm (id),
  posting_id INTEGER REFERENCES posting (id), day ${day("day")} NOT NULL, person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL,
  reason ${text("reason", 500, 1)}, note ${text("note", 500)}, credit ${scaled("credit")}, purchase_id INTEGER REFERENCES purchase (id),
  undone_by INTEGER REFERENCES person (id), undone_at TEXT
) STRICT;
CREATE TABLE supplier_return_line (
  supplier_return_id INTEGER NOT NULL REFERENCES supplier_return (id), line INTEGER NOT NULL, item_id INTEGER NOT NULL REFERENCES item (id),
  lot TEXT NOT NULL, serial TEXT NOT NULL, quantity ${scaled("quantity", 1)}, location_id INTEGER NOT NULL REFERENCES location (id), bin TEXT NOT NULL,
  return_id INTEGER REFERENCES customer_return (id), return_line INTEGER, PRIMARY KEY (supplier_return_id, line)
) STRICT, WITHOUT ROWID;`,
  },
  {
    // The time a take-apart took has a cost of its own; what is lost in it may be taken off a customer's credit.
    name: "0046-take-apart-work",
    sql: `
ALTER TABLE take_apart ADD COLUMN work_item_id INTEGER REFERENCES item (id);
ALTER TABLE take_apart ADD COLUMN minutes ${scaled("minutes")} DEFAULT 0;
ALTER TABLE take_apart ADD COLUMN work ${scaled("work")} DEFAULT 0;
ALTER TABLE take_apart ADD COLUMN charged ${scaled("charged")} DEFAULT 0;
CREATE INDEX take_apart_return ON take_apart (return_id);`,
  },
  {
    // What is repaired or improved lies with its rework, as do its parts, until its units are out.
    name: "0047-reworks",
    sql: `
CREATE TABLE rework (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, item_id INTEGER NOT NULL REFERENCES item (id),
  customer_id INTEGER REFERENCES firm (id), theirs INTEGER NOT NULL CHECK (theirs IN (0, 1)), subcontractor_id INTEGER REFERENCES firm (id),
  due ${day("due")}, assigned_id INTEGER REFERENCES person (id), reason ${text("reason", 500)}, cost_tag ${text("cost_tag", 120)},
  price ${scaledOrNull("price")}, posting_id INTEGER REFERENCES posting (id), day ${day("day")} NOT NULL,
  person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL, agreed_by INTEGER REFERENCES person (id), agreed_at TEXT,
  out_posting_id INTEGER REFERENCES posting (id), out_day ${day("out_day")}, out_by INTEGER REFERENCES person (id), out_at TEXT,
  undone_by INTEGER REFERENCES person (id), undone_at TEXT, CHECK (theirs = 0 OR customer_id IS NOT NULL)
) STRICT;
CREATE INDEX rework_customer ON rework (customer_id);
CREATE TABLE rework_unit (
  rework_id INTEGER NOT NULL REFERENCES rework (id), unit INTEGER NOT NULL, lot TEXT NOT NULL, serial TEXT NOT NULL, quantity ${scaled("quantity", 1)},
  location_id INTEGER REFERENCES location (id), bin TEXT NOT NULL, return_id INTEGER REFERENCES customer_return (id), return_line INTEGER,
  value_in ${scaled("value_in")}, value_out ${scaled("value_out")}, outcome TEXT, item_id INTEGER REFERENCES item (id),
  out_location_id INTEGER REFERENCES location (id), out_bin TEXT NOT NULL DEFAULT '', reason ${text("reason", 500)} DEFAULT '', price INTEGER,
  PRIMARY KEY (rework_id, unit)
) STRICT, WITHOUT ROWID;
CREATE INDEX rework_unit_serial ON rework_unit (serial);
CREATE TABLE rework_step (
  id INTEGER PRIMARY KEY AUTOINCREMENT, rework_id INTEGER NOT NULL REFERENCES rework (id), unit INTEGER, what ${text("what", 120, 1)},
  person_id INTEGER REFERENCES person (id), supplier_id INTEGER REFERENCES firm (id), service_id INTEGER REFERENCES item (id),
  purchase_id INTEGER REFERENCES purchase (id), due ${day("due")}, hour TEXT NOT NULL, planned ${scaled("planned")}, actual INTEGER, charge INTEGER,
  state TEXT NOT NULL
) STRICT;
CREATE INDEX rework_step_of ON rework_step (rework_id);
CREATE TABLE rework_part (
  id INTEGER PRIMARY KEY AUTOINCREMENT, rework_id INTEGER NOT NULL REFERENCES rework (id), unit INTEGER, step_id INTEGER REFERENCES rework_step (id),
  item_id INTEGER REFERENCES item (id), text ${text("text", 120)}, quantity ${scaled("quantity", 1)}, lot TEXT NOT NULL, serial TEXT NOT NULL,
  location_id INTEGER REFERENCES location (id), bin TEXT NOT NULL, posting_id INTEGER REFERENCES posting (id), value ${scaled("value")}, charge INTEGER
) STRICT;
CREATE INDEX rework_part_of ON rework_part (rework_id);
CREATE TABLE rework_recovered (
  rework_id INTEGER NOT NULL REFERENCES rework (id), unit INTEGER NOT NULL, line INTEGER NOT NULL, item_id INTEGER NOT NULL REFERENCES item (id),
  lot TEXT NOT NULL, serial TEXT NOT NULL, quantity ${scaled("quantity", 1)}, location_id INTEGER NOT NULL REFERENCES location (id), bin TEXT NOT NULL,
  value ${scaled("value")}, PRIMARY KEY (rework_id, unit, line)
) STRICT, WITHOUT ROWID;
CREATE TABLE registered_unit (
  customer_id INTEGER NOT NULL REFERENCES firm (id), item_id INTEGER NOT NULL REFERENCES item (id), serial ${text("serial", 60, 1)},
  since ${day("since")}, note ${text("note", 500)}, person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL,
  PRIMARY KEY (item_id, serial)
) STRICT, WITHOUT ROWID;
CREATE INDEX registered_unit_of ON registered_unit (customer_id);
CREATE TABLE rework_plan (id INTEGER PRIMARY KEY AUTOINCREMENT, name TEXT NOT NULL UNIQUE, units ${scaled("units", 1)}) STRICT;
CREATE TABLE rework_plan_part (
  plan_id INTEGER NOT NULL REFERENCES rework_plan (id), line INTEGER NOT NULL, item_id INTEGER REFERENCES item (id), text TEXT NOT NULL,
  quantity ${scaled("quantity", 1)}, value ${scaled("value")}, PRIMARY KEY (plan_id, line)
) STRICT, WITHOUT ROWID;
CREATE TABLE rework_plan_step (
  plan_id INTEGER NOT NULL REFERENCES rework_plan (id), line INTEGER NOT NULL, what TEXT NOT NULL, person_id INTEGER REFERENCES person (id),
  supplier_id INTEGER REFERENCES firm (id), service_id INTEGER REFERENCES item (id), planned ${scaled("planned")}, PRIMARY KEY (plan_id, line)
) STRICT, WITHOUT ROWID;`,
  },
  {
    // Two who change one rework, or one step of it, don't overwrite each other; an undone finish gives back the price that was.
    name: "0048-rework-versions",
    sql: `
ALTER TABLE rework_unit ADD COLUMN price_before INTEGER;
CREATE INDEX rework_by_out ON rework (out_posting_id);${["rework", "rework_step"]
      .map(
        (table) => `
ALTER TABLE ${table} ADD COLUMN version INTEGER NOT NULL DEFAULT 1;
ALTER TABLE ${table} ADD COLUMN changed_by INTEGER REFERENCES person (id);
ALTER TABLE ${table} ADD COLUMN changed_at TEXT;
${versionTrigger(table)}`,
      )
      .join("")}`,
  },
  {
    // Which list or revision says what was inside, where no build does.
    name: "0049-take-apart-revision",
    sql: "ALTER TABLE take_apart ADD COLUMN revision_id INTEGER REFERENCES revision (id) ON DELETE SET NULL;",
  },
  {
    // What a customer agreed to, or was billed, stays when prices and tax rates change.
    name: "0050-rework-fixed-charges",
    sql: ["rework_part", "rework_step"]
      .map(
        (table) => `
ALTER TABLE ${table} ADD COLUMN fixed_charge INTEGER;
ALTER TABLE ${table} ADD COLUMN fixed_tax INTEGER;`,
      )
      .join(""),
  },
];
