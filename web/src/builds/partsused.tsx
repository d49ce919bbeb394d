import type { BuildSheet, FinishPreview } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { MoreHorizontal, X } from "lucide-react";
import styled from "styled-components";
import { QuantityField } from "../fields/index.ts";
import { Button, type Format, NARROW, Named, SheetTable, useFormat } from "../ui/index.ts";
import { Difference } from "./difference.tsx";
import { type FinishDraft, type LineDraft, PLAIN, removeExtra, setLine } from "./finishdraft.ts";
import { type BuildLine, lineFigure, listedWords, PartCell } from "./linecells.tsx";

type PreviewLine = FinishPreview["lines"][number];

/** A row of the table: a line of the build, or a part that is added to it. */
interface UsedRow {
  key: string;
  line: Pick<BuildLine, "service" | "unit" | "decimals" | "item">;
  /** null for a part that is added. */
  kept: BuildLine | null;
  extra: number;
  said: LineDraft;
  planned: string;
  figures: PreviewLine | undefined;
}

export interface PartsUsedProps {
  build: BuildSheet;
  draft: FinishDraft;
  preview: FinishPreview | undefined;
  onChange: (draft: FinishDraft) => void;
  errorOf: (path: string, item: number) => string | undefined;
  /** Opens what else can be said of a line. */
  onMore: (line: BuildLine) => void;
}

function rowsOf({ build, draft, preview }: PartsUsedProps): UsedRow[] {
  const own = build.lines.map((kept): UsedRow => {
    const figures = preview?.lines.find((l) => l.line === kept.line);
    const said = draft.lines.get(kept.line) ?? PLAIN;
    return {
      key: `line ${kept.line}`,
      line: kept,
      kept,
      extra: -1,
      said,
      planned: figures?.planned ?? "",
      figures,
    };
  });
  const last = Math.max(0, ...build.lines.map((l) => l.line));
  const added = draft.extra.map((said, extra): UsedRow => {
    const { item } = said;
    const line = { item, service: item.kind === "service", unit: item.unit, decimals: item.decimals };
    const figures = preview?.lines.find((l) => l.line === last + 1 + extra && l.item === item.id);
    return { key: `extra ${extra}`, line, kept: null, extra, said, planned: "0", figures };
  });
  // A substitute is listed under the part it replaces, an extra part at the end.
  return [
    ...own.flatMap((row) => [
      row,
      ...added.filter((a) => draft.extra[a.extra]?.insteadOf === row.kept?.line),
    ]),
    ...added.filter((a) => draft.extra[a.extra]?.insteadOf === null),
  ];
}

/** Planned and used quantity of each part, recalculated while typing. */
export function PartsUsed(props: PartsUsedProps) {
  const { build, draft, preview, onChange, errorOf, onMore } = props;
  const format = useFormat();
  const benched = build.lines.some((line) => line.bench !== "0");
  const lines = [...draft.lines.keys()];
  const pathOf = ({ kept, extra }: UsedRow) =>
    kept === null ? `extra.${extra}` : `lines.${lines.indexOf(kept.line)}`;
  const error = (row: UsedRow) => errorOf(pathOf(row), row.line.item.id);
  const setUsed = ({ kept, extra, planned }: UsedRow, used: string) =>
    onChange(
      kept === null
        ? { ...draft, extra: draft.extra.map((e, i) => (i === extra ? { ...e, used } : e)) }
        : setLine(draft, kept.line, { used }, planned),
    );
  return (
    <SheetTable
      label="Parts used"
      rows={rowsOf(props)}
      rowId={(row) => row.key}
      columns={[
        {
          header: "Part",
          cell: (row) =>
            row.kept === null ? (
              <Named
                name={row.line.item.name}
                to={`/catalog/${row.line.item.id}`}
                more={[
                  row.line.item.code,
                  addedWords(row, props),
                  row.figures && takenWords(row.figures, format),
                ]}
              />
            ) : (
              <PartCell line={row.kept} more={moreWords(row, build, format)} />
            ),
        },
        {
          header: "Planned",
          end: true,
          cell: ({ line, planned }) => (planned === "" ? "–" : lineFigure(line, planned, format)),
        },
        ...(benched
          ? [
              {
                header: build.subcontractor ? "At the subcontractor" : "On the bench",
                end: true,
                cell: ({ kept }: UsedRow) =>
                  kept === null || kept.bench === "0" ? "–" : lineFigure(kept, kept.bench, format),
              },
            ]
          : []),
        {
          header: "On hand",
          end: true,
          cell: ({ kept }) => {
            if (kept === null) return "";
            if (kept.onHand !== null) return lineFigure(kept, kept.onHand, format);
            return kept.service ? "work" : "not stock-tracked";
          },
        },
        {
          header: "Used",
          end: true,
          isField: true,
          cell: (row) => (
            <Cell>
              <QuantityField
                packs={row.line.item.packs}
                label={`Used of ${row.line.item.code}`}
                hideLabel
                width="128px"
                unit={row.line.unit}
                value={row.said.used ?? row.planned}
                onChange={(quantity) => setUsed(row, quantity)}
                error={error(row)}
              />
            </Cell>
          ),
        },
        {
          header: "Difference",
          end: true,
          cell: (row) =>
            row.figures &&
            !error(row) && (
              <Difference
                line={row.line}
                quantity={row.figures.difference}
                money={row.figures.differenceCost}
              />
            ),
        },
        {
          header: "Cost",
          end: true,
          cell: (row) => (row.figures && preview?.cost && !error(row) ? format.money(row.figures.cost) : "–"),
        },
        {
          header: "",
          cell: (row) => (
            <RowButton row={row} onRemove={() => onChange(removeExtra(draft, row.extra))} onMore={onMore} />
          ),
        },
      ]}
    />
  );
}

interface RowButtonProps {
  row: UsedRow;
  onRemove: () => void;
  onMore: (line: BuildLine) => void;
}

/** What was added can be removed; of a stocked part of the build there is more to say. */
function RowButton({ row: { kept, line }, onRemove, onMore }: RowButtonProps) {
  if (kept === null)
    return (
      <Button look="icon" aria-label={`Remove ${line.item.code}`} onPress={onRemove}>
        <X />
      </Button>
    );
  if (!kept.stocked) return null;
  return (
    <Button look="icon" aria-label={`More of ${line.item.code}`} onPress={() => onMore(kept)}>
      <MoreHorizontal />
    </Button>
  );
}

function moreWords({ kept, said, figures }: UsedRow, build: BuildSheet, format: Format): string {
  if (!kept) return "";
  return [
    listedWords(build, kept, format),
    figures && takenWords(figures, format),
    said.scrapped !== "0" && said.scrapped !== "" && `${format.amount(said.scrapped, kept.unit)} scrapped`,
    figures && decimal(figures.back).gt(0) && `${format.amount(figures.back, kept.unit)} returned`,
  ]
    .filter(Boolean)
    .join(" · ");
}

function addedWords({ extra }: UsedRow, { build, draft }: PartsUsedProps): string {
  const instead = build.lines.find((line) => line.line === draft.extra[extra]?.insteadOf);
  return instead ? `instead of ${instead.item.code}` : "not on the list";
}

/** Which lots and serials would be taken, where that is told. */
function takenWords(line: PreviewLine, format: Format): string {
  const named = line.taken.flatMap((t) => (t.lot ? [`lot ${t.lot}`] : t.serial ? [t.serial] : []));
  return named.length === 0 ? "" : `from ${format.list([...new Set(named)])}`;
}

const Cell = styled.div`
  display: flex;
  justify-content: flex-end;
  text-align: left;
  ${NARROW} {
    justify-content: flex-start;
  }
`;
