import { type Firm, type HeldUnit, reworkRoutes } from "@yosegi/contract";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { usePress } from "../api/index.ts";
import {
  Button,
  type Format,
  Named,
  Row,
  Section,
  SheetTable,
  Sub,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { NewReworkDialog } from "./newdialog.tsx";
import { useHeldUnits } from "./queries.ts";
import { RegisterDialog } from "./registerdialog.tsx";

/** Of what is inside a unit so much is listed; its card has all of it. */
const INSIDE = 4;

function insideWords(contents: HeldUnit["contents"], format: Format): string {
  const words = contents
    .slice(0, INSIDE)
    .map(({ item, quantity, lot, serial }) =>
      [serial === "" && format.amount(quantity, item.unit), item.code, serial || lot]
        .filter(Boolean)
        .join(" "),
    );
  return [...words, ...(contents.length > INSIDE ? ["…"] : [])].join(", ");
}

/** Units that a customer has, with what is inside, warranty and earlier reworks; each can be taken in for a rework. */
export function HeldUnits({ customer }: { customer: Pick<Firm, "id" | "code" | "name"> }) {
  const format = useFormat();
  const navigate = useNavigate();
  const { data } = useHeldUnits(customer.id);
  const [taking, setTaking] = useState<{ at: number } | "other" | null>(null);
  const [isRegistering, setRegistering] = useState(false);
  const forget = usePress(reworkRoutes.removeRegisteredUnit, () => sayDone("It is not listed now."));
  if (!data) return null;
  const { units } = data;
  const unit = taking !== null && taking !== "other" ? units[taking.at] : undefined;
  return (
    <Section
      title="Units they have"
      more={
        <Row>
          <Button look="link" onPress={() => setRegistering(true)}>
            Write one down
          </Button>
          <Button look="link" onPress={() => setTaking("other")}>
            Take one in for rework
          </Button>
        </Row>
      }
    >
      {units.length === 0 ? (
        <Sub>No unit with a serial number was shipped to them.</Sub>
      ) : (
        <SheetTable
          label="Units they have"
          rows={units}
          rowId={({ item, serial }) => `${item.id} ${serial}`}
          columns={[
            {
              header: "Unit",
              cell: ({ item, serial, byHand, note }) => (
                <Named
                  name={item.name}
                  {...(!byHand && { to: `/trace?item=${item.id}&serial=${encodeURIComponent(serial)}` })}
                  more={[item.code, serial, byHand && "written down by hand", note]}
                />
              ),
            },
            {
              header: "Inside",
              cell: ({ contents }) => insideWords(contents, format) || "–",
            },
            { header: "Since", cell: ({ since }) => (since === null ? "–" : format.day(since)) },
            {
              header: "Warranty",
              cell: ({ warrantyUntil }) =>
                warrantyUntil === null
                  ? "–"
                  : `${warrantyUntil < format.settings.today ? "ended" : "until"} ${format.day(warrantyUntil)}`,
            },
            {
              header: "Reworks",
              cell: ({ reworks }) =>
                reworks.length === 0
                  ? "–"
                  : reworks.map(({ id, number }) => (
                      <Link key={id} to={`/reworks/${id}`}>
                        {number}{" "}
                      </Link>
                    )),
            },
            {
              header: "",
              end: true,
              cell: (own) => (
                <Row style={{ justifyContent: "end" }}>
                  <Button
                    look="link"
                    aria-label={`Rework ${own.item.code} ${own.serial}`}
                    onPress={() => setTaking({ at: units.indexOf(own) })}
                  >
                    Rework …
                  </Button>
                  {own.byHand && (
                    <Button
                      look="link"
                      aria-label={`Forget ${own.item.code} ${own.serial}`}
                      onPress={() =>
                        void forget.run({
                          params: { id: customer.id },
                          body: { item: own.item.id, serial: own.serial },
                        })
                      }
                    >
                      Forget
                    </Button>
                  )}
                </Row>
              ),
            },
          ]}
        />
      )}
      {isRegistering && <RegisterDialog customer={customer} onClose={() => setRegistering(false)} />}
      {taking !== null && (
        <NewReworkDialog
          start={{ customer, isTheirs: true, ...(unit && { item: unit.item, serial: unit.serial }) }}
          onClose={() => setTaking(null)}
          onDone={({ id }) => void navigate(`/reworks/${id}`)}
        />
      )}
    </Section>
  );
}
