import type { ComparisonAnswer, ItemSheet, ListLineAnswer } from "@yosegi/contract";
import type { HeadField, LineField } from "@yosegi/core";
import { Link } from "react-router";
import styled from "styled-components";
import { Unanswered } from "../api/index.ts";
import { DRAWN_CHOICES } from "../items/index.ts";
import {
  color,
  Facts,
  type Format,
  Large,
  Named,
  Section,
  SheetTable,
  Sub,
  useAddress,
  useFormat,
  Written,
} from "../ui/index.ts";
import { useComparison } from "./queries.ts";
import { FIELD_WORDS } from "./words.ts";

/** What changed from one revision to another: in a sentence, then line by line with the effect on cost. */
export function CompareView({ item }: { item: ItemSheet }) {
  const address = useAddress();
  const format = useFormat();
  const { data, error } = useComparison(Number(address.get("from")), Number(address.get("to")));
  if (!data) return <Unanswered error={error} shape="sheet" />;
  const { before, after } = data;
  const [from, to] = [before.revision.number, after.revision.number];
  return (
    <article>
      <h1>{sentence(data, format)}</h1>
      <Sub>
        <Link to={`/catalog/${item.id}/lists`}>{item.name}</Link> · {after.name} · revision {from} against
        revision {to}, at today's cost
      </Sub>
      <Facts>
        <div>
          <dt>Revision {from}</dt>
          <dd>{format.unitCost(before.expected.each)} each</dd>
        </div>
        <div>
          <dt>Revision {to}</dt>
          <dd>
            <Large>{format.unitCost(after.expected.each)} each</Large>
          </dd>
        </div>
      </Facts>
      {data.head.length > 0 && (
        <SheetTable
          label="The list itself"
          rows={data.head}
          rowId={(field) => field}
          columns={[
            { header: "The list itself", cell: (field) => FIELD_WORDS[field] },
            { header: `Revision ${from}`, cell: (field) => headText(before, field, item, format) },
            { header: `Revision ${to}`, cell: (field) => headText(after, field, item, format) },
          ]}
        />
      )}
      {data.instructions &&
        [before, after].map(({ revision, instructions }) => (
          <Section key={revision.id} title={`Instructions, revision ${revision.number}`}>
            <Written>{instructions === "" ? "none" : instructions}</Written>
          </Section>
        ))}
      <SheetTable
        label="Changed lines"
        rows={data.lines.map((line, key) => ({ ...line, key }))}
        rowId={(line) => line.key}
        columns={[
          {
            header: "",
            cell: (line) => <Mark $what={whatOf(line)}>{whatOf(line)}</Mark>,
          },
          {
            header: "Part",
            cell: ({ part }) => <Named name={part.name} to={`/catalog/${part.id}`} more={[part.code]} />,
          },
          { header: `Revision ${from}`, cell: (line) => lineText(line.before, line.fields, format) },
          { header: `Revision ${to}`, cell: (line) => lineText(line.after, line.fields, format) },
          {
            header: `Cost, of ${format.amount(after.usual, item.unit)}`,
            end: true,
            cell: ({ costBefore, costAfter }) => (
              <>
                {costBefore ? format.money(costBefore) : "–"} → {costAfter ? format.money(costAfter) : "–"}
              </>
            ),
          },
        ]}
      />
    </article>
  );
}

type Line = ComparisonAnswer["lines"][number];

function whatOf(line: Line): "added" | "removed" | "changed" {
  if (line.before === null) return "added";
  return line.after === null ? "removed" : "changed";
}

function sentence({ head, instructions, lines }: ComparisonAnswer, format: Format): string {
  const count = (what: string) => lines.filter((line) => whatOf(line) === what).length;
  const parts = (["added", "removed", "changed"] as const).flatMap((what) =>
    count(what) > 0 ? [`${format.count(count(what), "part", "parts")} ${what}`] : [],
  );
  if (head.length > 0) parts.push(format.list(head.map((field) => FIELD_WORDS[field])));
  if (instructions) parts.push("instructions");
  if (parts.length === 0) return "No differences.";
  const text = format.list(parts);
  return `${text.charAt(0).toUpperCase()}${text.slice(1)}.`;
}

function headText(
  list: ComparisonAnswer["before"],
  field: HeadField,
  item: ItemSheet,
  format: Format,
): string {
  const value = list[field];
  if (field === "yield") return format.percent(value);
  return field === "overhead" || field === "extra" ? format.unitCost(value) : format.amount(value, item.unit);
}

/** A line in words: its quantity, and what of it changed. */
function lineText(line: ListLineAnswer | null, fields: readonly LineField[], format: Format) {
  if (!line) return "–";
  const more = fields.filter((field) => field !== "quantity" && field !== "unit");
  return (
    <>
      {format.amount(line.quantity, line.unit)}
      {more.map((field) => (
        <small key={field}>
          {FIELD_WORDS[field]}: {fieldText(line, field, format) || "none"}
        </small>
      ))}
    </>
  );
}

function fieldText(line: ListLineAnswer, field: LineField, format: Format): string {
  switch (field) {
    case "waste":
      return format.percent(line.waste);
    case "share":
      return line.share === null ? "" : format.percent(line.share);
    case "oncePerBuild":
    case "optional":
      return line[field] ? "yes" : "no";
    case "drawnAt":
      return DRAWN_CHOICES.find((choice) => choice.value === line.drawnAt)?.label ?? "";
    case "substitutes":
      return line.substitutes.map((s) => `${format.amount(s.quantity)} ${s.item}`).join(", ");
    default:
      return line[field];
  }
}

const Mark = styled.b<{ $what: "added" | "removed" | "changed" }>`
  font-size: 13px;
  color: ${({ $what }) => ($what === "removed" ? color.lacquer : color.ink2)};
`;
