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
  { value: "service", label: "Work (service)" },
];

/** What each kind is for, so that the right one is chosen at once: it cannot be changed later. */
export const KIND_HELP: Record<ItemKind, string> = {
  bought: "Comes from a supplier and lies on a shelf, to be sold or to go into something else.",
  built:
    "Put together beforehand and stocked as one thing. It gets a parts list; building it takes the parts and adds it to stock.",
  kit: "Only named together when it is sold. It is never stocked: what is in it stays on the shelf until it is picked. If you put it together beforehand, choose “Built here”.",
  service: "Labour and the like: it costs, and is never stocked.",
};

export const TRACKING_CHOICES: { value: Tracking; label: string }[] = [
  { value: "none", label: "None" },
  { value: "lot", label: "By lot" },
  { value: "serial", label: "By serial number" },
];

export const STATE_CHOICES: { value: ItemState; label: string }[] = [
  { value: "active", label: "In use" },
  { value: "phasing out", label: "Running out: no longer bought" },
  { value: "archived", label: "Archived: offered nowhere" },
];

export const DRAWN_CHOICES: { value: DrawnAt; label: string }[] = [
  { value: "pick", label: "At pick" },
  { value: "finish", label: "At finish" },
];

export const LACK_WORDS: Record<Lack, string> = {
  cost: "a cost",
  rate: "a rate",
  supplier: "a supplier",
  list: "a parts list",
  contents: "its contents",
  price: "a price",
};
