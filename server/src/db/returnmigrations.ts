import { day, scaled, signed, text } from "./columns.ts";
import type { Migration } from "./migration.ts";

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
];
