import type { CoverAnswer } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import styled from "styled-components";
import { color, type Format, NARROW, SheetTable, Short, useFormat } from "../ui/index.ts";
import { SmallAnswer } from "./answer.tsx";
import { placed } from "./demandrows.tsx";
import { demandWords } from "./sentences.ts";

/** Both answers, and each part of which they say something else. */
export function SideBySide({ now, then }: { now: CoverAnswer; then: CoverAnswer }) {
  const format = useFormat();
  const ids = [...new Set([...now.parts, ...then.parts].map((part) => part.id))];
  const rows = ids
    .map((id) => ({
      id,
      before: now.parts.find((p) => p.id === id),
      after: then.parts.find((p) => p.id === id),
    }))
    .filter(
      ({ before, after }) =>
        before?.shortNow !== after?.shortNow || before?.day !== after?.day || before?.need !== after?.need,
    );
  return (
    <>
      <Two>
        <Card title="As it is" cover={now} />
        <Card title="What if" cover={then} />
      </Two>
      {rows.length > 0 && (
        <SheetTable
          label="Changes"
          rows={rows}
          rowId={(row) => row.id}
          columns={[
            { header: "Part", cell: ({ before, after }) => before?.name ?? after?.name },
            {
              header: "Need",
              end: true,
              cell: ({ before, after }) => change(before, after, (p) => amount(p.need, p, format)),
            },
            {
              header: "Short now",
              end: true,
              cell: ({ before, after }) => change(before, after, (p) => shortWords(p, format)),
            },
            {
              header: "Available",
              end: true,
              cell: ({ before, after }) => change(before, after, (p) => dayOr(p.day, format)),
            },
          ]}
        />
      )}
    </>
  );
}

type Part = CoverAnswer["parts"][number];

const amount = (text: string, part: Part, format: Format) =>
  `${format.quantity(text, part.decimals)} ${part.unit}`;

const shortWords = (part: Part, format: Format) =>
  part.shortNow === "0" ? "–" : amount(part.shortNow, part, format);

export function change(before: Part | undefined, after: Part | undefined, words: (part: Part) => string) {
  const [was, is] = [before ? words(before) : "–", after ? words(after) : "–"];
  return was === is ? was : `${was} → ${is}`;
}

function Card({ title, cover }: { title: string; cover: CoverAnswer }) {
  const format = useFormat();
  const short = cover.parts.filter((part) => decimal(part.shortNow).gt(0)).length;
  return (
    <Answered aria-label={title}>
      <h3>{title}</h3>
      <SmallAnswer cover={cover} />
      {cover.demands.length > 1 &&
        placed(cover.demands).map(({ row: d, place: i }) => (
          <div key={i}>
            {d.item.name}: {demandWords(d, format)}
          </div>
        ))}
      <dl>
        <dt>Done by</dt>
        <dd>{cover.finish === null ? <Short>unknown</Short> : format.day(cover.finish)}</dd>
        <dt>Parts short</dt>
        <dd>{short}</dd>
        <dt>To be ordered for</dt>
        <dd>{cover.spending === null ? "a price is missing" : format.money(cover.spending)}</dd>
      </dl>
    </Answered>
  );
}

const Answered = styled.article`
  background: ${color.sheet};
  border: 1px solid ${color.line};
  padding: 12px 16px;
  h3 {
    font-size: 13px;
    color: ${color.ink2};
    margin-bottom: 4px;
  }
  dl {
    display: grid;
    grid-template-columns: auto 1fr;
    gap: 2px 14px;
    margin: 8px 0 0;
  }
  dt {
    color: ${color.ink2};
  }
  dd {
    margin: 0;
    font-weight: 600;
  }
`;

export const dayOr = (day: string | null, format: Format): string =>
  day === null ? "no date" : format.day(day);

const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
  margin: 16px 0 12px;
  ${NARROW} {
    grid-template-columns: 1fr;
  }
`;
