import { type ReworkPart, type ReworkSheet, type ReworkStep, reworkRoutes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { CheckCheck, Pencil, Plus, Send, Undo2 } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { useCommand } from "../api/index.ts";
import {
  Actions,
  AskButton,
  Button,
  DueDay,
  Fact,
  Facts,
  Large,
  MenuButton,
  Notice,
  Sub,
  sayDone,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { ChangeDialog } from "./changedialog.tsx";
import { FinishDialog } from "./finishdialog.tsx";
import { PartDialog, TakeDialog } from "./partdialog.tsx";
import { PartsTable } from "./partstable.tsx";
import { Paying } from "./paying.tsx";
import { PlanDialog } from "./plandialog.tsx";
import { StepDialog } from "./stepdialog.tsx";
import { StepsTable } from "./stepstable.tsx";
import { UnitsTable } from "./unitstable.tsx";
import { reworkSentence } from "./words.ts";

/** What is open over the sheet of a rework. */
type Opened =
  | { what: "finish" | "change" | "part" | "text" | "new step" | "plan" }
  | { what: "step"; step: ReworkStep }
  | { what: "take"; part: ReworkPart }
  | null;

/** One rework: its units, parts and steps, what it costs, and whether it pays. */
export function ReworkView({ one }: { one: ReworkSheet }) {
  useTitle(one.number);
  const format = useFormat();
  const [opened, setOpened] = useState<Opened>(null);
  const close = () => setOpened(null);
  const isOpen = one.state !== "done" && !one.undone;
  // As they are by now; one that somebody has removed stays open with what was typed, and its save says so.
  const step = opened?.what === "step" && (one.steps.find(({ id }) => id === opened.step.id) ?? opened.step);
  const part = opened?.what === "take" && (one.parts.find(({ id }) => id === opened.part.id) ?? opened.part);
  return (
    <article>
      <h1>{reworkSentence(one, format)}</h1>
      <Sub>
        {one.number} · begun {format.moment(one.moment)} by {one.person}
        {one.finished && ` · finished ${format.moment(one.finished.moment)} by ${one.finished.person}`}
        {one.undone && ` · undone ${format.moment(one.undone.moment)} by ${one.undone.person}`}
      </Sub>
      <Facts>
        {one.isTheirs ? (
          <Fact name="To charge">
            <Large>{format.money(one.charge)}</Large>
            {one.gross !== null && !decimal(one.gross).eq(decimal(one.charge)) && (
              <Sub>{format.money(one.gross)} with tax</Sub>
            )}
          </Fact>
        ) : (
          <Fact name="Value in">
            <Large>{format.money(one.valueIn)}</Large>
          </Fact>
        )}
        <Fact name="Cost so far">{format.money(one.soFar)}</Fact>
        {decimal(one.toCome).gt(0) && <Fact name="Still to come">{format.money(one.toCome)}</Fact>}
        {one.customer && (
          <Fact name={one.isTheirs ? "Belongs to" : "Customer"}>
            <Link to={`/customers/${one.customer.id}`}>{one.customer.name}</Link>
          </Fact>
        )}
        <Fact name="Item">
          <Link to={`/catalog/${one.item.id}`}>{one.item.code}</Link>
        </Fact>
        {one.due && (
          <Fact name="Due">
            <DueDay day={one.due} late={one.isLate} />
          </Fact>
        )}
        {isOpen && <Fact name="Lies at">{one.at}</Fact>}
        {one.assigned && <Fact name="Assigned to">{one.assigned.name}</Fact>}
        {one.reason && <Fact name="What is wrong">{one.reason}</Fact>}
        {one.isTheirs && (
          <Fact name="Quote">
            {one.agreed
              ? `agreed, ${one.agreed.person}, ${format.moment(one.agreed.moment)}`
              : "not agreed yet"}
          </Fact>
        )}
      </Facts>
      <Steps one={one} open={setOpened} />
      {!one.isTheirs && !one.undone && <Paying one={one} />}
      <UnitsTable one={one} />
      <StepsTable
        one={one}
        onAdd={() => setOpened({ what: "new step" })}
        onChange={(own) => setOpened({ what: "step", step: own })}
      />
      <PartsTable
        one={one}
        onAdd={() => setOpened({ what: "part" })}
        onTake={(own) => setOpened({ what: "take", part: own })}
      />
      {opened?.what === "change" && <ChangeDialog one={one} onClose={close} />}
      {opened?.what === "finish" && <FinishDialog one={one} onClose={close} />}
      {opened?.what === "part" && <PartDialog one={one} isText={false} onClose={close} />}
      {opened?.what === "text" && <PartDialog one={one} isText onClose={close} />}
      {part && <TakeDialog one={one} part={part} onClose={close} />}
      {opened?.what === "new step" && <StepDialog one={one} step={null} onClose={close} />}
      {step && <StepDialog one={one} step={step} onClose={close} />}
      {opened?.what === "plan" && <PlanDialog one={one} onClose={close} />}
    </article>
  );
}

interface SectionProps {
  one: ReworkSheet;
  open: (what: Opened) => void;
}

/** What can be done with it next. */
function Steps({ one, open }: SectionProps) {
  const params = { id: one.id };
  const agree = useCommand(reworkRoutes.agreeRework, ({ agreed }) =>
    sayDone(agreed ? "The quote is agreed." : "The quote is not agreed."),
  );
  const undoFinish = useCommand(reworkRoutes.undoFinishRework, () =>
    sayDone(`The finish of ${one.number} is undone.`),
  );
  const undo = useCommand(reworkRoutes.undoRework, () => sayDone(`${one.number} undone.`));
  const navigate = useNavigate();
  const send = useCommand(reworkRoutes.sendRework, (message) => {
    sayDone(`The ${kind} is in the outbox.`);
    void navigate(`/outbox/${message.id}`);
  });
  const refusal = agree.refusal ?? send.refusal ?? undoFinish.refusal ?? undo.refusal;
  const kind = one.finished ? "bill" : "quote";
  const paper = (which: string, name: string) => (
    <a href={`/api/reworks/${one.id}/paper?kind=${which}`} target="_blank" rel="noreferrer">
      {name}
    </a>
  );
  return (
    <>
      {refusal && <Notice>{refusal.fields[0]?.message ?? refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        {one.state !== "done" && !one.undone && (
          <>
            <Button look="main" onPress={() => open({ what: "finish" })}>
              <CheckCheck /> {one.isTheirs ? "Give back …" : "Finish …"}
            </Button>
            {one.customer && (
              <Button
                isPending={agree.busy}
                onPress={() => void agree.run({ params, body: { agreed: one.agreed === null } })}
              >
                {one.agreed ? "Quote not agreed" : "Quote agreed"}
              </Button>
            )}
            <Button onPress={() => open({ what: "change" })}>
              <Pencil /> Change
            </Button>
            <MenuButton
              label={`Add to ${one.number}`}
              items={[
                { id: "part", label: "Part …", onAction: () => open({ what: "part" }) },
                { id: "step", label: "Step …", onAction: () => open({ what: "new step" }) },
                {
                  id: "text",
                  label: "Line of text with an amount …",
                  onAction: () => open({ what: "text" }),
                },
              ]}
            >
              <Plus /> Add …
            </MenuButton>
          </>
        )}
        {paper("job", "Job sheet (PDF)")}
        {one.customer && !one.undone && (
          <>
            <Button isPending={send.busy} onPress={() => void send.run({ params, body: { kind } })}>
              <Send /> {one.finished ? "Bill" : "Quote"} to the outbox
            </Button>
            {paper(kind, one.finished ? "Bill (PDF)" : "Quote (PDF)")}
          </>
        )}
        {(one.parts.length > 0 || one.steps.length > 0) && (
          <Button look="link" onPress={() => open({ what: "plan" })}>
            Keep as a starting point …
          </Button>
        )}
        {!one.undone &&
          (one.finished ? (
            <AskButton
              isPending={undoFinish.busy}
              question={{
                title: `Undo the finish of ${one.number}?`,
                text: "Its units and parts lie with the rework again.",
                yes: "Undo finish",
              }}
              onYes={() => void undoFinish.run({ params })}
            >
              <Undo2 /> Undo finish …
            </AskButton>
          ) : (
            <AskButton
              isPending={undo.busy}
              question={{
                title: `Undo ${one.number}?`,
                text: one.isTheirs
                  ? `Its parts go back to stock, and the unit is with ${one.customer?.name} again.`
                  : "Its units and parts are back where they were.",
                yes: "Undo rework",
              }}
              onYes={() => void undo.run({ params })}
            >
              <Undo2 /> Undo …
            </AskButton>
          ))}
      </Actions>
    </>
  );
}
