import type { PickRound, PickStop } from "@yosegi/contract";
import type { PackScan, ScanResult } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

const CONFIRMED: Record<"bin" | "item" | "lot" | "serial", string> = {
  bin: "Right bin.",
  item: "Right item.",
  lot: "Lot scanned.",
  serial: "Serial number scanned.",
};

/** What a scan did, or what is wrong with it and what is expected. */
export function scanWords(result: ScanResult, code: string): string {
  if (result.ok) return result.what === "taken" ? "" : CONFIRMED[result.what];
  const { expected } = result;
  switch (result.why) {
    case "wrong bin":
      return `${code} is not where to go. Go to ${expected}.`;
    case "wrong item":
      return `${code} is not what to take here. Take ${expected}.`;
    case "wrong lot":
      return `Lot ${code} is not in this bin. Take lot ${expected}.`;
    case "other lot":
      return `Take lot ${expected}. To take ${code}, press Other and say why.`;
    case "wrong serial":
      return `Serial number ${code} is not in this bin. Take ${expected}.`;
    case "expired":
      return `${code} has expired. Take ${expected}.`;
    case "too many":
      return `Only ${expected} are needed. To take more, press Other.`;
    case "scan the lot first":
      return `Scan the lot first: ${expected}.`;
    case "scan the serial first":
      return `Scan the serial number first: ${expected}.`;
    case "scan the item first":
      return `Scan the bin or the item first: ${expected}.`;
    case "not known":
      return `${code} is nothing that is fetched here.`;
  }
}

/** For whom something is fetched at a stop: "4 for B-12, 2 for O-31". */
export const sharesWords = ({ shares, item }: PickStop, format: Format): string =>
  shares.length === 1 && shares[0]
    ? `for ${shares[0].number}`
    : format.list(
        shares.map(({ number, quantity }) => `${format.amount(quantity, item.unit)} for ${number}`),
      );

/** The lot or serial of a stop, with its expiry day; "" where it has none. */
export function pieceWords(
  { lot, serial, expiry }: Pick<PickStop, "lot" | "serial" | "expiry">,
  format: Format,
): string {
  if (serial !== "") return `serial ${serial}`;
  if (lot === "") return "";
  return expiry === null ? `lot ${lot}` : `lot ${lot}, use by ${format.day(expiry)}`;
}

/** What comes next for a document that is picked. */
export const NEXT: Record<PickRound["documents"][number]["next"], string> = {
  pick: "to be fetched",
  finish: "ready to finish",
  ship: "ready to ship",
  wait: "waits for goods",
  done: "nothing more to do",
  cancelled: "cancelled",
};

/** What a scan of packed goods came to. */
export function packWords(result: PackScan, code: string, format: Format): string {
  if (result.ok) {
    const { item, quantity, serial, lot } = result.piece;
    const what = [item.code, serial || lot].filter(Boolean).join(" ");
    return `${what}: ${format.amount(result.done.toFixed())} of ${format.amount(quantity)}`;
  }
  return {
    "not packed": `${code} is not packed for this order.`,
    "too many": "More than is packed. Count it again.",
    which: `Several lots of ${code} are packed: scan the lot.`,
    "scan it first": `Scan an item first, then how many of it: ${code}.`,
  }[result.why];
}
