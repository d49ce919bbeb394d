export const ITEM_KINDS = ["bought", "built", "kit", "service"] as const;

export type ItemKind = (typeof ITEM_KINDS)[number];

export const TRACKINGS = ["none", "lot", "serial"] as const;

export type Tracking = (typeof TRACKINGS)[number];

/** Running out: still used up, no longer bought. Archived: kept for what was, offered nowhere. */
export const ITEM_STATES = ["active", "phasing out", "archived"] as const;

export type ItemState = (typeof ITEM_STATES)[number];

/** Whether a part is handed out before the work, or deducted when the work is finished. */
export const DRAWN_AT = ["pick", "finish"] as const;

export type DrawnAt = (typeof DRAWN_AT)[number];

/** Whether an item is kept on the books at all: work, kits and what is not counted never are. */
export function isStocked(item: { kind: ItemKind; notStockTracked: boolean }): boolean {
  return (item.kind === "bought" || item.kind === "built") && !item.notStockTracked;
}

/** What an item may still lack for what it is used for. */
export const LACKS = ["cost", "rate", "supplier", "list", "contents", "price"] as const;

export type Lack = (typeof LACKS)[number];

export interface Completeness {
  kind: ItemKind;
  state: ItemState;
  /** Its current unit cost is known. */
  hasCost: boolean;
  hasSupplier: boolean;
  /** Its parts list is in force, or its contents are written. */
  hasList: boolean;
  /** It has a price of its own, or one that follows from its contents. */
  hasPrice: boolean;
}

/** What an item still lacks, most urgent first; nothing for one that is archived. */
export function lacks(item: Completeness): Lack[] {
  if (item.state === "archived") return [];
  switch (item.kind) {
    case "service":
      return item.hasCost ? [] : ["rate"];
    case "kit":
      return [...only("contents", !item.hasList), ...only("price", !item.hasPrice)];
    case "built":
      return [...only("list", !item.hasList), ...only("cost", item.hasList && !item.hasCost)];
    case "bought":
      return [
        ...only("cost", !item.hasCost),
        ...only("supplier", !item.hasSupplier && item.state === "active"),
      ];
  }
}

const only = (lack: Lack, missing: boolean): Lack[] => (missing ? [lack] : []);
