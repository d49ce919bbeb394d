import { type BuildSheet, buildRoutes, type FinishRecord } from "@yosegi/contract";
import { buildCost, type CostKind, decimal } from "@yosegi/core";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { LabelsButton } from "../labels/index.ts";
import {
  Actions,
  Button,
  CostBar,
  color,
  Dialog,
  Fact,
  Facts,
  type Format,
  Notice,
  Section,
  SheetTable,
  Short,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { Difference } from "./difference.tsx";
import { lineFigure, PartCell } from "./linecells.tsx";

const KIND_WORDS: Record<CostKind, string> = {
  parts: "Parts",
  work: "Work",
  overhead: "Overhead",
  extra: "Extra cost",
  subcontractor: "Subcontractor",
};

/** What a build took and cost over all its finishes: planned, actual and the difference, by part and by kind. */
export function CostSheet({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const finishes = build.finishes.filter((finish) => finish.undone === null);
  if (finishes.length === 0) return <Records build={build} />;
  const work = new Set(build.lines.filter((line) => line.service).map((line) => line.line));
  const cost = buildCost(finishes, work, build.price === null ? null : decimal(build.price));
  const { product } = build;
  const rows = cost.lines.flatMap((line) => {
    const kept = build.lines.find((l) => l.line === line.line);
    return kept ? [{ ...line, kept }] : [];
  });
  const kinds = cost.kinds.filter((kind) => !kind.actual.eq(0) || !kind.planned.eq(0));
  return (
    <>
      <Section
        title={`${format.amount(cost.good.toFixed(), product.unit)} finished for ${format.money(cost.total.actual.toFixed(4))}`}
        more={<LabelsButton build={build} />}
      >
        <Facts>
          {cost.each && (
            <Fact name="Unit cost">
              {format.unitCost(cost.each.toFixed(4))} each for {format.amount(cost.good.toFixed())}
            </Fact>
          )}
          {build.price && <Fact name="Price">{format.money(build.price)}</Fact>}
          {cost.margin && (
            <Fact name="Margin">
              {cost.margin.each.lt(0) ? (
                <Short>{marginWords(cost.margin, format)}</Short>
              ) : (
                marginWords(cost.margin, format)
              )}
            </Fact>
          )}
        </Facts>
        <SheetTable
          label="Cost sheet by part"
          rows={rows}
          rowId={({ kept }) => kept.line}
          columns={[
            {
              header: "Part",
              cell: ({ kept, scrapped }) => (
                <PartCell
                  line={kept}
                  more={scrapped.gt(0) ? `${lineFigure(kept, scrapped.toFixed(), format)} scrapped` : ""}
                />
              ),
            },
            {
              header: "Planned",
              end: true,
              cell: ({ kept, plannedQuantity }) => lineFigure(kept, plannedQuantity.toFixed(), format),
            },
            {
              header: "Used",
              end: true,
              cell: ({ kept, usedQuantity }) => lineFigure(kept, usedQuantity.toFixed(), format),
            },
            {
              header: "Difference",
              end: true,
              cell: ({ kept, quantityDifference, difference }) => (
                <Difference
                  line={kept}
                  quantity={quantityDifference.toFixed()}
                  money={difference.toFixed(4)}
                />
              ),
            },
            { header: "Cost", end: true, cell: (line) => format.money(line.actual.toFixed(4)) },
          ]}
        />
        <Kinds>
          <SheetTable
            label="Cost sheet by kind"
            rows={kinds}
            rowId={(kind) => kind.kind}
            columns={[
              { header: "Kind", cell: (kind) => KIND_WORDS[kind.kind] },
              { header: "Planned", end: true, cell: (kind) => format.money(kind.planned.toFixed(4)) },
              {
                header: "Difference",
                end: true,
                cell: (kind) =>
                  kind.difference.eq(0) ? "–" : format.moneyDifference(kind.difference.toFixed(4)),
              },
              { header: "Actual", end: true, cell: (kind) => format.money(kind.actual.toFixed(4)) },
            ]}
            sum={{
              words: `Planned ${format.money(cost.total.planned.toFixed(4))}`,
              figure: format.money(cost.total.actual.toFixed(4)),
            }}
          />
        </Kinds>
        <CostBar
          cost={Object.fromEntries(
            kinds.map((kind) => [KIND_WORDS[kind.kind].toLowerCase(), kind.actual.toFixed(4)]),
          )}
        />
      </Section>
      <Records build={build} />
    </>
  );
}

const marginWords = (
  { each, percent }: NonNullable<ReturnType<typeof buildCost>["margin"]>,
  format: Format,
): string => `${format.money(each.toFixed(4))}, ${format.percent(percent.toFixed())}`;

/** Finishes, latest first: when, by whom, where it went, and what was said of it. */
function Records({ build }: { build: BuildSheet }) {
  if (build.finishes.length === 0) return null;
  const last = build.finishes.findLast((finish) => finish.undone === null);
  return (
    <Section title="Finishes" more={<Link to={`/stock?document=${build.number}`}>movements</Link>}>
      <List>
        {build.finishes.toReversed().map((finish) => (
          <li key={finish.id} data-undone={finish.undone !== null || undefined}>
            <RecordWords build={build} finish={finish} />
            {finish === last && build.stage !== "cancelled" && <UndoButton build={build} finish={finish} />}
          </li>
        ))}
      </List>
    </Section>
  );
}

function RecordWords({ build, finish }: { build: BuildSheet; finish: FinishRecord }) {
  const format = useFormat();
  const lineOf = (line: number) => build.lines.find((l) => l.line === line);
  const scrapped = finish.lines.filter((line) => line.scrapped !== "0");
  const details = [
    finish.lot && `lot ${finish.lot}${finish.expiry ? `, use by ${format.day(finish.expiry)}` : ""}`,
    finish.serials.length > 0 && `serial numbers ${finish.serials.join(", ")}`,
    finish.rejected !== "0" && `${format.amount(finish.rejected)} rejected: ${finish.reason}`,
    ...scrapped.map((line) => {
      const kept = lineOf(line.line);
      return kept && `${lineFigure(kept, line.scrapped, format)} ${kept.item.name} scrapped: ${line.reason}`;
    }),
    ...finish.work.map(
      (entry) => `${entry.person} ${format.amount(entry.quantity, lineOf(entry.line)?.unit)}`,
    ),
    ...finish.counts.map(
      (count) =>
        `${count.item} counted ${format.difference(count.difference, 0)} ${count.unit}: ${count.reason}`,
    ),
    ...partsIn(finish),
  ].filter(Boolean);
  return (
    <div>
      <b>{format.amount(finish.good, build.product.unit)}</b> to {finish.store} {finish.bin},{" "}
      {format.day(finish.day)}, recorded {format.moment(finish.moment)} by {finish.person}
      {details.length > 0 && <small>{details.join(" · ")}</small>}
      {finish.undone && (
        <small>
          Undone {format.moment(finish.undone.moment)} by {finish.undone.person}
        </small>
      )}
    </div>
  );
}

/** "H-0001 with SC-2041", for each unit. */
function partsIn({ serialParts }: FinishRecord): string[] {
  const units = Map.groupBy(serialParts, (entry) => entry.serial);
  return [...units].map(([serial, parts]) => `${serial} with ${parts.map((p) => p.part).join(", ")}`);
}

/** Undoes the last finish, or all of them. */
function UndoButton({ build, finish }: { build: BuildSheet; finish: FinishRecord }) {
  const format = useFormat();
  const [asking, setAsking] = useState(false);
  const undo = useCommand(buildRoutes.undoFinish, () => {
    sayDone(`${build.number} is as it was before.`);
    setAsking(false);
  });
  const made = build.finishes.filter((f) => f.undone === null);
  const run = (all: boolean) => void undo.run({ params: { id: build.id }, body: { all } });
  return (
    <>
      <Button onPress={() => setAsking(true)}>Undo</Button>
      <Dialog
        title={`Undo the finish of ${format.amount(finish.good, build.product.unit)} of ${build.number}?`}
        isOpen={asking}
        onClose={() => setAsking(false)}
        width="500px"
      >
        {undo.refusal && <Notice>{undo.refusal.message}</Notice>}
        <p>
          The units are removed from {finish.store} {finish.bin}, and every part returns to the bin it came
          from at the same value. Both records are kept.
        </p>
        <Actions>
          <Button look="main" isPending={undo.busy} onPress={() => run(false)}>
            Undo this finish
          </Button>
          {made.length > 1 && (
            <Button isPending={undo.busy} onPress={() => run(true)}>
              Undo all {format.amount(build.good, build.product.unit)}
            </Button>
          )}
          <Button onPress={() => setAsking(false)}>Cancel</Button>
        </Actions>
      </Dialog>
    </>
  );
}

const Kinds = styled.div`
  margin: 14px 0 8px;
  max-width: 520px;
`;

const List = styled.ul`
  list-style: none;
  margin: 0;
  padding: 0;
  li {
    display: flex;
    gap: 14px;
    justify-content: space-between;
    align-items: flex-start;
    padding: 10px 0;
    border-top: 1px solid ${color.line};
  }
  small {
    display: block;
    color: ${color.ink2};
    font-size: 13.5px;
  }
  [data-undone] b {
    text-decoration: line-through;
  }
`;
