import type { CoverAnswer, PartCheckAnswer } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useMemo } from "react";
import { Link } from "react-router";
import { type Column, DataTable, type Format, Short, TileStrip, useFormat } from "../ui/index.ts";

/** The proof of the answer: every part with its need, what there is of it, and how far it reaches. */
export function PartsTable({ cover }: { cover: CoverAnswer }) {
  const format = useFormat();
  const columns = useMemo(() => columnsOf(cover.wanted, format), [cover.wanted, format]);
  return (
    <DataTable
      label="Parts"
      rows={cover.parts}
      columns={columns}
      rowId={(part) => part.id}
      isMarked={(part) => part.limiting && decimal(part.short).gt(0)}
      empty="Only work goes into this; no part limits it."
    />
  );
}

function columnsOf(wanted: string, format: Format): Column<PartCheckAnswer>[] {
  const figure = (text: string, part: PartCheckAnswer) =>
    `${format.quantity(text, part.decimals)} ${part.unit}`;
  const by = (of: (part: PartCheckAnswer) => string) => (a: PartCheckAnswer, b: PartCheckAnswer) =>
    decimal(of(a)).cmp(decimal(of(b)));
  return [
    {
      id: "part",
      header: "Part",
      compare: (a, b) => a.name.localeCompare(b.name),
      cell: (part) => (
        <>
          <Link to={`/catalog/${part.id}`}>{part.name}</Link>
          <small>
            {[part.code, part.bin, part.canBeBuilt ? "can be built" : ""].filter(Boolean).join(" · ")}
          </small>
        </>
      ),
    },
    {
      id: "reach",
      header: "Reaches",
      // no limit reaches furthest
      compare: (a, b) =>
        a.reach === null || b.reach === null
          ? Number(a.reach === null) - Number(b.reach === null)
          : decimal(a.reach).cmp(decimal(b.reach)),
      cell: (part) => (
        <>
          <TileStrip wanted={wanted} there={part.reach} says={reachWords(part, wanted, format)} />
          <small>{reachWords(part, wanted, format)}</small>
        </>
      ),
    },
    {
      id: "need",
      header: "Need",
      end: true,
      compare: by((p) => p.need),
      cell: (part) => figure(part.need, part),
    },
    {
      id: "onHand",
      header: "On hand",
      end: true,
      compare: by((p) => p.onHand),
      cell: (part) => (
        <>
          {part.stocked ? figure(part.onHand, part) : "not counted"}
          {part.expired !== "0" && <small>{format.amount(part.expired, part.unit)} expired</small>}
        </>
      ),
    },
    {
      id: "reserved",
      header: "Reserved",
      end: true,
      compare: by((p) => p.reserved),
      cell: (part) => (
        <>
          {part.reserved === "0" ? "–" : figure(part.reserved, part)}
          <small>
            {part.reservedBy.map((r, i) => (
              <span key={r.build}>
                {i > 0 && ", "}
                <Link to={`/builds/${r.build}`}>{r.number}</Link>
              </span>
            ))}
          </small>
        </>
      ),
    },
    {
      id: "free",
      header: "Free",
      end: true,
      compare: by((p) => p.free),
      cell: (part) => (part.stocked ? <b>{figure(part.free, part)}</b> : "–"),
    },
    {
      id: "short",
      header: "Short",
      end: true,
      compare: by((p) => p.short),
      cell: (part) => (part.short === "0" ? "–" : <Short>{figure(part.short, part)}</Short>),
    },
  ];
}

function reachWords(part: PartCheckAnswer, wanted: string, format: Format): string {
  if (part.reach === null) return "no limit";
  if (decimal(part.reach).gte(wanted)) return `for ${format.amount(part.reach)}`;
  return `for ${format.amount(part.reach)} of ${format.amount(wanted)}`;
}
