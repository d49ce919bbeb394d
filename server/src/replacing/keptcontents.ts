import { quantityToScaled } from "@yosegi/core";
import { asJson } from "../db/index.ts";
import type { KeptContent, StoredKit } from "../kits/index.ts";

/** What a replacement changes of a kit's contents. */
export const keptContents = (kit: StoredKit): KeptContent[] =>
  kit.contents.map(({ item, quantity, swaps }) => ({ item, quantity: quantityToScaled(quantity), swaps }));

/** The same as text, to be compared and brought back. */
export const keptText = (kit: StoredKit): string => asJson(keptContents(kit));
