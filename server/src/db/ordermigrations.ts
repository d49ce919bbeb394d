import { scaled, scaledOrNull, signed, text } from "./columns.ts";
import type { Migration } from "./migration.ts";
import { versionTrigger } from "./whochanged.ts";

/** The steps that customers' orders came with, after those of `migrations`; one that has shipped is never changed. */
export const orderMigrations: readonly Migration[] = [
  {
    name: "0018-discounts",
    sql: "ALTER TABLE sales_line ADD COLUMN discount INTEGER NOT NULL DEFAULT 0 CHECK (discount BETWEEN 0 AND 100000000);",
  },
  {
    name: "0019-promises",
    sql: `
ALTER TABLE sales_order ADD COLUMN precedence INTEGER CHECK (precedence BETWEEN 1 AND 999);
ALTER TABLE sales_line ADD COLUMN promised TEXT;`,
  },
  {
    // A line of a kit has its own copy of what the kit said, and of its contents as they were changed.
    name: "0020-sets",
    sql: `
ALTER TABLE sales_line ADD COLUMN kit TEXT;
CREATE TABLE order_content (
  line_id INTEGER NOT NULL REFERENCES sales_line (id) ON DELETE CASCADE, position INTEGER NOT NULL CHECK (position >= 0),
  defined INTEGER CHECK (defined >= 0), item_id INTEGER NOT NULL REFERENCES item (id), quantity ${scaled("quantity", 1)},
  PRIMARY KEY (line_id, position)
) STRICT, WITHOUT ROWID;
CREATE INDEX order_content_item ON order_content (item_id);
UPDATE sales_line SET kit = (
  SELECT json_object('shown', k.contents_shown, 'added', k.may_be_added_to, 'rule', k.price_rule, 'discount', k.discount,
           'contents', (SELECT json_group_array(json_object('item', c.item_id, 'quantity', c.quantity, 'stocked', 1 - i.not_stock_tracked,
                                 'swap', c.swap, 'changes', c.quantity_may_change, 'leftOut', c.may_be_left_out,
                                 'swaps', (SELECT json_group_array(s.item_id) FROM (SELECT item_id FROM kit_swap
                                             WHERE kit_id = c.kit_id AND line = c.line ORDER BY position) s)))
                          FROM (SELECT * FROM kit_content WHERE kit_id = k.item_id ORDER BY line) c JOIN item i ON i.id = c.item_id))
    FROM kit k WHERE k.item_id = sales_line.item_id);
INSERT INTO order_content (line_id, position, defined, item_id, quantity)
SELECT l.id, ROW_NUMBER() OVER (PARTITION BY l.id ORDER BY c.line) - 1, c.line - 1, c.item_id, c.quantity
  FROM sales_line l JOIN kit_content c ON c.kit_id = l.item_id JOIN item i ON i.id = c.item_id
 WHERE i.not_stock_tracked = 1 OR EXISTS (SELECT 1 FROM order_component t WHERE t.line_id = l.id AND t.item_id = c.item_id);
INSERT INTO order_content (line_id, position, defined, item_id, quantity)
SELECT t.line_id, 1000 + ROW_NUMBER() OVER (PARTITION BY t.line_id ORDER BY t.id), NULL, t.item_id, t.per
  FROM order_component t JOIN sales_line l ON l.id = t.line_id
 WHERE l.kit IS NOT NULL AND NOT EXISTS (SELECT 1 FROM order_content c WHERE c.line_id = t.line_id AND c.item_id = t.item_id);`,
  },
  {
    name: "0021-selling",
    sql: `
ALTER TABLE item ADD COLUMN not_for_sale INTEGER NOT NULL DEFAULT 0 CHECK (not_for_sale IN (0, 1));
ALTER TABLE item ADD COLUMN always_build INTEGER NOT NULL DEFAULT 0 CHECK (always_build IN (0, 1));`,
  },
  {
    name: "0022-bought-for-orders",
    sql: `
ALTER TABLE purchase_need ADD COLUMN order_line INTEGER REFERENCES sales_line (id) ON DELETE SET NULL;
CREATE INDEX purchase_need_order ON purchase_need (order_line) WHERE order_line IS NOT NULL;`,
  },
  {
    // What is said of a customer before an order is taken, and what an order says beside its lines.
    name: "0023-customer-terms",
    sql: `
ALTER TABLE firm ADD COLUMN note ${text("note", 2000)} DEFAULT '';
ALTER TABLE firm ADD COLUMN on_hold INTEGER NOT NULL DEFAULT 0 CHECK (on_hold IN (0, 1));
ALTER TABLE firm ADD COLUMN credit_limit INTEGER CHECK (credit_limit >= 0);
ALTER TABLE sales_order ADD COLUMN address ${text("address", 500)} DEFAULT '';
ALTER TABLE sales_order ADD COLUMN terms ${text("terms", 500)} DEFAULT '';
ALTER TABLE sales_order ADD COLUMN cost_tag ${text("cost_tag", 60)} DEFAULT '';
ALTER TABLE sales_order ADD COLUMN accepted_by INTEGER REFERENCES person (id);
ALTER TABLE sales_order ADD COLUMN accepted_at TEXT;
ALTER TABLE sales_order ADD COLUMN accepted TEXT;`,
  },
  {
    // A line keeps the tax rate that it was sold at; an order has lines that are only text.
    name: "0024-tax-and-texts",
    sql: `
ALTER TABLE company ADD COLUMN tax_rate INTEGER NOT NULL DEFAULT 0 CHECK (tax_rate BETWEEN 0 AND 100000000);
ALTER TABLE item ADD COLUMN tax_rate INTEGER CHECK (tax_rate BETWEEN 0 AND 100000000);
ALTER TABLE firm ADD COLUMN tax_exempt INTEGER NOT NULL DEFAULT 0 CHECK (tax_exempt IN (0, 1));
ALTER TABLE sales_line ADD COLUMN tax_rate INTEGER NOT NULL DEFAULT 0 CHECK (tax_rate BETWEEN 0 AND 100000000);
CREATE TABLE order_text (
  order_id INTEGER NOT NULL REFERENCES sales_order (id) ON DELETE CASCADE, position INTEGER NOT NULL CHECK (position >= 0),
  before INTEGER NOT NULL CHECK (before >= 0), text ${text("text", 500, 1)}, PRIMARY KEY (order_id, position)
) STRICT, WITHOUT ROWID;`,
  },
  {
    // A price list is of one customer, or of a group of them.
    name: "0025-price-lists",
    sql: `
ALTER TABLE firm ADD COLUMN customer_group ${text("customer_group", 60)} DEFAULT '';
ALTER TABLE firm ADD COLUMN customer_group_key TEXT NOT NULL DEFAULT '';
CREATE TABLE price_list (
  id INTEGER PRIMARY KEY AUTOINCREMENT, customer_id INTEGER UNIQUE REFERENCES firm (id) ON DELETE CASCADE,
  customer_group ${text("customer_group", 60)}, customer_group_key TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1, changed_by INTEGER REFERENCES person (id), changed_at TEXT,
  CHECK ((customer_id IS NULL) = (customer_group_key <> ''))
) STRICT;
CREATE UNIQUE INDEX price_list_group ON price_list (customer_group_key) WHERE customer_group_key <> '';
${versionTrigger("price_list")}
CREATE TABLE price_step (
  list_id INTEGER NOT NULL REFERENCES price_list (id) ON DELETE CASCADE, item_id INTEGER NOT NULL REFERENCES item (id),
  from_quantity ${scaled("from_quantity")}, price ${scaled("price")}, price_per ${scaled("price_per", 1)}, price_unit ${text("price_unit", 60)},
  PRIMARY KEY (list_id, item_id, from_quantity)
) STRICT, WITHOUT ROWID;
CREATE INDEX price_step_item ON price_step (item_id);`,
  },
  {
    // A quote is an order that was not ordered yet; ordered, it keeps the number of the quote.
    name: "0026-quotes",
    sql: `
ALTER TABLE sales_order ADD COLUMN valid_until TEXT;
ALTER TABLE sales_order ADD COLUMN quote ${text("quote", 20)} DEFAULT '';
ALTER TABLE sales_order ADD COLUMN ordered_by INTEGER REFERENCES person (id);
ALTER TABLE sales_order ADD COLUMN ordered_at TEXT;
CREATE INDEX sales_order_quote ON sales_order (quote) WHERE quote <> '';`,
  },
  {
    name: "0027-customer-words",
    sql: `
CREATE TABLE customer_word (
  customer_id INTEGER NOT NULL REFERENCES firm (id) ON DELETE CASCADE, word_key ${text("word_key", 400, 1)}, words ${text("words", 200, 1)},
  item_id INTEGER NOT NULL REFERENCES item (id) ON DELETE CASCADE, person_id INTEGER NOT NULL REFERENCES person (id), moment TEXT NOT NULL,
  PRIMARY KEY (customer_id, word_key)
) STRICT, WITHOUT ROWID;
CREATE INDEX customer_word_item ON customer_word (item_id);`,
  },
  {
    // One unit may have a price of its own, and a line may ask for it.
    name: "0028-serial-prices",
    sql: `
CREATE TABLE serial_price (
  item_id INTEGER NOT NULL, serial TEXT NOT NULL, price ${scaled("price")}, PRIMARY KEY (item_id, serial),
  FOREIGN KEY (item_id, serial) REFERENCES serial (item_id, code) ON DELETE CASCADE
) STRICT, WITHOUT ROWID;
ALTER TABLE sales_line ADD COLUMN serial ${text("serial", 60)} DEFAULT '';
CREATE INDEX sales_line_serial ON sales_line (item_id, serial) WHERE serial <> '';`,
  },
  {
    // What left of a line and what was closed; of the line itself where it takes nothing from stock.
    name: "0029-shipments",
    sql: `
ALTER TABLE order_component ADD COLUMN shipped ${scaled("shipped")} DEFAULT 0;
ALTER TABLE order_component ADD COLUMN closed ${scaled("closed")} DEFAULT 0;
ALTER TABLE sales_line ADD COLUMN shipped ${scaled("shipped")} DEFAULT 0;
ALTER TABLE sales_line ADD COLUMN closed ${scaled("closed")} DEFAULT 0;
ALTER TABLE sales_order ADD COLUMN closed_by INTEGER REFERENCES person (id);
ALTER TABLE sales_order ADD COLUMN closed_at TEXT;
UPDATE order_component SET closed = order_component.per * l.quantity / 1000000
  FROM sales_line l JOIN sales_order o ON o.id = l.order_id AND o.stage = 'cancelled' WHERE l.id = order_component.line_id;
UPDATE sales_line SET closed = quantity
 WHERE order_id IN (SELECT id FROM sales_order WHERE stage = 'cancelled') AND id NOT IN (SELECT line_id FROM order_component);
DROP INDEX sales_order_open;
CREATE INDEX sales_order_open ON sales_order (due, id) WHERE stage IN ('open', 'part shipped');
CREATE TABLE shipment (
  id INTEGER PRIMARY KEY AUTOINCREMENT, number TEXT NOT NULL UNIQUE, order_id INTEGER NOT NULL REFERENCES sales_order (id),
  posting_id INTEGER UNIQUE REFERENCES posting (id), day TEXT NOT NULL, person_id INTEGER NOT NULL REFERENCES person (id),
  moment TEXT NOT NULL, note ${text("note", 500)}, address ${text("address", 500)}, parcels INTEGER CHECK (parcels >= 0),
  weight ${scaledOrNull("weight")}, accepted TEXT, undone_by INTEGER REFERENCES person (id), undone_at TEXT
) STRICT;
CREATE INDEX shipment_order ON shipment (order_id);
CREATE TABLE shipment_line (
  shipment_id INTEGER NOT NULL REFERENCES shipment (id), line_id INTEGER NOT NULL REFERENCES sales_line (id),
  units ${scaled("units")}, revenue ${signed("revenue")}, cost ${scaled("cost")}, PRIMARY KEY (shipment_id, line_id)
) STRICT, WITHOUT ROWID;
CREATE INDEX shipment_line_of ON shipment_line (line_id);
CREATE TABLE shipment_component (
  shipment_id INTEGER NOT NULL REFERENCES shipment (id), line_id INTEGER NOT NULL REFERENCES sales_line (id),
  position INTEGER NOT NULL, item_id INTEGER NOT NULL REFERENCES item (id), stocked INTEGER NOT NULL CHECK (stocked IN (0, 1)),
  quantity ${scaled("quantity")}, revenue ${signed("revenue")}, cost ${scaled("cost")}, PRIMARY KEY (shipment_id, line_id, position)
) STRICT, WITHOUT ROWID;
CREATE INDEX shipment_component_item ON shipment_component (item_id);`,
  },
  {
    // What the company's papers say; and messages about orders and shipments.
    name: "0030-papers",
    sql: `
CREATE TABLE paper_setting (
  id INTEGER PRIMARY KEY CHECK (id = 1), dates ${text("dates", 20, 1)}, words TEXT NOT NULL,
  version INTEGER NOT NULL DEFAULT 1, changed_by INTEGER REFERENCES person (id), changed_at TEXT
) STRICT;
${versionTrigger("paper_setting")}
INSERT INTO paper_setting (id, dates, words) VALUES (1, '23 Nov 2026', '{}');
ALTER TABLE outbox ADD COLUMN order_id INTEGER REFERENCES sales_order (id);
ALTER TABLE outbox ADD COLUMN shipment_id INTEGER REFERENCES shipment (id);
CREATE INDEX outbox_order ON outbox (order_id) WHERE order_id IS NOT NULL;`,
  },
  {
    // Shipping may finish what is being built for a line; null of a line: as its item says.
    name: "0031-finish-when-shipped",
    sql: `
ALTER TABLE item ADD COLUMN finish_when_shipped INTEGER NOT NULL DEFAULT 0 CHECK (finish_when_shipped IN (0, 1));
ALTER TABLE sales_line ADD COLUMN finish_when_shipped INTEGER CHECK (finish_when_shipped IN (0, 1));
CREATE TABLE shipment_finish (
  shipment_id INTEGER NOT NULL REFERENCES shipment (id), finish_id INTEGER NOT NULL UNIQUE REFERENCES finish (id),
  PRIMARY KEY (shipment_id, finish_id)
) STRICT, WITHOUT ROWID;`,
  },
  {
    // A supplier may deliver a line straight to the customer: its purchase order carries the address, and brings nothing to stock.
    name: "0032-direct-delivery",
    sql: `
ALTER TABLE sales_line ADD COLUMN by_supplier INTEGER NOT NULL DEFAULT 0 CHECK (by_supplier IN (0, 1));
ALTER TABLE purchase ADD COLUMN order_id INTEGER REFERENCES sales_order (id);
ALTER TABLE purchase ADD COLUMN deliver_to ${text("deliver_to", 700)} DEFAULT '';
ALTER TABLE purchase_line ADD COLUMN order_line INTEGER REFERENCES sales_line (id);
CREATE INDEX purchase_line_order ON purchase_line (order_line) WHERE order_line IS NOT NULL;
ALTER TABLE shipment ADD COLUMN receipt_id INTEGER REFERENCES receipt (id);
CREATE INDEX shipment_receipt ON shipment (receipt_id) WHERE receipt_id IS NOT NULL;`,
  },
];
