import {
  type ReworkPart,
  type ReworkSheet,
  type ReworkStep,
  type ReworkUnit,
  reworkRoutes,
} from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { CheckCheck, Plus, Undo2 } from "lucide-react";
import { type ReactNode, useState } from "react";
import { Link } from "react-router";
import { useCommand, usePress } from "../api/index.ts";
import { ItemLabels } from "../labels/index.ts";
import {
  Actions,
  AskButton,
  Button,
  DueDay,
  Fact,
  Facts,
  Large,
  MenuButton,
  Named,
  Notice,
  Row,
  Section,
  SheetTable,
  Short,
  Sub,
  sayDone,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { FinishDialog } from "./finishdialog.tsx";
import { PartDialog, TakeDialog } from "./partdialog.tsx";
import { Paying } from "./paying.tsx";
import { PlanDialog } from "./plandialog.tsx";
import { StepDialog } from "./stepdialog.tsx";
import { OUTCOME_WORDS, reworkSentence, unitName } from "./words.ts";

/** What is open over the sheet of a rework. */
type Opened =
  | { what: "finish" | "part" | "text" | "new step" | "plan" }
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
      <Units one={one} />
      <WorkSteps one={one} open={setOpened} />
      <Parts one={one} open={setOpened} />
      {opened?.what === "finish" && <FinishDialog one={one} onClose={close} />}
      {opened?.what === "part" && <PartDialog one={one} isText={false} onClose={close} />}
      {opened?.what === "text" && <PartDialog one={one} isText onClose={close} />}
      {opened?.what === "take" && <TakeDialog one={one} part={opened.part} onClose={close} />}
      {opened?.what === "new step" && <StepDialog one={one} step={null} onClose={close} />}
      {opened?.what === "step" && <StepDialog one={one} step={opened.step} onClose={close} />}
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
  const refusal = agree.refusal ?? undoFinish.refusal ?? undo.refusal;
  const paper = (kind: string, name: string) => (
    <a href={`/api/reworks/${one.id}/paper?kind=${kind}`} target="_blank" rel="noreferrer">
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
        {one.customer && !one.finished && paper("quote", "Quote (PDF)")}
        {one.customer && one.finished && paper("bill", "Bill (PDF)")}
        {(one.parts.length > 0 || one.steps.length > 0) && (
          <Button look="quiet" onPress={() => open({ what: "plan" })}>
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

function Units({ one }: { one: ReworkSheet }) {
  const format = useFormat();
  const [labelled, setLabelled] = useState<ReworkUnit | null>(null);
  return (
    <Section title="Units">
      <SheetTable
        label="Units"
        rows={one.units}
        rowId={({ unit }) => unit}
        columns={[
          {
            header: "Unit",
            cell: (own) => (
              <Named
                name={unitName(own)}
                {...((own.serial || own.lot) && {
                  to: `/trace?item=${(own.item ?? one.item).id}&${own.serial ? "serial" : "lot"}=${encodeURIComponent(own.serial || own.lot)}`,
                })}
                more={[format.amount(own.quantity, one.item.unit), own.from && `from ${own.from}`]}
              />
            ),
          },
          // A customer's own is worth nothing to us: what it carries is what was spent on it.
          ...(one.isTheirs
            ? []
            : [
                {
                  header: "Value in",
                  end: true,
                  cell: ({ valueIn }: ReworkUnit) => format.money(valueIn),
                },
              ]),
          {
            header: one.isTheirs ? "Cost" : one.finished ? "Carries" : "Carries by now",
            end: true,
            cell: ({ value }) => format.money(value),
          },
          {
            header: "What became of it",
            cell: ({ outcome, item, place, reason, recovered }) =>
              outcome === null
                ? "in rework"
                : [
                    one.isTheirs ? "given back" : OUTCOME_WORDS[outcome],
                    outcome === "good" && item && item.id !== one.item.id ? `as ${item.code}` : "",
                    place && `in ${place}`,
                    recovered
                      .map((part) => `${format.amount(part.quantity, part.item.unit)} ${part.item.code}`)
                      .join(", "),
                    reason,
                  ]
                    .filter(Boolean)
                    .join(", "),
          },
          ...(one.isTheirs
            ? []
            : [
                {
                  header: "Price",
                  end: true,
                  cell: ({ price }: ReworkUnit) => (price === null ? "–" : format.money(price)),
                },
              ]),
          {
            header: "",
            end: true,
            cell: (own) => (
              <LineActions>
                {own.outcome === "good" && (
                  <a
                    href={`/api/reworks/${one.id}/paper?kind=account&unit=${own.unit}`}
                    target="_blank"
                    rel="noreferrer"
                    aria-label={`Account of work for ${unitName(own)} (PDF)`}
                  >
                    Account (PDF)
                  </a>
                )}
                <Button
                  look="link"
                  aria-label={`Label for ${unitName(own)}`}
                  onPress={() => setLabelled(own)}
                >
                  Label …
                </Button>
              </LineActions>
            ),
          },
        ]}
      />
      {labelled && (
        <ItemLabels item={labelled.item ?? one.item} piece={labelled} onClose={() => setLabelled(null)} />
      )}
    </Section>
  );
}

/** The name of the unit that a line is for, where there are several. */
const forUnit = ({ units }: ReworkSheet, unit: number | null): string => {
  const own = units.find((row) => row.unit === unit);
  return own && units.length > 1 ? `for ${unitName(own)}` : "";
};

function WorkSteps({ one, open }: SectionProps) {
  const format = useFormat();
  const isOpen = one.state !== "done" && !one.undone;
  const state = usePress(reworkRoutes.setReworkSteps, () => sayDone("The step is done."));
  const order = usePress(reworkRoutes.orderReworkStep, () => sayDone("It is on a purchase order."));
  const add = (
    <Button look="link" onPress={() => open({ what: "new step" })}>
      Add a step
    </Button>
  );
  return (
    <Section title="Steps" more={isOpen && add}>
      {one.steps.length === 0 ? (
        <Sub>No steps.</Sub>
      ) : (
        <SheetTable
          label="Steps"
          rows={one.steps}
          rowId={({ id }) => id}
          columns={[
            {
              header: "Step",
              cell: (step) => <Named name={step.what} more={[step.state, forUnit(one, step.unit)]} />,
            },
            {
              header: "Who",
              cell: ({ person, supplier, purchase }) => (
                <>
                  {supplier?.name ?? person?.name ?? "–"}
                  {purchase && (
                    <small>
                      <Link to={`/buying/${purchase.id}`}>{purchase.number}</Link>
                    </small>
                  )}
                </>
              ),
            },
            {
              header: "Due",
              cell: ({ due, hour, isLate }) => (
                <>
                  <DueDay day={due} late={isLate} /> {hour}
                </>
              ),
            },
            {
              header: "Cost",
              end: true,
              cell: ({ planned, actual }) => (
                <>
                  {format.money(actual ?? planned)}
                  {actual !== null && <small>planned {format.money(planned)}</small>}
                </>
              ),
            },
            ...(one.customer
              ? [{ header: "Charge", end: true, cell: ({ charge }: ReworkStep) => format.money(charge) }]
              : []),
            {
              header: "",
              end: true,
              cell: (step) =>
                isOpen ? (
                  <LineActions>
                    {step.state !== "done" && (
                      <Button
                        look="link"
                        aria-label={`Mark ${step.what} as done`}
                        onPress={() => void state.run({ body: { steps: [step.id], state: "done" } })}
                      >
                        Done
                      </Button>
                    )}
                    {step.supplier && !step.purchase && (
                      <Button
                        look="link"
                        aria-label={`Order ${step.what}`}
                        onPress={() => void order.run({ params: { id: one.id, step: step.id } })}
                      >
                        Order
                      </Button>
                    )}
                    <Button
                      look="link"
                      aria-label={`Change ${step.what}`}
                      onPress={() => open({ what: "step", step })}
                    >
                      Change
                    </Button>
                  </LineActions>
                ) : null,
            },
          ]}
        />
      )}
    </Section>
  );
}

const LineActions = ({ children }: { children: ReactNode }) => (
  <Row style={{ justifyContent: "end" }}>{children}</Row>
);

function Parts({ one, open }: SectionProps) {
  const format = useFormat();
  const isOpen = one.state !== "done" && !one.undone;
  const remove = usePress(reworkRoutes.removeReworkPart, () => sayDone("Removed from the rework."));
  const add = (
    <Button look="link" onPress={() => open({ what: "part" })}>
      Add a part
    </Button>
  );
  return (
    <Section title="Parts" more={isOpen && add}>
      {one.parts.length === 0 ? (
        <Sub>No parts.</Sub>
      ) : (
        <SheetTable
          label="Parts"
          rows={one.parts}
          rowId={({ id }) => id}
          columns={[
            {
              header: "Part",
              cell: (part) => (
                <Named
                  name={part.item?.name ?? part.text}
                  {...(part.item && { to: `/catalog/${part.item.id}` })}
                  more={[part.item?.code ?? "", part.serial || part.lot, forUnit(one, part.unit)]}
                />
              ),
            },
            {
              header: "Quantity",
              end: true,
              cell: ({ item, quantity }) => (item ? format.amount(quantity, item.unit) : "–"),
            },
            {
              header: "From",
              cell: ({ item, isTaken, from }) => (isTaken ? from || "–" : item && <Short>to be taken</Short>),
            },
            { header: "Cost", end: true, cell: ({ value }) => format.money(value) },
            ...(one.customer
              ? [{ header: "Charge", end: true, cell: ({ charge }: ReworkPart) => format.money(charge) }]
              : []),
            {
              header: "",
              end: true,
              cell: (part) =>
                isOpen ? (
                  <LineActions>
                    {!part.isTaken && (
                      <Button
                        look="link"
                        aria-label={`Take ${part.item?.code}`}
                        onPress={() => open({ what: "take", part })}
                      >
                        Take …
                      </Button>
                    )}
                    <Button
                      look="link"
                      aria-label={`Remove ${part.item?.code ?? part.text}`}
                      onPress={() => void remove.run({ params: { id: one.id, part: part.id } })}
                    >
                      {part.isTaken && part.item ? "Put back" : "Remove"}
                    </Button>
                  </LineActions>
                ) : null,
            },
          ]}
        />
      )}
    </Section>
  );
}
