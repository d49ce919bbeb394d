import type { PurchaseLine, PurchaseRow, ReceiveBody, ReorderRow } from "@yosegi/contract";
import { type Day, decimal, expiryOf } from "@yosegi/core";
import { rateBody } from "../fields/index.ts";
import type { Format } from "../ui/index.ts";

export type PurchaseGroup = "Overdue" | "Drafts" | "On the way" | "Received" | "Cancelled";

/** Under which heading an order stands in the list. */
export function groupOf({ stage, expected }: PurchaseRow, today: Day): PurchaseGroup {
  switch (stage) {
    case "draft":
      return "Drafts";
    case "received":
      return "Received";
    case "cancelled":
      return "Cancelled";
    default:
      return expected !== null && expected < today ? "Overdue" : "On the way";
  }
}

/** How a line is ordered: "3 × pack of 50 pc". */
export function orderedWords(line: Pick<PurchaseLine, "pack" | "quantity" | "item">, format: Format): string {
  const { pack, item } = line;
  if (pack === null) return format.amount(line.quantity, item.unit);
  return `${format.amount(pack.count)} × ${pack.name} of ${format.amount(pack.size, item.unit)}`;
}

export const ACT_WORDS: Record<ReorderRow["act"], string> = {
  order: "order",
  build: "build",
  "bring forward": "ask for earlier delivery",
  "nothing known": "no supplier or parts list",
};

/** One lot of what came; where there is only one, it is all of it. */
export interface LotDraft {
  lot: string;
  expiry: string;
  quantity: string;
}

/** What came of one line, as it is typed. */
export interface CameDraft {
  line: number;
  quantity: string;
  price: string;
  pricePer: string;
  bin: string;
  store: string;
  lots: LotDraft[];
  /** Serial numbers, one a line. */
  /** Of all units by serial number. */
  expiry: string;
  /** Of all lots or units. */
  madeOn: string;
  serials: string;
  close: boolean;
}

/** What is offered for a line: all that is still to come, at the price ordered, to its home bin. */
export const cameOf = (line: PurchaseLine, today: Day): CameDraft => ({
  line: line.id,
  quantity: line.open,
  price: line.price,
  pricePer: line.pricePer,
  bin: line.bin,
  store: line.store,
  lots: [lotOf(line, today)],
  expiry: "",
  madeOn: "",
  serials: "",
  close: false,
});

/** A lot that nothing is said of yet; it expires as the item's shelf life has it. */
export const lotOf = ({ shelfLife }: Pick<PurchaseLine, "shelfLife">, today: Day): LotDraft => ({
  lot: "",
  quantity: "",
  expiry: expiryOf(today, shelfLife) ?? "",
});

/** Whether something of a line came, or nothing more is expected of it. */
export const isReceived = (draft: CameDraft): boolean => draft.close || !isZero(draft.quantity);

/** What is sent for what was typed; a line of which nothing came and nothing is closed is left out. */
export function receiveLines(
  drafts: readonly CameDraft[],
  lines: readonly PurchaseLine[],
): ReceiveBody["lines"] {
  return drafts.filter(isReceived).map((draft) => {
    const nothing = isZero(draft.quantity);
    const tracking = lines.find((l) => l.id === draft.line)?.item.tracking;
    return {
      line: draft.line,
      quantity: nothing ? "0" : draft.quantity,
      store: draft.store,
      bin: draft.bin,
      close: draft.close,
      ...rateBody(draft.price, draft.pricePer),
      lots: tracking === "lot" && !nothing ? lotsOf(draft) : [],
      serials: tracking === "serial" && !nothing ? serialsIn(draft.serials) : [],
      expiry: dayOrNull(tracking === "serial" ? draft.expiry : ""),
      madeOn: dayOrNull(draft.madeOn),
    };
  });
}

const dayOrNull = (typed: string): string | null => (typed === "" ? null : typed);

const lotsOf = ({ lots, quantity }: CameDraft) =>
  lots.map((l) => ({
    lot: l.lot,
    expiry: dayOrNull(l.expiry),
    quantity: lots.length === 1 ? quantity : l.quantity,
  }));

const isZero = (text: string): boolean =>
  /^0*(\.0*)?$/.test(text) && decimal(text === "" || text === "." ? "0" : text).eq(0);

/** Serial numbers as they are typed, pasted or scanned: one a line, or with commas between. */
export const serialsIn = (text: string): string[] =>
  text
    .split(/[\n,;\t]+/)
    .map((serial) => serial.trim())
    .filter(Boolean);
