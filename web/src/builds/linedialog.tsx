import { useState } from "react";
import { QuantityField } from "../fields/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  Dialog,
  Form,
  type FormRefusal,
  Row,
  Section,
  Stack,
  Sub,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { type FinishDraft, PLAIN, setLine, takeSubstitute } from "./finishdraft.ts";
import type { BuildLine } from "./linecells.tsx";

export interface LineDialogProps {
  line: BuildLine | null;
  draft: FinishDraft;
  planned: string;
  onChange: (draft: FinishDraft) => void;
  onClose: () => void;
}

/** What else can be said of a part: what was scrapped and why, which lot or serial was taken, and a substitute. */
export function LineDialog({ line, onClose, ...props }: LineDialogProps) {
  return (
    <Dialog title={line ? line.item.name : ""} isOpen={line !== null} onClose={onClose} width="560px">
      {line && <Inside key={line.line} {...props} line={line} onClose={onClose} />}
    </Dialog>
  );
}

function Inside({ line, draft, planned, onChange, onClose }: LineDialogProps & { line: BuildLine }) {
  const format = useFormat();
  const [said, setSaid] = useState(draft.lines.get(line.line) ?? PLAIN);
  const set = (change: Partial<typeof said>) => setSaid({ ...said, ...change });
  const reasonMissing = said.scrapped !== "0" && said.scrapped !== "" && said.reason.trim() === "";
  const [refusal, setRefusal] = useState<FormRefusal | null>(null);
  const keep = () => {
    if (reasonMissing) {
      const message = "Say why it was scrapped.";
      return setRefusal({ message, fields: [{ field: "reason", message }] });
    }
    onChange(
      setLine(draft, line.line, { ...said, scrapped: said.scrapped === "" ? "0" : said.scrapped }, planned),
    );
    onClose();
  };
  return (
    <Form refusal={refusal} onSubmit={keep}>
      <Stack>
        <Row>
          <QuantityField
            autoFocus
            packs={line.item.packs}
            label="Used in all"
            width="150px"
            unit={line.unit}
            value={said.used ?? planned}
            onChange={(used) => set({ used })}
          />
          <QuantityField
            packs={line.item.packs}
            label="Of that scrapped"
            width="150px"
            unit={line.unit}
            value={said.scrapped}
            onChange={(scrapped) => set({ scrapped })}
          />
        </Row>
        <TextField
          label="Why scrapped"
          name="reason"
          value={said.reason}
          onChange={(reason) => set({ reason })}
        />
      </Stack>
      {line.choices.length > 0 && (
        <Section title={line.item.tracking === "lot" ? "Taken from" : "Which ones"}>
          <Sub>Nothing chosen: in the suggested order, as listed.</Sub>
          {line.choices.map((choice) => (
            <div key={`${choice.code} ${choice.store} ${choice.bin} ${choice.bench}`}>
              <Checkbox
                isSelected={said.only.includes(choice.code)}
                onChange={(on) =>
                  set({
                    only: on ? [...said.only, choice.code] : said.only.filter((code) => code !== choice.code),
                  })
                }
              >
                {choice.code} · {format.amount(choice.quantity, line.unit)} ·{" "}
                {choice.bench ? "on the bench" : `${choice.store} ${choice.bin}`}
                {choice.expiry && ` · use by ${format.day(choice.expiry)}`}
              </Checkbox>
            </div>
          ))}
        </Section>
      )}
      {line.substitutes.length > 0 && (
        <Section title="Use a substitute">
          <Row>
            {line.substitutes.map((substitute) => (
              <Button
                key={substitute.item.id}
                onPress={() => {
                  onChange(takeSubstitute(draft, line.line, substitute, planned));
                  onClose();
                }}
              >
                {substitute.item.name} ({format.amount(substitute.free, substitute.item.unit)} free)
              </Button>
            ))}
          </Row>
        </Section>
      )}
      <Actions>
        <Button look="main" type="submit">
          Keep
        </Button>
      </Actions>
    </Form>
  );
}
