import type { CoverQuestion, ShortageWay } from "@yosegi/contract";
import { useState } from "react";
import { Button, Named, Section, SheetTable, Short, useFormat } from "../ui/index.ts";
import { TakeApartDialog } from "./dialog.tsx";
import { useTakeApartWays } from "./queries.ts";
import { startOf } from "./waystart.ts";

/** Finished products that hold what a check is short of: one press takes as many apart as are needed. */
export function TakeApartWays({ question }: { question: CoverQuestion }) {
  const format = useFormat();
  const ways = useTakeApartWays(question).data?.ways ?? [];
  const [taking, setTaking] = useState<ShortageWay | null>(null);
  if (ways.length === 0) return null;
  return (
    <Section title="Take apart">
      <SheetTable
        label="Take apart"
        rows={ways}
        rowId={({ part, product }) => `${part.id} ${product.id}`}
        columns={[
          { header: "Part", cell: ({ part }) => <Named name={part.name} more={[part.code]} /> },
          {
            header: "Short",
            end: true,
            cell: ({ part, short }) => <Short>{format.amount(short, part.unit)}</Short>,
          },
          {
            header: "Inside",
            cell: ({ product, free }) => (
              <Named name={product.name} more={[product.code, `${format.amount(free, product.unit)} free`]} />
            ),
          },
          {
            header: "They hold",
            end: true,
            cell: ({ part, product, units, held }) => (
              <>
                {format.amount(held, part.unit)}
                <small>in {format.amount(units, product.unit)}</small>
              </>
            ),
          },
          {
            header: "Value lost",
            end: true,
            cell: ({ lost }) => (lost === null ? "no cost known" : format.money(lost)),
          },
          {
            header: "",
            end: true,
            cell: (way) => (
              <Button onPress={() => setTaking(way)}>
                Take apart {format.amount(startOf(way).quantity)} {way.product.code}
              </Button>
            ),
          },
        ]}
      />
      {taking && (
        <TakeApartDialog
          start={{ ...startOf(taking), item: taking.product }}
          onClose={() => setTaking(null)}
          onDone={() => setTaking(null)}
        />
      )}
    </Section>
  );
}
