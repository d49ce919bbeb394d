import type { ItemKind } from "@yosegi/core";

/** Each kind of item as a sentence says it. */
export const KIND_WORDS: Record<ItemKind, string> = {
  bought: "bought",
  built: "built here",
  service: "work",
};

/** The kinds as a person chooses among them. */
export const KIND_CHOICES: { value: ItemKind; label: string }[] = [
  { value: "bought", label: "Bought" },
  { value: "built", label: "Built here" },
  { value: "service", label: "Work (service)" },
];
