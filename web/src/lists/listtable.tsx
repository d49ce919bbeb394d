import type { ItemSheet, PartsListAnswer } from "@yosegi/contract";
import { isStocked } from "@yosegi/core";
import { CostBar, Named, SheetTable, Short, Sub, useFormat, Written } from "../ui/index.ts";

/** What goes into one batch, and what it is expected to cost. */
export function PartsListTable({ item, list }: { item: ItemSheet; list: PartsListAnswer }) {
  const format = useFormat();
  const { materials, work, overhead, extra, each, unknown } = list.expected;
  return (
    <>
      <Sub>
        Revision {list.revision.number}, {list.revision.state}. One batch makes{" "}
        {format.amount(list.makes, item.unit)}
        {list.yield !== "100" && `, of which ${format.percent(list.yield)} come out good`}. Expected to cost{" "}
        {format.unitCost(each)} per {item.unit} when {format.amount(list.usual)} are built
        {unknown.length > 0 && `, without ${format.list(unknown)}: no cost yet`}.
      </Sub>
      <SheetTable
        label="Parts list"
        rows={list.lines}
        rowId={(line) => line.line}
        columns={[
          {
            header: "Part",
            cell: ({ part, ...line }) => (
              <Named name={part.name} to={`/catalog/${part.id}`} more={[part.code, lineWords(line)]} />
            ),
          },
          { header: "A batch", end: true, cell: (line) => format.amount(line.quantity, line.unit) },
          { header: "Waste", end: true, cell: ({ waste }) => (waste === "0" ? "–" : format.percent(waste)) },
          {
            header: "Unit cost",
            end: true,
            cell: ({ part }) =>
              part.unitCost ? `${format.unitCost(part.unitCost)} / ${part.unit}` : <Short>none yet</Short>,
          },
          {
            header: "Free",
            end: true,
            cell: ({ part }) => (isStocked(part) ? format.amount(part.free, part.unit) : "–"),
          },
        ]}
      />
      {list.instructions !== "" && <Written>{list.instructions}</Written>}
      <CostBar
        of={`${format.amount(list.usual, item.unit)}:`}
        cost={{ materials, work, overhead, ...(extra !== "0.0000" && { extra }) }}
      />
    </>
  );
}

/** What is said of a line beside its quantity. */
function lineWords(line: Omit<PartsListAnswer["lines"][number], "part">): string {
  const words = [
    line.oncePerBuild && "once per build",
    line.optional && "optional",
    line.drawnAt === "finish" && "drawn at finish",
    line.store && `from ${line.store}`,
    line.person && `by ${line.person}`,
    line.substitutes.length > 0 && `or ${line.substitutes.map((s) => s.item).join(", ")}`,
    line.note,
  ];
  return words.filter(Boolean).join(" · ");
}
