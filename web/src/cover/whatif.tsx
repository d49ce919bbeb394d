import type { CoverAnswer, CoverQuestion, DemandCoverAnswer } from "@yosegi/contract";
import { X } from "lucide-react";
import { Fragment, useState } from "react";
import styled from "styled-components";
import {
  AmountField,
  Button,
  Checkbox,
  color,
  DateField,
  Row,
  Section,
  Select,
  Sub,
  useFormat,
} from "../ui/index.ts";
import { NOTHING_SUPPOSED, type Supposed, supposesNothing } from "./checkinput.ts";
import { placed } from "./demandrows.tsx";
import { dayOr, SideBySide } from "./sidebyside.tsx";

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
                Use these quantities and dates
              </Button>
            )}
            {!supposesNothing(supposed) && (
              <Button look="link" onPress={() => onChange(() => NOTHING_SUPPOSED)}>
                Reset
              </Button>
            )}
          </Row>
        }
      >
        <Sub>
          Try different figures; nothing is saved. Save the check, or use the buttons below to act on it.
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
    supposed.instead.find((s) => s.at === at && s.part === part && s.by === by);
  const take = (part: number, by: number, on: boolean, shortOnly = false) =>
    onChange((now) => {
      const rest = now.instead.filter((s) => !(s.at === at && s.part === part));
      return { ...now, instead: on ? [...rest, { at, part, by, shortOnly }] : rest };
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
        <Fragment key={`${s.part} ${s.by}`}>
          <Checkbox isSelected={taken(s.part, s.by) !== undefined} onChange={(on) => take(s.part, s.by, on)}>
            with {s.name}
          </Checkbox>
          {taken(s.part, s.by) && (
            <Checkbox
              isSelected={taken(s.part, s.by)?.shortOnly ?? false}
              onChange={(on) => take(s.part, s.by, true, on)}
            >
              only for what is short
            </Checkbox>
          )}
        </Fragment>
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
            label={`Reset ${nameOf(s.item)?.code ?? ""}`}
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
            label={`Reset ${comingOf(s.key)?.document ?? ""}`}
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

function Drop({ label, onPress }: { label: string; onPress: () => void }) {
  return (
    <Button look="icon" aria-label={label} onPress={onPress}>
      <X />
    </Button>
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
