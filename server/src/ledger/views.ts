import { OUTSIDE_PURPOSES } from "@yosegi/core";

const quoted = (words: readonly string[]) => words.map((word) => `'${word}'`).join(", ");

/** What other areas may read of the ledger's tables. */
const own = {
  location_head: "SELECT id, name, name_key, kind, firm_id, archived FROM location",
  bin_head: "SELECT location_id, code, code_key, walk FROM bin WHERE closed = 0",
  lot_head: "SELECT item_id, code, code_key, expiry, made_on, maker_number FROM lot",
  serial_head: "SELECT item_id, code, code_key, expiry, made_on, maker_number FROM serial",
  unit_content: "SELECT id, item_id, serial, part_id, quantity, part_lot, part_serial FROM serial_content",
  posting_head:
    "SELECT id, kind, document, person_id, day, moment, reason, undoes, cost_tag, device FROM posting",
  stock_movement: `
SELECT id, posting_id, item_id, quantity, value, from_location, from_bin, from_owner, from_owner_id, to_location, to_bin, to_owner,
       to_owner_id, lot, serial, purpose, source, source_id, source_line, reason
  FROM movement`,
  // Stock where it is, with what its pool is worth.
  stock_balance: `
SELECT b.item_id, b.lot, b.serial, b.location_id, b.bin, b.owner, b.owner_id, b.quantity,
       (SELECT p.quantity FROM pool p WHERE p.item_id = b.item_id AND p.lot = b.lot AND p.serial = b.serial AND p.owner = b.owner
           AND p.owner_id = b.owner_id) AS pool_quantity,
       (SELECT p.value FROM pool p WHERE p.item_id = b.item_id AND p.lot = b.lot AND p.serial = b.serial AND p.owner = b.owner
           AND p.owner_id = b.owner_id) AS pool_value
  FROM balance b`,
  usable_stock: `
SELECT b.item_id, b.location_id, b.bin, b.lot, b.serial, b.quantity, COALESCE(l.expiry, s.expiry) AS expiry
  FROM balance b JOIN location p ON p.id = b.location_id AND p.kind = 'store'
  LEFT JOIN lot l ON b.lot <> '' AND l.item_id = b.item_id AND l.code = b.lot
  LEFT JOIN serial s ON b.serial <> '' AND s.item_id = b.item_id AND s.code = b.serial
 WHERE b.quantity > 0 AND b.owner = 'company'`,
  owned_value: "SELECT item_id, quantity, value FROM pool WHERE owner <> 'customer'",
  serial_state: `
SELECT s.item_id, s.code AS serial, m.id AS movement_id, m.purpose, m.to_location AS location_id, m.to_bin AS bin, m.to_owner AS owner,
       m.to_owner_id AS owner_id, o.id AS posting_id, o.document
  FROM serial s JOIN movement m ON m.id =
       (SELECT MAX(x.id) FROM movement x JOIN posting p ON p.id = x.posting_id
         WHERE x.item_id = s.item_id AND x.serial = s.code AND x.serial <> '' AND x.quantity > 0 AND p.undoes IS NULL
           AND NOT EXISTS (SELECT 1 FROM posting u WHERE u.undoes = p.id))
  JOIN posting o ON o.id = m.posting_id`,
  posting_imbalance: `
SELECT posting_id, SUM(value) AS value FROM (
  SELECT posting_id, CASE WHEN to_location IS NULL THEN value ELSE -value END AS value FROM movement
   WHERE (from_location IS NULL OR to_location IS NULL) AND purpose NOT IN (${quoted(OUTSIDE_PURPOSES)})
   UNION ALL
  SELECT posting_id, CASE side WHEN 'added' THEN value ELSE -value END FROM posting_entry)
 GROUP BY posting_id HAVING SUM(value) <> 0`,
};

/** Figures of several areas, each with its one definition: a new reason to reserve, or to keep an item, is one more branch. */
const shared = {
  reserved: `
SELECT item_id, quantity, build_id, own_location, NULL AS line_id FROM reserved_by_builds
 UNION ALL
SELECT item_id, quantity, NULL, NULL, line_id FROM reserved_by_orders`,
  reservation: `
SELECT r.item_id, COALESCE(r.own_location, h.location_id) AS location_id, r.quantity,
       COALESCE(date(b.due, '-' || COALESCE(p.build_days, 0) || ' days'), o.due) AS day, r.build_id, o.id AS order_id,
       COALESCE(b.number, o.number) AS number
  FROM reserved r LEFT JOIN build b ON b.id = r.build_id LEFT JOIN item p ON p.id = b.product_id
  LEFT JOIN sales_line l ON l.id = r.line_id LEFT JOIN sales_order o ON o.id = l.order_id
  LEFT JOIN item_home h ON h.item_id = r.item_id`,
  incoming: `
SELECT l.item_id, h.location_id, l.open AS quantity, l.expected AS day, l.purchase_id, NULL AS build_id, l.id AS line_id, p.number
  FROM purchase_line l LEFT JOIN purchase p ON p.id = l.purchase_id LEFT JOIN item_home h ON h.item_id = l.item_id
 WHERE l.open > 0 AND p.order_id IS NULL
 UNION ALL
SELECT r.product_id, COALESCE(b.location_id, h.location_id), r.to_come, b.due, NULL, r.build_id, NULL, b.number
  FROM build_rest r JOIN build b ON b.id = r.build_id LEFT JOIN item_home h ON h.item_id = r.product_id
 WHERE r.stage IN ('queued', 'on the bench') AND r.to_come > 0`,
  on_draft: `
SELECT l.item_id, l.quantity, p.id AS purchase_id, p.supplier_id, NULL AS build_id, p.number
  FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id
 WHERE p.stage = 'draft' AND p.order_id IS NULL
 UNION ALL
SELECT r.product_id, r.to_come, NULL, NULL, r.build_id, b.number
  FROM build_rest r JOIN build b ON b.id = r.build_id
 WHERE r.stage = 'draft' AND r.to_come > 0`,
  // What names an item, so that it stays as it is; `open` where it is still to happen.
  item_use: `
SELECT item_id, 'movement' AS use, 0 AS open FROM movement
 UNION ALL SELECT m.item_id, 'lasting movement', 0 FROM movement m JOIN posting o ON o.id = m.posting_id
 WHERE o.undoes IS NULL AND NOT EXISTS (SELECT 1 FROM posting u WHERE u.undoes = o.id)
 UNION ALL SELECT item_id, 'stock', 1 FROM balance WHERE quantity > 0
 UNION ALL SELECT product_id, 'build', stage IN ('draft', 'queued', 'on the bench') FROM build
 UNION ALL SELECT l.item_id, 'build', l.open > 0 OR b.stage = 'draft' FROM build_line l JOIN build b ON b.id = l.build_id
 UNION ALL SELECT item_id, 'purchase', open > 0 FROM purchase_line
 UNION ALL SELECT product_id, 'purchase need', 0 FROM purchase_need
 UNION ALL SELECT l.item_id, 'order', o.stage IN ('open', 'part shipped', 'quote') FROM sales_line l JOIN sales_order o ON o.id = l.order_id
 UNION ALL SELECT item_id, 'order', open > 0 FROM order_component
 UNION ALL SELECT item_id, 'order', 0 FROM order_content
 UNION ALL SELECT product_id, 'list', 0 FROM parts_list
 UNION ALL SELECT item_id, 'part', 0 FROM revision_line
 UNION ALL SELECT item_id, 'part', 0 FROM line_substitute
 UNION ALL SELECT item_id, 'kit', 0 FROM kit
 UNION ALL SELECT item_id, 'content', 0 FROM kit_content
 UNION ALL SELECT part_id, 'part', 0 FROM serial_content
 UNION ALL SELECT item_id, 'content', 0 FROM kit_swap
 UNION ALL SELECT starts_after, 'start', 0 FROM revision
 UNION ALL SELECT part_id, 'replacement', 0 FROM replacement
 UNION ALL SELECT successor_id, 'replacement', 0 FROM replacement`,
  // Quantities that the decimals of their unit must allow, each with what it stands in.
  quantity_in_use: `
SELECT l.unit, l.quantity, 'the parts list of ' || i.code AS stands_in
  FROM revision_line l JOIN revision r ON r.id = l.revision_id JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id
 WHERE r.state <> 'retired'
 UNION ALL SELECT i.unit, r.makes, 'the parts list of ' || i.code
  FROM revision r JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id
 UNION ALL SELECT i.unit, r.usual, 'the parts list of ' || i.code
  FROM revision r JOIN parts_list p ON p.id = r.list_id JOIN item i ON i.id = p.product_id
 UNION ALL SELECT i.unit, b.quantity, 'stock of ' || i.code FROM balance b JOIN item i ON i.id = b.item_id
 UNION ALL SELECT i.unit, b.quantity, 'build ' || b.number FROM build b JOIN item i ON i.id = b.product_id
 WHERE b.stage IN ('draft', 'queued', 'on the bench')
 UNION ALL SELECT i.unit, l.open, 'build ' || b.number
  FROM build_line l JOIN build b ON b.id = l.build_id JOIN item i ON i.id = l.item_id
 UNION ALL SELECT i.unit, l.quantity, 'purchase order ' || p.number
  FROM purchase_line l JOIN purchase p ON p.id = l.purchase_id JOIN item i ON i.id = l.item_id WHERE p.stage = 'draft' OR l.open > 0
 UNION ALL SELECT i.unit, l.quantity, 'order ' || o.number
  FROM sales_line l JOIN sales_order o ON o.id = l.order_id JOIN item i ON i.id = l.item_id WHERE o.stage IN ('open', 'part shipped', 'quote')
 UNION ALL SELECT i.unit, c.quantity, 'order ' || o.number
  FROM order_content c JOIN sales_line l ON l.id = c.line_id JOIN sales_order o ON o.id = l.order_id JOIN item i ON i.id = c.item_id
 WHERE o.stage IN ('open', 'part shipped', 'quote')
 UNION ALL SELECT i.unit, k.target, 'the stock target of ' || i.code FROM stock_target k JOIN item i ON i.id = k.product_id
 UNION ALL SELECT i.unit, k.batch, 'the stock target of ' || i.code FROM stock_target k JOIN item i ON i.id = k.product_id
 UNION ALL SELECT i.unit, s.quantity, 'a recurring build of ' || i.code FROM recurring_build s JOIN item i ON i.id = s.product_id
 UNION ALL SELECT i.unit, s.minimum, 'what a supplier asks for ' || i.code FROM item_supplier s JOIN item i ON i.id = s.item_id
 UNION ALL SELECT i.unit, s.multiple, 'what a supplier asks for ' || i.code FROM item_supplier s JOIN item i ON i.id = s.item_id
 UNION ALL SELECT i.unit, s.from_quantity, 'a price list, with ' || i.code FROM price_step s JOIN item i ON i.id = s.item_id
 UNION ALL SELECT unit, reorder_level, 'the reorder level of ' || code FROM item
 UNION ALL SELECT i.unit, k.quantity, 'a pack of ' || i.code FROM pack k JOIN item i ON i.id = k.item_id
 UNION ALL SELECT i.unit, c.quantity, 'kit ' || s.code FROM kit_content c JOIN item i ON i.id = c.item_id JOIN item s ON s.id = c.kit_id`,
};

export const ledgerViews = { ...own, ...shared };
