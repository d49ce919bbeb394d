import { type ReworkPart, type ReworkSheet, reworkRoutes } from "@yosegi/contract";
import { usePress } from "../api/index.ts";
import { Button, Named, Section, SheetTable, Short, Sub, sayDone, useFormat } from "../ui/index.ts";
import { LineActions } from "./lineactions.tsx";
import { forUnit } from "./words.ts";

interface PartsTableProps {
  one: ReworkSheet;
  onAdd: () => void;
  onTake: (part: ReworkPart) => void;
}

/** The parts of a rework, and lines of text with an amount. */
export function PartsTable({ one, onAdd, onTake }: PartsTableProps) {
  const format = useFormat();
  const isOpen = one.state !== "done" && !one.undone;
  const remove = usePress(reworkRoutes.removeReworkPart, () => sayDone("Removed from the rework."));
  const add = (
    <Button look="link" onPress={() => onAdd()}>
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
                      <Button look="link" aria-label={`Take ${part.item?.code}`} onPress={() => onTake(part)}>
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
