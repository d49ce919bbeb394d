import { NOTHING_CHECKED, type PackChecked, packScan } from "@yosegi/core";
import { useState } from "react";
import { type Format, ScanLine, ScanSaid, useFormat, useScanSaid } from "../ui/index.ts";
import { missingAfter, piecesOf, type ScannedPart } from "./missingafter.ts";

type Result = ReturnType<typeof packScan>["result"];

function wordsOf(result: Result, code: string, format: Format): string {
  if (result.ok) {
    const { item, quantity, serial, lot } = result.piece;
    const what = [item.code, serial || lot].filter(Boolean).join(" ");
    return `${what}: ${format.amount(result.done.toFixed())} of ${format.amount(quantity)} good`;
  }
  return {
    "not packed": `${code} was not expected inside. Add it below.`,
    "too many": "More than is expected. Count it again, or correct what is expected.",
    which: `Several lots of ${code} are inside: scan the lot.`,
    "scan it first": `Scan a part first, then how many of it: ${code}.`,
  }[result.why];
}

interface ScanPartsProps {
  parts: readonly ScannedPart[];
  /** What is missing of each part now, by its place. */
  onMissing: (missing: readonly string[]) => void;
}

/** At the bench: the good parts are scanned as they come out; what was not scanned is missing. */
export function ScanParts({ parts, onMissing }: ScanPartsProps) {
  const format = useFormat();
  const [checked, setChecked] = useState<PackChecked>(NOTHING_CHECKED);
  const [said, say] = useScanSaid();
  const onScan = (code: string) => {
    const { checked: next, result } = packScan(piecesOf(parts), checked, code);
    say(result.ok, wordsOf(result, code, format));
    if (!result.ok) return;
    setChecked(next);
    onMissing(missingAfter(parts, next));
  };
  return (
    <div>
      <ScanLine placeholder="Scan the good parts" onScan={onScan} />
      <ScanSaid said={said} />
    </div>
  );
}
