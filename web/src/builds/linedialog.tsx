import { z } from "@yosegi/contract";
import { fieldsOf } from "../fields/index.ts";
import { FormOf, useSchemaForm } from "../forms/index.ts";
import { Button, Dialog, Row, Section, Stack, Sub, useFormat } from "../ui/index.ts";
import { type FinishDraft, PLAIN, setLine, takeSubstitute } from "./finishdraft.ts";
import type { BuildLine } from "./linecells.tsx";

export interface LineDialogProps {
  line: BuildLine | null;
  draft: FinishDraft;
  planned: string;
  onChange: (draft: FinishDraft) => void;
  onClose: () => void;
}

/** More about one part: the quantity scrapped and why, the lots or serial numbers used, and a substitute. */
export function LineDialog({ line, onClose, ...props }: LineDialogProps) {
  return (
    <Dialog title={line ? line.item.name : ""} isOpen={line !== null} onClose={onClose} width="560px">
      {line && <Inside key={line.line} {...props} line={line} onClose={onClose} />}
    </Dialog>
  );
}

const lineSaid = z
  .object({ used: z.string(), scrapped: z.string(), reason: z.string(), only: z.array(z.string()) })
  .refine(({ scrapped, reason }) => ["", "0"].includes(scrapped) || reason.trim() !== "", {
    path: ["reason"],
    error: "Enter why it was scrapped.",
  });

interface SaidDraft {
  used: string;
  scrapped: string;
  reason: string;
  chosen: boolean[];
}

const In = fieldsOf<SaidDraft>();

function Inside({ line, draft, planned, onChange, onClose }: LineDialogProps & { line: BuildLine }) {
  const format = useFormat();
  const said = draft.lines.get(line.line) ?? PLAIN;
  const { packs } = line.item;
  const form = useSchemaForm({
    schema: lineSaid,
    begin: {
      used: said.used ?? planned,
      scrapped: said.scrapped,
      reason: said.reason,
      chosen: line.choices.map((choice) => said.only.includes(choice.code)),
    },
    body: ({ chosen, ...typed }: SaidDraft) => ({
      ...typed,
      scrapped: typed.scrapped === "" ? "0" : typed.scrapped,
      only: line.choices.filter((_, i) => chosen[i]).map((choice) => choice.code),
    }),
    send: (body) => {
      onChange(setLine(draft, line.line, body, planned));
      onClose();
    },
  });
  return (
    <FormOf form={form} save="Done">
      <Stack>
        <Row>
          <In.Quantity
            autoFocus
            packs={packs}
            label="Used in all"
            name="used"
            width="150px"
            unit={line.unit}
          />
          <In.Quantity
            packs={packs}
            label="Of which scrapped"
            name="scrapped"
            width="150px"
            unit={line.unit}
          />
        </Row>
        <In.Text label="Why scrapped" name="reason" />
      </Stack>
      {line.choices.length > 0 && (
        <Section title={line.item.tracking === "lot" ? "Taken from" : "Which ones"}>
          <Sub>If none is ticked, they are used in this order.</Sub>
          {line.choices.map((choice, i) => (
            <div key={`${choice.code} ${choice.store} ${choice.bin} ${choice.bench}`}>
              <In.Tick name={`chosen.${i}`}>
                {choice.code} · {format.amount(choice.quantity, line.unit)} ·{" "}
                {choice.bench ? "on the bench" : `${choice.store} ${choice.bin}`}
                {choice.expiry && ` · use by ${format.day(choice.expiry)}`}
              </In.Tick>
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
    </FormOf>
  );
}
