import type { Label } from "@yosegi/contract";

/** How many labels come out of the printer: each as often as it has copies. */
export function copiesOf(labels: readonly Pick<Label, "copies">[]): number {
  return labels.reduce((count, label) => count + label.copies, 0);
}
