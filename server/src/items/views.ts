/** What other areas may read of this one's tables (docs/architecture.md). */
export const itemViews = {
  item_head: `
SELECT i.id, i.code, i.code_key, i.name, i.search, i.barcode, i.kind, i.unit,
       (SELECT u.decimals FROM unit u WHERE u.code = i.unit) AS decimals, i.tracking, i.group_id, i.state, i.not_stock_tracked, i.not_for_sale, i.always_build, i.finish_when_shipped, i.lot_fixed, i.tax_rate,
       i.reorder_level, i.build_days, i.shelf_life, i.warranty_months, i.home_location_id, i.home_bin, i.picture_id AS thumbnail,
       (SELECT json_group_array(json_object('name', k.name, 'quantity', k.quantity) ORDER BY k.position)
          FROM pack k WHERE k.item_id = i.id) AS packs
  FROM item i`,
  item_cost: "SELECT id AS item_id, standard_cost, cost_per, cost_unit FROM item",
  item_price: "SELECT id AS item_id, price, price_per, price_unit FROM item",
  item_home: `
SELECT id AS item_id, COALESCE(home_location_id, (SELECT MIN(id) FROM location WHERE kind = 'store' AND archived = 0)) AS location_id, home_bin AS bin
  FROM item`,
  supplier_terms: `
SELECT item_id, supplier_id, their_code, price, price_per, price_unit, lead_days, minimum, multiple, web, preferred
  FROM item_supplier`,
};
