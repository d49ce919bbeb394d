import type { CoverAnswer, PartCoverAnswer } from "@yosegi/contract";
import { besides, decimal, ownStrip, type Reach } from "@yosegi/core";
import { useMemo } from "react";
import styled from "styled-components";
import {
  Button,
  type Column,
  DataTable,
  type Format,
  Named,
  Short,
  type SpreadsheetOf,
  TARGET,
  TileStrip,
  TOUCH,
  useFormat,
} from "../ui/index.ts";
import { comingWords, TILES } from "./sentences.ts";

export interface PartsTableProps {
  cover: CoverAnswer;
  onlyShort: boolean;
  onOpen: (part: PartCoverAnswer) => void;
}

/** The figures behind the answer: each part with its need, its stock, what is on order, and how many it is enough for. */
export function PartsTable({ cover, onlyShort, onOpen }: PartsTableProps) {
  const format = useFormat();
  const columns = useMemo(() => columnsOf(cover, format, onOpen), [cover, format, onOpen]);
  const rows = onlyShort ? cover.parts.filter((part) => decimal(part.shortNow).gt(0)) : cover.parts;
  return (
    <DataTable
      label="Parts"
      rows={rows}
      columns={columns}
      columnsKeptAs="parts"
      spreadsheet={SPREADSHEET}
      rowId={(part) => part.id}
      onOpen={{ words: (part) => `More about ${part.name}`, open: onOpen }}
      isMarked={(part) => (part.limiting || part.shortTogether) && decimal(part.shortNow).gt(0)}
      empty={onlyShort ? "No part is short." : "Only work goes into this; no part limits it."}
    />
  );
}

const SPREADSHEET: SpreadsheetOf<PartCoverAnswer> = {
  name: "check",
  columns: [
    { header: "Part", value: (part) => part.code },
    { header: "Name", value: (part) => part.name },
    { header: "Unit", value: (part) => part.unit },
    { header: "Need", value: (part) => part.need },
    { header: "On hand", value: (part) => part.onHand },
    { header: "Reserved", value: (part) => part.reserved },
    { header: "Free", value: (part) => part.free },
    { header: "Incoming", value: (part) => part.incomingTotal },
    { header: "Short now", value: (part) => part.shortNow },
    { header: "Short on the day", value: (part) => part.shortOnDay },
    { header: "Left over", value: (part) => part.leftOver },
    { header: "Enough for", value: (part) => part.reach ?? "" },
  ],
};

type Figure =
  | "need"
  | "onHand"
  | "reserved"
  | "free"
  | "shortNow"
  | "shortOnDay"
  | "leftOver"
  | "incomingTotal";

function columnsOf(
  cover: CoverAnswer,
  format: Format,
  onOpen: PartsTableProps["onOpen"],
): Column<PartCoverAnswer>[] {
  const [only, ...others] = cover.demands;
  const single = others.length === 0 ? only : undefined;
  const figure = (text: string, part: PartCoverAnswer) =>
    `${format.quantity(text, part.decimals)} ${part.unit}`;
  const by = (of: Figure) => (a: PartCoverAnswer, b: PartCoverAnswer) => decimal(a[of]).cmp(decimal(b[of]));
  const amount = (
    id: Figure,
    header: string,
    cell: Column<PartCoverAnswer>["cell"],
  ): Column<PartCoverAnswer> => ({
    id,
    header,
    end: true,
    compare: by(id),
    cell,
  });
  const orNone = (text: string, part: PartCoverAnswer) => (text === "0" ? "–" : figure(text, part));
  return [
    {
      id: "part",
      header: "Part",
      width: "150px",
      compare: (a, b) => a.name.localeCompare(b.name),
      cell: (part) => (
        <Named
          name={part.name}
          to={`/catalog/${part.id}`}
          more={[part.code, part.bin, part.canBeBuilt ? "can be built" : ""]}
        />
      ),
    },
    {
      id: "reach",
      header: "Enough for",
      compare: (a, b) => decimal(a.shortNow).cmp(decimal(b.shortNow)),
      cell: (part) => (
        <Strips>
          <Strip part={part} wanted={single?.wanted ?? null} format={format} />
        </Strips>
      ),
    },
    amount("need", "Need", (part) => figure(part.need, part)),
    amount("onHand", "On hand", (part) => (
      <>
        {part.stocked ? figure(part.onHand, part) : "not stock-tracked"}
        {part.expired !== "0" && <small>{format.amount(part.expired, part.unit)} expired</small>}
      </>
    )),
    amount("reserved", "Reserved", (part) =>
      part.reserved === "0" ? (
        "–"
      ) : (
        <Inline look="link" aria-label={`${part.name}: reserved for whom`} onPress={() => onOpen(part)}>
          {figure(part.reserved, part)}
        </Inline>
      ),
    ),
    amount("free", "Free", (part) => (part.stocked ? <b>{figure(part.free, part)}</b> : "–")),
    amount("incomingTotal", "Incoming", (part) => (
      <>
        {orNone(part.incomingTotal, part)}
        <small>{comingWords(part, format)}</small>
      </>
    )),
    amount("shortNow", "Short now", (part) =>
      part.shortNow === "0" ? (
        "–"
      ) : (
        <>
          <Short>{figure(part.shortNow, part)}</Short>
          {part.shortTogether && <small>only combined</small>}
        </>
      ),
    ),
    // Without a wanted day there is none to be short on.
    ...(cover.demands.some((d) => d.day !== null)
      ? [
          amount("shortOnDay", "On the day", (part) =>
            part.shortOnDay === "0" ? "–" : <Short>{figure(part.shortOnDay, part)}</Short>,
          ),
        ]
      : []),
    amount("leftOver", "Left over", (part) => orNone(part.leftOver, part)),
    {
      id: "orderBy",
      header: "Available",
      width: "164px",
      compare: (a, b) => (a.day ?? "9999").localeCompare(b.day ?? "9999"),
      cell: (part) => <There part={part} format={format} />,
    },
  ];
}

interface StripProps {
  part: PartCoverAnswer;
  /** Units of the one product; null where several are asked for, so that the strip counts the part itself. */
  wanted: string | null;
  format: Format;
}

function Strip({ part, wanted, format }: StripProps) {
  if (wanted === null) return <OwnStrip part={part} format={format} />;
  const words = reachWords(part, wanted, format);
  const coming = besides(reachOf(part.reach), reachOf(part.reachInTime));
  return (
    <>
      <TileStrip wanted={wanted} there={part.reach} coming={coming.toFixed()} says={words} most={TILES} />
      <small>{words}</small>
    </>
  );
}

const reachOf = (text: string | null): Reach => (text === null ? "no limit" : decimal(text));

/** How much of the part's need is covered by free stock and by what is on order. */
function OwnStrip({ part, format }: { part: PartCoverAnswer; format: Format }) {
  const { there, coming } = ownStrip({
    need: decimal(part.need),
    shortNow: decimal(part.shortNow),
    shortOnDay: decimal(part.shortOnDay),
  });
  const words = `${format.amount(there.toFixed())} of ${format.amount(part.need, part.unit)}`;
  return (
    <>
      <TileStrip
        wanted={part.need}
        there={there.toFixed()}
        coming={coming.toFixed()}
        says={words}
        most={TILES}
      />
      <small>{words}</small>
    </>
  );
}

/** When a part is there, and what has to be done for it. */
function There({ part, format }: { part: PartCoverAnswer; format: Format }) {
  const { today } = format.settings;
  if (!part.stocked) return "–";
  const late = part.orderBy !== null && part.orderBy < today;
  const act = [
    part.orderBy &&
      `${part.canBeBuilt ? "build" : "order"} by ${format.day(part.orderBy)}${late ? ", late" : ""}`,
    part.tooLate.length > 0 && `ask for ${part.tooLate.map((t) => t.document).join(", ")} earlier`,
    part.freshDay && `if ordered today: ${format.day(part.freshDay)}`,
  ].filter(Boolean);
  return (
    <>
      {part.day === null ? <Short>unknown</Short> : part.day === today ? "today" : format.day(part.day)}
      <Act $late={late}>{act.join(" · ")}</Act>
      {part.supplier && part.shortNow !== "0" && <small>{part.supplier.name}</small>}
    </>
  );
}

function reachWords(part: PartCoverAnswer, wanted: string, format: Format): string {
  if (part.reach === null) return "no limit";
  if (decimal(part.reach).gte(wanted)) return `for ${format.amount(part.reach)}`;
  const now = `for ${format.amount(part.reach)} of ${format.amount(wanted)}`;
  if (part.reachInTime === null || decimal(part.reachInTime).lte(part.reach)) return now;
  return decimal(part.reachInTime).gte(wanted)
    ? `${now}, all in time`
    : `${now}, ${format.amount(part.reachInTime)} in time`;
}

const Strips = styled.div`
  white-space: nowrap;
`;
const Inline = styled(Button)`
  padding: 0;
  font-weight: 400;
  && {
    min-height: 0;
  }
  ${TOUCH} {
    && {
      min-height: ${TARGET};
      margin-block: -11px;
    }
  }
`;
const Act = styled.small<{ $late: boolean }>`
  white-space: normal;
  ${({ $late }) => $late && "&& { color: var(--lacquer); font-weight: 600; }"}
`;
