import { type BuildSheet, buildRoutes, type HandOut as HandOutAnswer } from "@yosegi/contract";
import { useState } from "react";
import { Link } from "react-router";
import { useCommand, usePress } from "../api/index.ts";
import { QuantityField } from "../fields/index.ts";
import {
  AskButton,
  Button,
  DateField,
  Named,
  Notice,
  Row,
  Section,
  SheetTable,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { useHandOuts } from "./queries.ts";
import { Shorts } from "./shorts.tsx";

/** Hands out what is drawn at pick: in one press, for so many units, or what there is of it. */
export function HandOut({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const begin = { day: format.settings.today, units: "", note: "" };
  const [typed, setTyped] = useState(begin);
  const handOut = useCommand(buildRoutes.handOut, () => {
    setTyped(begin);
    sayDone(
      `Parts for ${build.number} are ${build.subcontractor ? `with ${build.subcontractor.name}` : "on the bench"}.`,
    );
  });
  const drawn = build.lines.filter(
    (line) => line.open !== "0" && line.stocked && (line.drawnAt === "pick" || build.subcontractor !== null),
  );
  if (drawn.length === 0) return null;
  const { day, units, note } = typed;
  const run = (some: boolean) =>
    void handOut.run({
      params: { id: build.id },
      body: { day, some, units: units === "" ? null : units, note },
    });
  const words = `${format.count(drawn.length, "part", "parts")} ${build.subcontractor ? `to ${build.subcontractor.name}` : "to the bench"}`;
  const { errors } = handOut;
  return (
    <>
      {handOut.refusal && !errors.day && !errors.units && (
        <Notice>
          <b>{handOut.refusal.message}</b>
          <Shorts shorts={handOut.refusal.shorts} />
          {handOut.refusal.shorts && (
            <Row style={{ marginTop: 6 }}>
              <Button onPress={() => run(true)}>Hand out what's available</Button>
            </Row>
          )}
        </Notice>
      )}
      <Row style={{ margin: "0 0 12px", alignItems: "end" }}>
        <QuantityField
          label="For how many"
          width="130px"
          placeholder="all"
          unit={build.product.unit}
          packs={build.product.packs}
          value={units}
          onChange={(next) => setTyped({ ...typed, units: next })}
          error={errors.units}
        />
        <DateField
          label="Handed out on"
          width="180px"
          value={day}
          onChange={(next) => setTyped({ ...typed, day: next })}
          error={errors.day}
        />
        <TextField
          label="Note"
          width="190px"
          value={note}
          onChange={(next) => setTyped({ ...typed, note: next })}
          error={errors.note}
        />
        <Button
          look={build.stage === "queued" ? "main" : "quiet"}
          isPending={handOut.busy}
          onPress={() => run(false)}
        >
          Hand out {words}
        </Button>
      </Row>
    </>
  );
}

/** What was handed out so far, each with its number, its slip, and the way to undo it. */
export function HandOuts({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const { data } = useHandOuts(build.id);
  const undo = usePress(buildRoutes.undoHandOut, () => sayDone("The parts are back in stock."));
  if (!data || data.handOuts.length === 0) return null;
  const slip = (n: number, as: string) => `/api/builds/${build.id}/hand-outs/${n}/slip?format=${as}`;
  const about = ({ units, note, person, moment }: HandOutAnswer) => [
    `${format.moment(moment)} by ${person}`,
    units !== null && `for ${format.amount(units, build.product.unit)}`,
    note,
  ];
  return (
    <Section title="Handed out">
      <SheetTable
        label="Handed out"
        rows={data.handOuts}
        rowId={(one) => one.n}
        columns={[
          { header: "Number", cell: (one) => <Named name={one.number} more={about(one)} /> },
          {
            header: "Parts",
            cell: ({ parts, undone }) =>
              undone
                ? "undone"
                : parts
                    .map(({ item, quantity }) => `${format.amount(quantity, item.unit)} ${item.code}`)
                    .join(", "),
          },
          {
            header: "",
            end: true,
            cell: ({ n, number, round, undone }) => (
              <>
                <a href={slip(n, "pdf")} target="_blank" rel="noreferrer">
                  Slip
                </a>{" "}
                <a href={slip(n, "xlsx")} aria-label={`Slip of ${number} as spreadsheet`}>
                  XLSX
                </a>{" "}
                {round !== null && <Link to={`/pick/${round.id}`}>{round.number}</Link>}
                {round === null && !undone && (
                  <AskButton
                    look="link"
                    aria-label={`Undo ${number}`}
                    isPending={undo.busy}
                    question={{
                      title: `Undo ${number}?`,
                      text: "Its parts are back in the bins they came from, and reserved again.",
                      yes: "Undo",
                    }}
                    onYes={() => void undo.run({ params: { id: build.id, n } })}
                  >
                    Undo
                  </AskButton>
                )}
              </>
            ),
          },
        ]}
      />
    </Section>
  );
}
