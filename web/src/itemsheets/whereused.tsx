import type { ItemSheet, Use } from "@yosegi/contract";
import { Unanswered } from "../api/index.ts";
import { Named, SheetTable, Sub, useFormat } from "../ui/index.ts";
import { useUses } from "./queries.ts";

const USE_WORDS: Record<Use["what"], string> = {
  list: "parts list",
  substitute: "substitute",
  kit: "kit",
  swap: "may be swapped in",
  build: "build",
  purchase: "purchase order",
  order: "customer's order",
};

const PLACES: Partial<Record<Use["what"], string>> = {
  build: "/builds",
  purchase: "/buying",
  order: "/orders",
};

/** Every list, kit and open document with the item, with quantities. */
export function WhereUsed({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const { data, error } = useUses(item.id);
  if (!data) return <Unanswered error={error} />;
  if (data.uses.length === 0) return <Sub>Not used anywhere.</Sub>;
  return (
    <SheetTable
      label="Where it is used"
      rows={data.uses.map((use, key) => ({ ...use, key }))}
      rowId={(use) => use.key}
      columns={[
        {
          header: "Where",
          cell: (use) => (
            <Named name={use.name} to={`${PLACES[use.what] ?? "/catalog"}/${use.id}`} more={[use.code]} />
          ),
        },
        {
          header: "As",
          cell: (use) => (
            <>
              {USE_WORDS[use.what]}
              {use.detail && <small>{use.detail}</small>}
            </>
          ),
        },
        { header: "Quantity", end: true, cell: (use) => format.amount(use.quantity, use.unit) },
      ]}
    />
  );
}
