import type { DrawnAt, ItemKind, ItemState, Lack, Tracking } from "@yosegi/core";

/** Each kind of item as a sentence says it. */
export const KIND_WORDS: Record<ItemKind, string> = {
  bought: "bought",
  built: "built here",
  kit: "kit",
  service: "work",
};

/** The kinds as a person chooses among them. */
export const KIND_CHOICES: { value: ItemKind; label: string }[] = [
  { value: "bought", label: "Bought" },
  { value: "built", label: "Built here" },
  { value: "kit", label: "Kit (sold as a set)" },
  { value: "service", label: "Service" },
];

/** What each kind is for, so that the right one is chosen at once: it cannot be changed later. */
export const KIND_HELP: Record<ItemKind, string> = {
  bought: "Bought from a supplier, to be sold or used as a part.",
  built:
    "Put together beforehand and stocked. It has a parts list; building it takes the parts and adds it to stock.",
  kit: "Sold together as a set and never stocked as such; its contents are picked from stock. If you put it together beforehand, choose “Built here”.",
  service: "Labour and the like: it has a cost but no stock.",
};

export const TRACKING_CHOICES: { value: Tracking; label: string }[] = [
  { value: "none", label: "None" },
  { value: "lot", label: "By lot" },
  { value: "serial", label: "By serial number" },
];

export const STATE_CHOICES: { value: ItemState; label: string }[] = [
  { value: "active", label: "In use" },
  { value: "phasing out", label: "Phasing out" },
  { value: "archived", label: "Archived" },
];

export const DRAWN_CHOICES: { value: DrawnAt; label: string }[] = [
  { value: "pick", label: "Before work" },
  { value: "finish", label: "When finished" },
];

export const LACK_WORDS: Record<Lack, string> = {
  cost: "a cost",
  rate: "a rate",
  supplier: "a supplier",
  list: "a parts list",
  contents: "its contents",
  price: "a price",
};
