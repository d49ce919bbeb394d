/** What the catalog is made of, as far as questions keep it until it changes. */
const CATALOG_TABLES = [
  "company",
  "unit",
  "item",
  "item_supplier",
  "firm",
  "pack",
  "parts_list",
  "revision",
  "revision_line",
  "line_substitute",
];

const countChange = (table: string, change: string) => `
CREATE TRIGGER ${table}_${change.toLowerCase()} AFTER ${change} ON ${table} BEGIN UPDATE catalog_change SET changes = changes + 1; END;`;

/** SQL of the triggers that count the changes of the catalog. */
export const CATALOG_TRIGGERS = CATALOG_TABLES.flatMap((table) =>
  ["INSERT", "UPDATE", "DELETE"].map((change) => countChange(table, change)),
).join("");
