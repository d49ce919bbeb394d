import { type AnswerOf, itemSheetRoutes, stockRoutes } from "@yosegi/contract";
import { useRef, useState } from "react";
import styled from "styled-components";
import { call } from "../api/index.ts";
import { useStoresOnceKnown } from "../fields/index.ts";
import type { FormState } from "../forms/index.ts";
import { ScanLine, ScanSaid, useFormat, useScanSaid, useScans } from "../ui/index.ts";
import {
  type BookDraft,
  type Booking,
  type BookLine,
  binNamed,
  filled,
  inBinNamed,
  type OpenBin,
  sentTo,
  withReceived,
  withScanned,
} from "./bookscan.ts";
import { shownStore } from "./shownstore.ts";

interface ScannerProps {
  kind: Booking;
  setLines: (change: (lines: BookLine[]) => BookLine[]) => void;
  form: FormState<BookDraft>;
}

const FIRST_SCAN: Record<Booking, string> = {
  move: "Scan a bin",
  scrap: "Scan a bin",
  receive: "Scan an item",
};

type Contents = AnswerOf<typeof stockRoutes.binContents>["contents"];

/** Takes scans, one after the other: a bin, what is in it or comes in, a quantity, the bin it goes to. */
export function BookScanner({ kind, setLines, form }: ScannerProps) {
  const format = useFormat();
  const storesOnceKnown = useStoresOnceKnown();
  const [said, say] = useScanSaid();
  const [open, setShown] = useState<(OpenBin & { contents: Contents }) | null>(null);
  // A scanner is faster than an answer: a scan waits for the one before it, and begins from what that came to.
  const now = useRef(open);
  const before = useRef(Promise.resolve());
  const setOpen = (bin: typeof open) => {
    now.current = bin;
    setShown(bin);
  };
  const lines = () => filled(form.methods.getValues("lines"));
  const onBin = async (bin: OpenBin) => {
    const unsent = lines().filter((line) => line.bin === "").length;
    if (kind !== "scrap" && unsent > 0) {
      setLines((now) => sentTo(now, bin));
      setOpen(null);
      return say(true, `${format.count(unsent, "line", "lines")} to ${bin.store} ${bin.bin}`);
    }
    if (kind === "receive") return say(false, `Scan what comes in first, then ${bin.bin}.`);
    const { contents } = await call(stockRoutes.binContents, {
      params: { id: bin.location },
      query: { bin: bin.bin },
    });
    setOpen({ ...bin, contents });
    say(true, `From ${bin.store} ${bin.bin}: ${format.count(contents.length, "item", "items")} there`);
  };
  const onTaken = (code: string) => {
    const from = now.current;
    if (!from) return say(false, `${code} isn't a bin. Scan the bin it is in first.`);
    const named = inBinNamed(code, from.contents);
    if (!named.found)
      return say(
        false,
        named.why === "which"
          ? `Several lots of ${code} are in ${from.bin}: scan the lot.`
          : `${code} is not in ${from.bin} by the books.`,
      );
    const { found } = named;
    setLines((own) => withScanned(own, kind, from, found));
    say(true, `${[found.item.code, found.serial || found.lot].filter(Boolean).join(" ")} from ${from.bin}`);
  };
  const onReceived = async (code: string, isNumber: boolean) => {
    const answer = await call(itemSheetRoutes.lookUp, { body: { codes: [code] } });
    const [item] = answer.items;
    if (item) {
      setLines((now) => withReceived(now, item));
      return say(true, `${item.code} comes in`);
    }
    if (isNumber && onQuantity(code)) return;
    // A code that is no item is the lot or serial number of what was scanned last.
    const last = lines().at(-1);
    const field = last?.item?.tracking === "serial" ? "serial" : "lot";
    if (!last?.item || last.item.tracking === "none" || last[field] !== "")
      return say(false, `${code} is neither an item nor a bin.`);
    setLines((now) => now.map((line) => (line === last ? { ...line, [field]: code } : line)));
    say(true, `${last.item.code}: ${field} ${code}`);
  };
  const onQuantity = (quantity: string): boolean => {
    const last = lines().at(-1);
    if (!last) return false;
    setLines((now) => now.map((line) => (line === last ? { ...line, quantity } : line)));
    say(true, format.amount(quantity, last.item?.unit ?? ""));
    return true;
  };
  const onScan = (code: string) => {
    const done = async () => {
      const bin = binNamed(code, await storesOnceKnown(), shownStore());
      if (bin) return onBin(bin);
      // A person's own codes may be digits: what names something here is that, and no quantity.
      const isNumber = /^\d{1,5}$/.test(code);
      if (kind === "receive") return onReceived(code, isNumber);
      const named = isNumber && now.current !== null && inBinNamed(code, now.current.contents).found;
      if (isNumber && !named && onQuantity(code)) return;
      onTaken(code);
    };
    before.current = before.current.then(done).catch((error: Error) => say(false, error.message));
  };
  useScans(onScan);
  return (
    <Narrow>
      <ScanLine placeholder={open ? `Scan what is in ${open.bin}` : FIRST_SCAN[kind]} onScan={onScan} />
      <ScanSaid said={said} />
    </Narrow>
  );
}

const Narrow = styled.div`
  max-width: 560px;
`;
