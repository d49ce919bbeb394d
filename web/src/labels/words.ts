import type { Label } from "@yosegi/contract";

export const SHAPE_WORDS: Record<Label["shape"], string> = { "code 128": "Code 128 (bars)", qr: "QR code" };

/** How many labels come out of the printer: each as often as it has copies. */
export function copiesOf(labels: readonly Pick<Label, "copies">[]): number {
  return labels.reduce((count, label) => count + label.copies, 0);
}
