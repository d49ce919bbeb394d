import { day, scaled, scaledOrNull, text } from "./columns.ts";
import type { Migration } from "./migration.ts";

/** The steps that picking came with, after those of `orderMigrations`; one that has shipped is never changed. */
export const pickingMigrations: readonly Migration[] = [
  {
    // What is packed for an order is still in its pool, for that order alone. Holds steer pickers; they reserve nothing.
    name: "0033-picking",
    sql: `
ALTER TABLE order_component ADD COLUMN packed INTEGER NOT NULL DEFAULT 0 CHECK (packed >= 0);
CREATE TABLE pick_round (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, picker_id INTEGER NOT NULL REFERENCES person (id),
  started_by INTEGER NOT NULL REFERENCES person (id), started_at TEXT NOT NULL,
  ended_by INTEGER REFERENCES person (id), ended_at TEXT
) STRICT;
CREATE INDEX pick_round_open ON pick_round (id) WHERE ended_at IS NULL;
CREATE TABLE pick_document (
  round_id INTEGER NOT NULL REFERENCES pick_round (id), kind TEXT NOT NULL CHECK (kind IN ('order', 'build')),
  document_id INTEGER NOT NULL, PRIMARY KEY (round_id, kind, document_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX pick_document_of ON pick_document (kind, document_id);
CREATE TABLE pick_hold (
  id INTEGER PRIMARY KEY, round_id INTEGER NOT NULL REFERENCES pick_round (id), kind TEXT NOT NULL CHECK (kind IN ('order', 'build')),
  document_id INTEGER NOT NULL, line INTEGER NOT NULL, item_id INTEGER NOT NULL REFERENCES item (id),
  lot TEXT NOT NULL, serial TEXT NOT NULL, location_id INTEGER NOT NULL REFERENCES location (id), bin ${text("bin", 40)},
  quantity ${scaled("quantity", 1)}
) STRICT;
CREATE INDEX pick_hold_round ON pick_hold (round_id);
CREATE INDEX pick_hold_item ON pick_hold (item_id);
CREATE TABLE pick_short (
  round_id INTEGER NOT NULL REFERENCES pick_round (id), kind TEXT NOT NULL CHECK (kind IN ('order', 'build')),
  document_id INTEGER NOT NULL, line INTEGER NOT NULL, item_id INTEGER NOT NULL REFERENCES item (id),
  PRIMARY KEY (round_id, kind, document_id, line, item_id)
) STRICT, WITHOUT ROWID;`,
  },
  {
    // Whether a picker may take another lot than the suggested one without a reason.
    name: "0034-fixed-lots",
    sql: "ALTER TABLE item ADD COLUMN lot_fixed INTEGER NOT NULL DEFAULT 0 CHECK (lot_fixed IN (0, 1));",
  },
  {
    // Money of what was moved or scrapped is added up by a tag, and a movement says on which device it was entered.
    name: "0035-tags-and-devices",
    sql: `
ALTER TABLE posting ADD COLUMN cost_tag ${text("cost_tag", 60)} DEFAULT '';
ALTER TABLE posting ADD COLUMN device ${text("device", 40)} DEFAULT '';`,
  },
  {
    // A count is entered line by line, against what the books said at that moment, and posted as a whole.
    name: "0036-count-sheets",
    sql: `
CREATE TABLE count_sheet (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, blind INTEGER NOT NULL CHECK (blind IN (0, 1)),
  note ${text("note", 500)}, person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL,
  state TEXT NOT NULL DEFAULT 'open' CHECK (state IN ('open', 'posted', 'cancelled')),
  ended_by INTEGER REFERENCES person (id), ended_at TEXT
) STRICT;
CREATE INDEX count_sheet_open ON count_sheet (id) WHERE state = 'open';
CREATE TABLE count_line (
  id INTEGER PRIMARY KEY, sheet_id INTEGER NOT NULL REFERENCES count_sheet (id), item_id INTEGER NOT NULL REFERENCES item (id),
  lot TEXT NOT NULL, serial TEXT NOT NULL, location_id INTEGER NOT NULL REFERENCES location (id), bin ${text("bin", 40)},
  expected ${scaled("expected")}, counted ${scaledOrNull("counted")}, books ${scaledOrNull("books")},
  before INTEGER NOT NULL DEFAULT 0 CHECK (before IN (0, 1)),
  person_id INTEGER REFERENCES person (id), moment TEXT, reason ${text("reason", 500)} DEFAULT '',
  CHECK ((counted IS NULL) = (books IS NULL) AND (counted IS NULL) = (moment IS NULL)),
  UNIQUE (sheet_id, item_id, lot, serial, location_id, bin)
) STRICT;
CREATE INDEX count_line_spot ON count_line (item_id, location_id, bin);`,
  },
  {
    // A bin that was used stays in the ledger: it is closed, not removed. A label may be of a bin, which is no item.
    name: "0037-closed-bins-and-bin-labels",
    sql: `
ALTER TABLE bin ADD COLUMN closed INTEGER NOT NULL DEFAULT 0 CHECK (closed IN (0, 1));
CREATE INDEX bin_closed ON bin (location_id, code) WHERE closed = 1;
ALTER TABLE label RENAME TO label_before;
DROP INDEX label_waiting;
CREATE TABLE label (
  id INTEGER PRIMARY KEY, item_id INTEGER REFERENCES item (id), document TEXT NOT NULL, code ${text("code", 60, 1)},
  shape TEXT NOT NULL CHECK (shape IN ('code 128', 'qr')), lines TEXT NOT NULL, copies INTEGER NOT NULL CHECK (copies BETWEEN 1 AND 1000),
  created_by INTEGER NOT NULL REFERENCES person (id), created_at TEXT NOT NULL, printed_by INTEGER REFERENCES person (id), printed_at TEXT
) STRICT;
INSERT INTO label SELECT id, item_id, document, code, shape, lines, copies, created_by, created_at, printed_by, printed_at FROM label_before;
DROP TABLE label_before;
CREATE INDEX label_waiting ON label (id) WHERE printed_at IS NULL;`,
  },
  {
    // Each hand-out of a build has a number of its own: one of the build's own steps, or what one round fetched for it.
    name: "0038-hand-outs",
    sql: `
CREATE TABLE hand_out (
  id INTEGER PRIMARY KEY, build_id INTEGER NOT NULL REFERENCES build (id), n INTEGER NOT NULL CHECK (n > 0),
  posting_id INTEGER UNIQUE REFERENCES posting (id), round TEXT, units ${scaledOrNull("units")},
  done ${scaled("done")} DEFAULT 0, note ${text("note", 500)} DEFAULT '',
  CHECK ((posting_id IS NULL) <> (round IS NULL)), UNIQUE (build_id, n), UNIQUE (build_id, round)
) STRICT;
INSERT INTO hand_out (build_id, n, posting_id)
SELECT m.to_owner_id, ROW_NUMBER() OVER (PARTITION BY m.to_owner_id ORDER BY o.id), o.id
  FROM posting o JOIN movement m ON m.id = (SELECT MIN(x.id) FROM movement x WHERE x.posting_id = o.id AND x.purpose = 'handed out')
 WHERE o.kind = 'hand out' AND o.undoes IS NULL AND m.to_owner = 'build';`,
  },
  {
    // Who checked what is packed for an order, and up to which posting: what is packed or taken out later is not checked.
    name: "0039-packing-checked",
    sql: `
CREATE TABLE pack_check (
  order_id INTEGER PRIMARY KEY REFERENCES sales_order (id), person_id INTEGER NOT NULL REFERENCES person (id),
  moment TEXT NOT NULL, posting_id INTEGER NOT NULL REFERENCES posting (id)
) STRICT;`,
  },
  {
    // What is known of one lot or unit beside where it is; and what is inside a unit that was never built here.
    name: "0040-lot-and-serial-cards",
    sql: `
ALTER TABLE lot ADD COLUMN made_on ${day("made_on")};
ALTER TABLE lot ADD COLUMN maker_number ${text("maker_number", 60)} DEFAULT '';
ALTER TABLE serial ADD COLUMN expiry ${day("expiry")};
ALTER TABLE serial ADD COLUMN made_on ${day("made_on")};
ALTER TABLE serial ADD COLUMN maker_number ${text("maker_number", 60)} DEFAULT '';
CREATE TABLE serial_content (
  id INTEGER PRIMARY KEY, item_id INTEGER NOT NULL REFERENCES item (id), serial TEXT NOT NULL,
  part_id INTEGER NOT NULL REFERENCES item (id), quantity ${scaled("quantity", 1)}, part_lot TEXT NOT NULL, part_serial TEXT NOT NULL
) STRICT;
CREATE INDEX serial_content_of ON serial_content (item_id, serial);`,
  },
  {
    // People choose what they are told of; what was so at the last look is remembered, so that only what is new is told.
    name: "0041-notices",
    sql: `
CREATE TABLE notice_choice (
  person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE, what TEXT NOT NULL,
  page INTEGER NOT NULL CHECK (page IN (0, 1)), outbox INTEGER NOT NULL CHECK (outbox IN (0, 1)), PRIMARY KEY (person_id, what)
) STRICT, WITHOUT ROWID;
CREATE TABLE notice_email (person_id INTEGER PRIMARY KEY REFERENCES person (id) ON DELETE CASCADE, email ${text("email", 120)}) STRICT;
CREATE TABLE watched_fact (fact TEXT PRIMARY KEY) STRICT, WITHOUT ROWID;
CREATE TABLE notice (
  id INTEGER PRIMARY KEY, person_id INTEGER NOT NULL REFERENCES person (id) ON DELETE CASCADE, what TEXT NOT NULL, kind TEXT NOT NULL, document_id INTEGER NOT NULL,
  words TEXT NOT NULL, moment TEXT NOT NULL, read_at TEXT, page INTEGER NOT NULL DEFAULT 1 CHECK (page IN (0, 1))
) STRICT;
CREATE INDEX notice_of ON notice (person_id, id);`,
  },
  {
    // What of the part a substitute stands in for that was taken while picking, so that it can be given back.
    name: "0042-substitutes-picked",
    sql: `ALTER TABLE build_line ADD COLUMN replaces ${scaled("replaces")} DEFAULT 0;`,
  },
];
