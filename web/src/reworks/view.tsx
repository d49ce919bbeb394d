import type { ReworkSheet } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import { Link } from "react-router";
import { DueDay, Fact, Facts, Large, Short, Sub, useFormat, useTitle } from "../ui/index.ts";
import { ChangeDialog } from "./changedialog.tsx";
import { FinishDialog } from "./finishdialog.tsx";
import { PartDialog, TakeDialog } from "./partdialog.tsx";
import { PartsTable } from "./partstable.tsx";
import { Paying } from "./paying.tsx";
import { PlanDialog } from "./plandialog.tsx";
import { type Opened, ReworkActions } from "./reworkactions.tsx";
import { StepDialog } from "./stepdialog.tsx";
import { StepsTable } from "./stepstable.tsx";
import { UnitsTable } from "./unitstable.tsx";
import { reworkSentence } from "./words.ts";

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
            {one.agreed && !decimal(one.agreed.since).eq(0) && (
              <div>
                <Short>{format.money(one.agreed.since)} not agreed yet</Short>
              </div>
            )}
          </Fact>
        )}
      </Facts>
      <ReworkActions one={one} open={setOpened} />
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
