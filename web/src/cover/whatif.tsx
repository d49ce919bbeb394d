import type { CoverAnswer, CoverQuestion, DemandCoverAnswer } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import {
  AmountField,
  Button,
  Checkbox,
  color,
  DateField,
  type Format,
  NARROW,
  Row,
  Section,
  Select,
  SheetTable,
  Short,
  Sub,
  useFormat,
} from "../ui/index.ts";
import { SmallAnswer } from "./answer.tsx";
import { NOTHING_SUPPOSED, type Supposed, supposesNothing } from "./asked.ts";
import { placed } from "./demandrows.tsx";
import { demandWords } from "./sentences.ts";

export interface WhatIfProps {
  base: CoverQuestion;
  /** The answer as it is, and the one that is supposed. */
  now: CoverAnswer;
  then: CoverAnswer | null;
  supposed: Supposed;
  errors: Record<string, string>;
  onChange: (change: (supposed: Supposed) => Supposed) => void;
  /** Takes what is supposed over into what is asked. */
  onTake: () => void;
}

/** What would be otherwise, and both answers side by side. Nothing of it is written anywhere. */
export function WhatIf(props: WhatIfProps) {
  const { now, then, supposed, onChange, onTake } = props;
  return (
    <Panel aria-label="What if">
      <Section
        title="What if …"
        more={
          <Row>
            {supposed.demands.length > 0 && (
              <Button look="link" onPress={onTake}>
                Ask for these quantities and days
              </Button>
            )}
            {!supposesNothing(supposed) && (
              <Button look="link" onPress={() => onChange(() => NOTHING_SUPPOSED)}>
                Suppose nothing
              </Button>
            )}
          </Row>
        }
      >
        <Sub>
          Change what you like: nothing is recorded. Keep it by name, or make it real with the buttons below.
        </Sub>
        {placed(now.demands).map(({ row: demand, place: at }) => (
          <DemandOtherwise key={at} at={at} demand={demand} {...props} />
        ))}
        <PartsOtherwise {...props} />
      </Section>
      {then && !supposesNothing(supposed) && <SideBySide now={now} then={then} />}
    </Panel>
  );
}

const NOT_OTHERWISE = { at: 0, quantity: "", day: "", list: "" };

function DemandOtherwise({
  at,
  demand,
  supposed,
  errors,
  onChange,
}: WhatIfProps & { at: number; demand: DemandCoverAnswer }) {
  const other = supposed.demands.find((s) => s.at === at) ?? { ...NOT_OTHERWISE, at };
  const set = (to: Partial<typeof other>) =>
    onChange((now) => {
      const before = now.demands.find((s) => s.at === at) ?? NOT_OTHERWISE;
      const next = { ...before, at, ...to };
      const rest = now.demands.filter((s) => s.at !== at);
      const empty = next.quantity === "" && next.day === "" && next.list === "";
      return { ...now, demands: empty ? rest : [...rest, next] };
    });
  const taken = (part: number, by: number) =>
    supposed.instead.some((s) => s.at === at && s.part === part && s.by === by);
  const take = (part: number, by: number, on: boolean) =>
    onChange((now) => {
      const rest = now.instead.filter((s) => !(s.at === at && s.part === part));
      return { ...now, instead: on ? [...rest, { at, part, by }] : rest };
    });
  return (
    <Row style={{ marginBottom: 8 }}>
      <Name>{demand.item.name}</Name>
      <AmountField
        label={`Other quantity of ${demand.item.code}`}
        hideLabel
        width="150px"
        unit={demand.item.unit}
        placeholder={demand.wanted}
        value={other.quantity}
        onChange={(quantity) => set({ quantity })}
        error={errors[`demands.${at}.quantity`]}
      />
      <DateField
        label={`Other day for ${demand.item.code}`}
        hideLabel
        width="190px"
        value={other.day}
        onChange={(day) => set({ day })}
        error={errors[`demands.${at}.day`]}
      />
      {demand.lists.length > 1 && (
        <Select
          label={`Other list of ${demand.item.code}`}
          hideLabel
          width="180px"
          value={other.list === "" ? String(demand.list ?? demand.lists[0]?.id ?? "") : other.list}
          options={demand.lists.map((l) => ({ value: String(l.id), label: `${l.name} list` }))}
          onChange={(list) => set({ list })}
        />
      )}
      {demand.substitutes.map((s) => (
        <Checkbox
          key={`${s.part} ${s.by}`}
          isSelected={taken(s.part, s.by)}
          onChange={(on) => take(s.part, s.by, on)}
        >
          with {s.name}
        </Checkbox>
      ))}
    </Row>
  );
}

/** Stock and days of arrival that are supposed to be otherwise. */
function PartsOtherwise({ now, supposed, errors, onChange }: WhatIfProps) {
  const format = useFormat();
  const [chosen, setChosen] = useState("");
  const parts = now.parts.filter((part) => part.stocked);
  const nameOf = (item: number) => parts.find((part) => part.id === item);
  const coming = parts.flatMap((part) => part.incoming.map((c) => ({ ...c, part })));
  const comingOf = (key: string) => coming.find((c) => c.key === key);
  const suppose = (value: string) => {
    const [kind, key = ""] = value.split("|");
    onChange((now) =>
      kind === "stock"
        ? { ...now, stock: [...now.stock, { item: Number(key), onHand: "" }] }
        : { ...now, incoming: [...now.incoming, { key, day: "" }] },
    );
    setChosen("");
  };
  const options = [
    ...parts
      .filter((part) => !supposed.stock.some((s) => s.item === part.id))
      .map((part) => ({ value: `stock|${part.id}`, label: `${part.name}: other stock` })),
    ...coming
      .filter((c) => !supposed.incoming.some((s) => s.key === c.key))
      .map((c) => ({ value: `coming|${c.key}`, label: `${c.document} ${c.part.name}: other day` })),
  ];
  return (
    <>
      {supposed.stock.map((s, i) => (
        <Row key={s.item} style={{ marginBottom: 8 }}>
          <Name>{nameOf(s.item)?.name ?? ""}</Name>
          <AmountField
            label={`Stock of ${nameOf(s.item)?.code ?? ""}`}
            hideLabel
            width="150px"
            unit={nameOf(s.item)?.unit}
            placeholder={nameOf(s.item)?.onHand}
            value={s.onHand}
            onChange={(onHand) =>
              onChange((now) => ({
                ...now,
                stock: now.stock.map((x) => (x.item === s.item ? { ...x, onHand } : x)),
              }))
            }
            error={errors[`stock.${i}.onHand`]}
            autoFocus={s.onHand === ""}
          />
          <Aside>on hand</Aside>
          <Drop
            label={`Suppose nothing of ${nameOf(s.item)?.code ?? ""}`}
            onPress={() => onChange((now) => ({ ...now, stock: now.stock.filter((x) => x.item !== s.item) }))}
          />
        </Row>
      ))}
      {supposed.incoming.map((s, i) => (
        <Row key={s.key} style={{ marginBottom: 8 }}>
          <Name>
            {comingOf(s.key)?.document} {comingOf(s.key)?.part.name}
          </Name>
          <DateField
            label={`Other day of ${comingOf(s.key)?.document ?? ""}`}
            hideLabel
            value={s.day}
            onChange={(day) =>
              onChange((now) => ({
                ...now,
                incoming: now.incoming.map((x) => (x.key === s.key ? { ...x, day } : x)),
              }))
            }
            error={errors[`incoming.${i}.day`]}
          />
          <Aside>instead of {dayOr(comingOf(s.key)?.day ?? null, format)}</Aside>
          <Drop
            label={`Suppose nothing of ${comingOf(s.key)?.document ?? ""}`}
            onPress={() =>
              onChange((now) => ({ ...now, incoming: now.incoming.filter((x) => x.key !== s.key) }))
            }
          />
        </Row>
      ))}
      <Select
        label="Suppose otherwise"
        hideLabel
        width="300px"
        placeholder="Other stock, or another day of arrival"
        value={chosen}
        options={options}
        onChange={suppose}
      />
    </>
  );
}

const dayOr = (day: string | null, format: Format): string => (day === null ? "no day" : format.day(day));

function Drop({ label, onPress }: { label: string; onPress: () => void }) {
  return (
    <Button look="icon" aria-label={label} onPress={onPress}>
      <X />
    </Button>
  );
}

/** Both answers, and each part of which they say something else. */
function SideBySide({ now, then }: { now: CoverAnswer; then: CoverAnswer }) {
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
          label="What differs"
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
              header: "There on",
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

function change(before: Part | undefined, after: Part | undefined, words: (part: Part) => string) {
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
        <dd>{cover.finish === null ? <Short>nobody can say</Short> : format.day(cover.finish)}</dd>
        <dt>Parts short</dt>
        <dd>{short}</dd>
        <dt>To be ordered for</dt>
        <dd>{cover.spending === null ? "a price is missing" : format.money(cover.spending)}</dd>
      </dl>
    </Answered>
  );
}

const Panel = styled.section`
  margin-top: 8px;
  padding: 0 18px 16px;
  background: ${color.sunk};
  border: 1px solid ${color.line};
`;
const Name = styled.div`
  width: 200px;
  padding-top: 8px;
  font-weight: 600;
`;
const Aside = styled.div`
  padding-top: 8px;
  color: ${color.ink2};
`;
const Two = styled.div`
  display: grid;
  grid-template-columns: 1fr 1fr;
  gap: 14px;
  margin: 16px 0 12px;
  ${NARROW} {
    grid-template-columns: 1fr;
  }
`;
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
