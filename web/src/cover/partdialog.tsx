import type { CoverQuestion, PartCoverAnswer, PartTimeline } from "@yosegi/contract";
import { daysBetween } from "@yosegi/core";
import { Link } from "react-router";
import { Unanswered } from "../api/index.ts";
import { useItem } from "../fields/index.ts";
import { Dialog, type Format, Section, SheetTable, Short, StepChart, Sub, useFormat } from "../ui/index.ts";
import { useTimeline } from "./queries.ts";

export interface PartDialogProps {
  part: PartCoverAnswer | null;
  question: CoverQuestion | null;
  onClose: () => void;
}

/** One part of a check: its stock day by day, who holds what of it, and what comes. */
export function PartDialog({ part, question, onClose }: PartDialogProps) {
  return (
    <Dialog
      title={part?.name ?? ""}
      isOpen={part !== null && question !== null}
      onClose={onClose}
      width="860px"
    >
      {part && question && <Inside part={part} question={question} />}
    </Dialog>
  );
}

function Inside({ part, question }: { part: PartCoverAnswer; question: CoverQuestion }) {
  const format = useFormat();
  const { data, error } = useTimeline(question, part.id);
  const item = useItem(part.id).data;
  if (!data) return <Unanswered error={error} />;
  return (
    <>
      <Sub>{headline(data, format)}</Sub>
      <StockChart line={data} />
      <Events line={data} />
      {item && item.reservedBy.length > 0 && (
        <Section title="Reserved for">
          <SheetTable
            label="Reserved for"
            rows={item.reservedBy}
            rowId={(r) => r.number}
            columns={[
              {
                header: "Build or order",
                cell: (r) => (
                  <Link to={r.build === null ? `/orders/${r.order}` : `/builds/${r.build}`}>{r.number}</Link>
                ),
              },
              { header: "Quantity", end: true, cell: (r) => format.amount(r.quantity, part.unit) },
            ]}
          />
        </Section>
      )}
    </>
  );
}

function headline(line: PartTimeline, format: Format): string {
  const level =
    line.level === null ? "no reorder level" : `reorder level ${format.amount(line.level, line.item.unit)}`;
  if (line.firstBelowZero) return `Runs out on ${format.day(line.firstBelowZero)}; ${level}.`;
  if (line.firstBelowLevel)
    return `First below its reorder level on ${format.day(line.firstBelowLevel)}; ${level}.`;
  return `Doesn't run out, as far as we know today; ${level}.`;
}

const LEAST_DAYS = 14;

/** Stock over the coming weeks as steps, with the reorder level as a line across. */
function StockChart({ line }: { line: PartTimeline }) {
  const format = useFormat();
  const { today } = format.settings;
  const at = (day: string) => daysBetween(today, day);
  const last = at(line.days.at(-1)?.day ?? today);
  return (
    <StepChart
      says={`Stock of ${line.item.name}: ${line.days.map((d) => `${format.day(d.day)} ${format.amount(d.stock, line.item.unit)}`).join(", ")}`}
      steps={line.days.map((d) => ({
        at: at(d.day),
        value: d.stock,
        says: [
          format.amount(d.stock, line.item.unit),
          ...d.events.map(
            (e) => `${format.difference(e.change, line.item.decimals)} ${e.document || "this check"}`,
          ),
        ],
      }))}
      level={line.level}
      until={Math.max(LEAST_DAYS, last + 3)}
      dayWords={(n) => format.dayIn(n)}
      unit={line.item.unit}
    />
  );
}

function Events({ line }: { line: PartTimeline }) {
  const format = useFormat();
  const rows = [
    ...line.days.flatMap((d) =>
      d.events.map((event) => ({ ...event, day: d.day as string | null, stock: d.stock })),
    ),
    ...line.undated.map((event) => ({ ...event, day: null, stock: "" })),
  ].map((row, place) => ({ ...row, place }));
  if (rows.length === 0) return <Sub>Nothing comes and nothing is needed in the coming weeks.</Sub>;
  const { unit, decimals } = line.item;
  return (
    <Section title="Coming up">
      <SheetTable
        label="Coming up"
        rows={rows}
        rowId={(row) => row.place}
        columns={[
          { header: "Day", cell: (row) => (row.day === null ? "no date" : format.day(row.day)) },
          {
            header: "What",
            cell: (row) =>
              row.purchase !== null ? (
                <Link to={`/buying/${row.purchase}`}>{row.document}</Link>
              ) : row.build !== null ? (
                <Link to={`/builds/${row.build}`}>{row.document}</Link>
              ) : row.order !== null ? (
                <Link to={`/orders/${row.order}`}>{row.document}</Link>
              ) : (
                "this check"
              ),
          },
          {
            header: "Change",
            end: true,
            cell: (row) => `${format.difference(row.change, decimals)} ${unit}`,
          },
          {
            header: "Balance",
            end: true,
            cell: (row) => {
              if (row.stock === "") return "–";
              const words = `${format.quantity(row.stock, decimals)} ${unit}`;
              return row.stock.startsWith("-") ? <Short>{words}</Short> : words;
            },
          },
        ]}
      />
    </Section>
  );
}
