import { type SupplierReturnSheet, supplierReturnRoutes } from "@yosegi/contract";
import { Undo2 } from "lucide-react";
import { Link } from "react-router";
import { useCommand } from "../api/index.ts";
import {
  Actions,
  AskButton,
  Button,
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

/** One return to a supplier: what went back, at what value, and what is expected for it. */
export function SupplierReturnView({ one }: { one: SupplierReturnSheet }) {
  useTitle(one.number);
  const format = useFormat();
  return (
    <article>
      <h1>
        {format.count(one.sent.length, "line", "lines")} sent back to {one.supplier.name}
      </h1>
      <Sub>
        {one.number} · {format.moment(one.moment)} by {one.person}
        {one.undone && ` · undone ${format.moment(one.undone.moment)} by ${one.undone.person}`}
      </Sub>
      <Facts>
        <Fact name="Value sent back">
          <Large>{format.money(one.value)}</Large>
        </Fact>
        <Fact name="Credit expected">{one.undone ? "none" : format.money(one.credit)}</Fact>
        {one.replacement && (
          <Fact name="Ordered again">
            <Link to={`/buying/${one.replacement.id}`}>{one.replacement.number}</Link>
          </Fact>
        )}
        <Fact name="Why it went back">{one.reason}</Fact>
        {one.note && <Fact name="Note">{one.note}</Fact>}
      </Facts>
      {!one.undone && <Steps one={one} />}
      <Section title="What went back">
        <SheetTable
          label="What went back"
          rows={one.sent}
          rowId={({ line }) => line}
          columns={[
            {
              header: "Item",
              cell: ({ item, lot, serial }) => (
                <Named name={item.name} to={`/catalog/${item.id}`} more={[item.code, serial || lot]} />
              ),
            },
            {
              header: "Quantity",
              end: true,
              cell: ({ item, quantity }) => format.amount(quantity, item.unit),
            },
            {
              header: "From",
              cell: ({ from, return: back }) =>
                back ? <Link to={`/returns/${back.id}`}>{back.number}</Link> : from,
            },
            { header: "Value", end: true, cell: ({ value }) => format.money(value) },
          ]}
        />
      </Section>
    </article>
  );
}

function Steps({ one }: { one: SupplierReturnSheet }) {
  const params = { id: one.id };
  const replace = useCommand(supplierReturnRoutes.replaceSupplierReturn, ({ replacement }) =>
    sayDone(`Ordered again as ${replacement?.number}.`),
  );
  const undo = useCommand(supplierReturnRoutes.undoSupplierReturn, () => sayDone(`${one.number} undone.`));
  const refusal = replace.refusal ?? undo.refusal;
  if (one.replacement) return null;
  return (
    <>
      {refusal && <Notice>{refusal.fields[0]?.message ?? refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        <Button isPending={replace.busy} onPress={() => void replace.run({ params })}>
          Order again
        </Button>
        <AskButton
          isPending={undo.busy}
          question={{
            title: `Undo ${one.number}?`,
            text: "The goods are back where they were, and nothing is expected for them.",
            yes: "Undo return",
          }}
          onYes={() => void undo.run({ params })}
        >
          <Undo2 /> Undo …
        </AskButton>
      </Actions>
    </>
  );
}
