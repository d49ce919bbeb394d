import type { BuildSheet } from "@yosegi/contract";
import { Plus, X } from "lucide-react";
import styled from "styled-components";
import { useWorking } from "../people/index.ts";
import { AmountField, Button, Row, Section, Select, useFormat } from "../ui/index.ts";
import { type FinishDraft, placed, type WorkDraft } from "./finishdraft.ts";

export interface WorkRowsProps {
  build: BuildSheet;
  draft: FinishDraft;
  onChange: (draft: FinishDraft) => void;
  errorOf: (field: string) => string | undefined;
  planned: (line: number) => string;
}

/** Who worked how long. While nobody is named, the planned work counts. */
export function WorkRows({ build, draft, onChange, errorOf, planned }: WorkRowsProps) {
  const format = useFormat();
  const { person, people } = useWorking();
  const services = build.lines.filter((line) => line.service);
  const [first] = services;
  if (!first) return null;
  const set = (at: number, change: Partial<WorkDraft>) =>
    onChange({ ...draft, work: draft.work.map((entry, i) => (i === at ? { ...entry, ...change } : entry)) });
  const add = () => {
    const named = new Set(draft.work.map((w) => w.person));
    const next = [person, ...people].find((p) => p && !named.has(p.id));
    const entry = {
      line: first.line,
      person: next?.id ?? people[0]?.id ?? 0,
      quantity: draft.work.length === 0 ? planned(first.line) : "",
    };
    // Who worked how long says how much was used.
    const lines = new Map(draft.lines);
    for (const line of services) lines.delete(line.line);
    onChange({ ...draft, lines, work: [...draft.work, entry] });
  };
  return (
    <Section
      title="Who worked"
      more={
        <Button onPress={add}>
          <Plus /> Add person
        </Button>
      }
    >
      {draft.work.length === 0 && (
        <Quiet>
          {services
            .map(
              (line) =>
                `${line.item.name}: ${format.amount(planned(line.line) || "0", line.unit)} as planned`,
            )
            .join(" · ")}
        </Quiet>
      )}
      {placed(draft.work).map(([entry, i]) => (
        <Row key={i} style={{ marginBottom: 8 }}>
          <Select
            label={`Person ${i + 1}`}
            hideLabel
            width="150px"
            value={String(entry.person)}
            options={people.map((p) => ({ value: String(p.id), label: p.name }))}
            onChange={(id) => set(i, { person: Number(id) })}
          />
          {services.length > 1 && (
            <Select
              label={`Work ${i + 1}`}
              hideLabel
              width="190px"
              value={String(entry.line)}
              options={services.map((line) => ({ value: String(line.line), label: line.item.name }))}
              onChange={(line) => set(i, { line: Number(line) })}
            />
          )}
          <AmountField
            label={`Time ${i + 1}`}
            hideLabel
            width="130px"
            unit={services.find((line) => line.line === entry.line)?.unit}
            value={entry.quantity}
            onChange={(quantity) => set(i, { quantity })}
            error={errorOf(`work.${i}.quantity`)}
          />
          <Button
            look="icon"
            aria-label={`Remove person ${i + 1}`}
            onPress={() => onChange({ ...draft, work: draft.work.filter((_, at) => at !== i) })}
          >
            <X />
          </Button>
        </Row>
      ))}
    </Section>
  );
}

const Quiet = styled.p`
  margin: 0;
  color: var(--ink2);
`;
