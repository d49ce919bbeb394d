import type { ReworkSheet, ReworkUnit } from "@yosegi/contract";
import { useState } from "react";
import { ItemLabels } from "../labels/index.ts";
import { Button, Named, Section, SheetTable, useFormat } from "../ui/index.ts";
import { LineActions } from "./lineactions.tsx";
import { OUTCOME_WORDS, unitName } from "./words.ts";

/** The units of a rework, with what they carry and what became of each. */
export function UnitsTable({ one }: { one: ReworkSheet }) {
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
