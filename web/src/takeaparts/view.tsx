import { type TakeApartSheet, takeApartRoutes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { Undo2 } from "lucide-react";
import { Link } from "react-router";
import { useCommand } from "../api/index.ts";
import {
  Actions,
  AskButton,
  Fact,
  Facts,
  Large,
  Named,
  Notice,
  Section,
  SheetTable,
  Sub,
  sayDone,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { LandingBar } from "./landing.tsx";

/** One take-apart: what came out of it, and where its value landed. */
export function TakeApartView({ one }: { one: TakeApartSheet }) {
  useTitle(one.number);
  const format = useFormat();
  const undo = useCommand(takeApartRoutes.undoTakeApart, () => sayDone(`${one.number} undone.`));
  return (
    <article>
      <h1>
        {format.amount(one.quantity, one.item.unit)} {one.item.name} taken apart
      </h1>
      <Sub>
        {[one.number, one.serial || one.lot, `from ${one.from}`].filter(Boolean).join(" · ")} ·{" "}
        {format.moment(one.moment)} by {one.person}
        {one.undone && ` · undone ${format.moment(one.undone.moment)} by ${one.undone.person}`}
      </Sub>
      <Facts>
        <Fact name="Value taken apart">
          <Large>{format.money(one.valueOut)}</Large>
        </Fact>
        <Fact name="Back in stock">{format.money(one.recovered)}</Fact>
        {one.minutes !== "0" && (
          <Fact name="Time spent">
            {format.amount(one.minutes, "min")}, {format.money(one.work)}
          </Fact>
        )}
        {decimal(one.charged).gt(0) && <Fact name="Off the credit">{format.money(one.charged)}</Fact>}
        {one.build && (
          <Fact name="Built by">
            <Link to={`/builds/${one.build.id}`}>{one.build.number}</Link>
          </Fact>
        )}
        {one.revision && (
          <Fact name="Parts list">
            {one.revision.list}, revision {one.revision.number}
          </Fact>
        )}
        {one.return && (
          <Fact name="Return">
            <Link to={`/returns/${one.return.id}`}>{one.return.number}</Link>
          </Fact>
        )}
        <Fact name="Product">
          <Link to={`/catalog/${one.item.id}`}>{one.item.code}</Link>
        </Fact>
        {one.reason && <Fact name="Why">{one.reason}</Fact>}
        {one.costTag && <Fact name="Cost tag">{one.costTag}</Fact>}
      </Facts>
      <LandingBar {...one} />
      {undo.refusal && <Notice>{undo.refusal.message}</Notice>}
      {!one.undone && (
        <Actions>
          <AskButton
            isPending={undo.busy}
            question={{
              title: `Undo ${one.number}?`,
              text: "The good parts leave their bins again, and the product is whole where it was.",
              yes: "Undo take-apart",
            }}
            onYes={() => void undo.run({ params: { id: one.id } })}
          >
            <Undo2 /> Undo …
          </AskButton>
        </Actions>
      )}
      <Section title="Parts">
        <SheetTable
          label="Parts"
          rows={one.parts}
          rowId={({ line }) => line}
          columns={[
            {
              header: "Part",
              cell: ({ item, lot, serial }) => (
                <Named name={item.name} to={`/catalog/${item.id}`} more={[item.code, serial || lot]} />
              ),
            },
            {
              header: "Expected",
              end: true,
              cell: ({ expected, item }) => format.amount(expected, item.unit),
            },
            { header: "Good", end: true, cell: ({ good, item }) => format.amount(good, item.unit) },
            { header: "Damaged", end: true, cell: ({ damaged, item }) => format.amount(damaged, item.unit) },
            { header: "Missing", end: true, cell: ({ missing, item }) => format.amount(missing, item.unit) },
            { header: "Put away in", cell: ({ place }) => place || "–" },
            { header: "Its share", end: true, cell: ({ allotted }) => format.money(allotted) },
            { header: "Back in stock", end: true, cell: ({ recovered }) => format.money(recovered) },
          ]}
        />
      </Section>
    </article>
  );
}
