import { type CoverQuestion, type MIX_BASES, type MixAnswer, mixRoutes } from "@yosegi/contract";
import { useState } from "react";
import styled from "styled-components";
import { call, newKey, Refused } from "../api/index.ts";
import { Progress } from "../jobs/index.ts";
import {
  Actions,
  Button,
  color,
  Dialog,
  Named,
  Notice,
  Row,
  Section,
  Select,
  SheetTable,
  Sub,
  useFormat,
} from "../ui/index.ts";

type Basis = (typeof MIX_BASES)[number];

const CHOICES: { value: Basis; label: string }[] = [
  { value: "margin", label: "Most margin" },
  { value: "priority", label: "Priority, then quantity" },
];

export interface MixDialogProps {
  question: CoverQuestion | null;
  isOpen: boolean;
  onClose: () => void;
  /** Asks for these quantities instead. */
  onUse: (quantities: string[]) => void;
}

/** Which quantities to build now so that most is achieved with the stock there is. */
export function MixDialog({ question, isOpen, onClose, onUse }: MixDialogProps) {
  return (
    <Dialog
      title="Best mix with the stock there is"
      isOpen={isOpen && question !== null}
      onClose={onClose}
      width="760px"
    >
      {question && <Mix question={question} onUse={onUse} />}
    </Dialog>
  );
}

function Mix({ question, onUse }: { question: CoverQuestion; onUse: (quantities: string[]) => void }) {
  const [by, setBy] = useState<Basis>("margin");
  const [job, setJob] = useState<string | null>(null);
  const [answer, setAnswer] = useState<{ by: Basis; mix: MixAnswer } | null>(null);
  const [refused, setRefused] = useState<string | null>(null);
  const run = async () => {
    const name = newKey();
    setJob(name);
    setRefused(null);
    try {
      setAnswer({ by, mix: await call(mixRoutes.mix, { body: { question, by, job: name } }) });
    } catch (error) {
      if (!(error instanceof Error)) throw error;
      setRefused(
        error instanceof Refused ? (error.answer.fields[0]?.message ?? error.message) : error.message,
      );
    } finally {
      setJob(null);
    }
  };
  return (
    <>
      <Sub>All requested products share the parts that are free now, without waiting for deliveries.</Sub>
      <Row>
        <Select label="Optimise for" width="300px" value={by} options={CHOICES} onChange={setBy} />
        <Figure>
          <Button look="main" isPending={job !== null} onPress={() => void run()}>
            Calculate
          </Button>
        </Figure>
      </Row>
      {job && <Progress job={job} />}
      {refused && <Notice>{refused}</Notice>}
      {answer && !job && <Result {...answer} onUse={onUse} />}
    </>
  );
}

function Result({ by, mix, onUse }: { by: Basis; mix: MixAnswer; onUse: (quantities: string[]) => void }) {
  const format = useFormat();
  const worth = (text: string) =>
    by === "margin" ? format.money(text) : format.count(Number(text), "unit", "units");
  const better = mix.value !== mix.byHand;
  return (
    <>
      <Headline>
        {by === "margin" ? `${worth(mix.value)} of margin` : `${worth(mix.value)} in all`}
        {better
          ? `; taking ${by === "margin" ? "the dearest" : "the first"} first would bring ${worth(mix.byHand)}.`
          : "."}
      </Headline>
      <SheetTable
        label="Best mix"
        rows={mix.mix.map((m, place) => ({ ...m, place }))}
        rowId={(m) => m.place}
        columns={[
          {
            header: "Product",
            cell: (m) => <Named name={m.item.name} more={[m.item.code]} />,
          },
          { header: "Wanted", end: true, cell: (m) => format.amount(m.wanted, m.item.unit) },
          { header: "Build now", end: true, cell: (m) => <b>{format.amount(m.quantity, m.item.unit)}</b> },
          { header: "In order", end: true, cell: (m) => format.amount(m.byHand, m.item.unit) },
          {
            header: "Margin each",
            end: true,
            cell: (m) => (m.brings === null ? "–" : format.money(m.brings)),
          },
        ]}
      />
      {mix.binding.length > 0 && (
        <Section title="Limiting parts">
          <SheetTable
            label="Limiting parts"
            rows={mix.binding}
            rowId={(b) => b.item.id}
            columns={[
              { header: "Part", cell: (b) => b.item.name },
              {
                header: "Gain from one more",
                end: true,
                cell: (b) =>
                  by === "margin" ? format.money(b.brings) : b.brings === "0" ? "nothing by itself" : "more",
              },
            ]}
          />
        </Section>
      )}
      <Actions>
        <Button look="main" onPress={() => onUse(mix.mix.map((m) => m.quantity))}>
          Use these quantities
        </Button>
      </Actions>
    </>
  );
}

const Figure = styled.div`
  padding-top: 21px;
`;

const Headline = styled.p`
  margin: 18px 0 10px;
  font: 600 20px/1.3 "Bricolage Grotesque Variable", sans-serif;
  color: ${color.ink};
`;
