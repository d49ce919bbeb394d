import { type BuildSheet, type FinishBody, type FinishPreview, routes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { type ReactNode, useState } from "react";
import styled from "styled-components";
import { Refused, useCommand } from "../api/index.ts";
import { QuantityField, useStores } from "../catalog/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  CostBar,
  DateField,
  Form,
  type Format,
  Notice,
  Row,
  Select,
  SheetTable,
  Short,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { Difference } from "./difference.tsx";
import { type BuildLine, lineFigure, PartCell } from "./linecells.tsx";
import { useFinishPreview } from "./queries.ts";
import { leavesRest } from "./rest.ts";

type PreviewLine = FinishPreview["lines"][number];

/** Finishing: what came out, what was really used of each part, what it cost; figured while typing, recorded on one press. */
export function FinishForm({ build, cancel }: { build: BuildSheet; cancel: ReactNode }) {
  const format = useFormat();
  const { product } = build;
  const stores = useStores().data?.stores ?? [];
  const [good, setGood] = useState(build.open);
  const [rejected, setRejected] = useState("0");
  const [reason, setReason] = useState("");
  const [day, setDay] = useState(format.settings.today);
  // Only figures that the person changed are sent; the others follow the plan.
  const [used, setUsed] = useState<ReadonlyMap<number, string>>(new Map());
  const [store, setStore] = useState(build.store);
  const [bin, setBin] = useState(build.bin);
  const [lot, setLot] = useState("");
  const [expiry, setExpiry] = useState("");
  const [serials, setSerials] = useState("");
  const [closeRest, setCloseRest] = useState(false);

  const lines = [...used].map(([line, quantity]) => ({ line, used: quantity }));
  const preview = useFinishPreview(build.id, { good, rejected, day, lines, closeRest });
  const finish = useCommand(routes.finishBuild, () =>
    sayDone(`${format.amount(good, product.unit)} of ${product.code} are in stock.`),
  );
  const body: FinishBody = {
    ...{ good, rejected, reason, day, lines, store, bin, lot, closeRest },
    expiry: expiry === "" ? null : expiry,
    serials: serials.split(/[\s,;]+/).filter(Boolean),
  };
  const refused = preview.error instanceof Refused ? preview.error.answer.fields : [];
  // What the preview finds wrong is said while typing; what only recording finds, at the field until it is changed.
  const live: Record<string, string> = Object.fromEntries(
    [...preview.unread, ...refused].map((f) => [f.field, f.message]),
  );
  const figured = preview.readable && !preview.error;
  const shorts = figured ? (preview.data?.shorts ?? []) : [];
  const errorOf = (line: BuildLine): string | undefined => {
    const short = shorts.find((s) => s.item === line.item.id);
    const index = lines.findIndex((l) => l.line === line.line);
    return (
      live[`lines.${index}.used`] ??
      finish.errors[`lines.${index}.used`] ??
      (short && line.stocked ? `${format.amount(short.there, short.unit)} on hand` : undefined)
    );
  };
  const setLine = (line: number, quantity: string, planned: string) => {
    const next = new Map(used);
    if (quantity === planned) next.delete(line);
    else next.set(line, quantity);
    setUsed(next);
  };
  const isPart = leavesRest(good, rejected, build.open);

  return (
    <Form refusal={finish.refusal} onSubmit={() => void finish.run({ params: { id: build.id }, body })}>
      <PartsUsed build={build} preview={preview.data} used={used} onUsed={setLine} errorOf={errorOf} />
      <Row style={{ marginTop: 16 }}>
        <QuantityField
          packs={product.packs}
          told={product.unit}
          label="Good"
          name="good"
          width="140px"
          unit={`of ${format.amount(build.open)}`}
          value={good}
          onChange={setGood}
          error={live.good}
        />
        <QuantityField
          packs={product.packs}
          told={product.unit}
          label="Rejected"
          name="rejected"
          width="110px"
          value={rejected}
          onChange={setRejected}
          error={live.rejected}
        />
        {rejected !== "0" && rejected !== "" && (
          <TextField label="Why rejected" name="reason" width="190px" value={reason} onChange={setReason} />
        )}
        {product.tracking === "lot" && (
          <>
            <TextField label="Lot" name="lot" width="130px" value={lot} onChange={setLot} />
            <DateField label="Use by" name="expiry" value={expiry} onChange={setExpiry} />
          </>
        )}
        <Select
          label="Store"
          name="store"
          width="140px"
          value={store}
          options={stores.map((s) => ({ value: s.name, label: s.name }))}
          onChange={setStore}
        />
        <TextField label="Bin" name="bin" width="90px" value={bin} onChange={setBin} />
        <DateField label="Done on" name="day" width="190px" value={day} onChange={setDay} />
      </Row>
      {product.tracking === "serial" && (
        <Wide>
          <TextField
            label="Serial numbers"
            name="serials"
            lines
            value={serials}
            onChange={setSerials}
            hint={`One for each good unit: ${format.amount(good || "0")} in all, one to a line.`}
          />
        </Wide>
      )}
      {isPart && (
        <Checkbox isSelected={closeRest} onChange={setCloseRest}>
          Give up the rest: nothing more will be made of {build.number}
        </Checkbox>
      )}
      {shorts.length > 0 && (
        <TooLittle
          preview={preview.data}
          format={format}
          unit={product.unit}
          onTake={setGood}
          worked={rejected}
        />
      )}
      <Actions>
        <Button look="main" type="submit" isPending={finish.busy}>
          Finish {/^\d/.test(good) ? format.amount(good) : ""}
        </Button>
        {cancel}
        {preview.data?.cost && figured && (
          <Total>
            {format.money(preview.data.cost.total)}
            {preview.data.cost.each
              ? ` · ${format.unitCost(preview.data.cost.each)} each for ${format.amount(good)}`
              : " · all of it a loss"}
          </Total>
        )}
      </Actions>
      {preview.data?.cost && figured && <CostBar cost={shares(preview.data.cost)} />}
    </Form>
  );
}

const shares = ({ parts, work, overhead }: NonNullable<FinishPreview["cost"]>) => ({ parts, work, overhead });

interface PartsUsedProps {
  build: BuildSheet;
  preview: FinishPreview | undefined;
  used: ReadonlyMap<number, string>;
  onUsed: (line: number, quantity: string, planned: string) => void;
  errorOf: (line: BuildLine) => string | undefined;
}

function PartsUsed({ build, preview, used, onUsed, errorOf }: PartsUsedProps) {
  const format = useFormat();
  const rows = build.lines.map((line) => {
    const figures = preview?.lines.find((l) => l.line === line.line);
    return { line, figures, planned: figures?.planned ?? "" };
  });
  return (
    <SheetTable
      label="Parts used"
      rows={rows}
      rowId={({ line }) => line.line}
      columns={[
        {
          header: "Part",
          cell: ({ line, figures }) => (
            <PartCell line={line} more={figures ? takenWords(figures, format) : ""} />
          ),
        },
        {
          header: "On hand",
          end: true,
          cell: ({ line }) => (line.onHand === null ? "work" : lineFigure(line, line.onHand, format)),
        },
        {
          header: "Planned",
          end: true,
          cell: ({ line, planned }) => (planned === "" ? "–" : lineFigure(line, planned, format)),
        },
        {
          header: "Used",
          end: true,
          cell: ({ line, planned }) => (
            <Cell>
              <QuantityField
                packs={line.item.packs}
                label={`Used of ${line.item.code}`}
                hideLabel
                width="132px"
                unit={line.unit}
                value={used.get(line.line) ?? planned}
                onChange={(quantity) => onUsed(line.line, quantity, planned)}
                error={errorOf(line)}
              />
            </Cell>
          ),
        },
        {
          header: "Difference",
          end: true,
          cell: ({ line, figures }) =>
            figures &&
            !errorOf(line) && (
              <Difference line={line} quantity={figures.difference} money={figures.differenceCost} />
            ),
        },
        {
          header: "Cost",
          end: true,
          cell: ({ line, figures }) =>
            figures && preview?.cost && !errorOf(line) ? format.money(figures.cost) : "–",
        },
      ]}
    />
  );
}

/** Which lots and serials would be taken, where that is told. */
function takenWords(line: PreviewLine, format: Format): string {
  const named = line.taken.flatMap((t) => (t.lot ? [`lot ${t.lot}`] : t.serial ? [t.serial] : []));
  return named.length === 0 ? "" : `from ${format.list([...new Set(named)])}`;
}

interface TooLittleProps {
  preview: FinishPreview | undefined;
  format: Format;
  unit: string;
  /** Rejected units, which use parts as good ones do. */
  worked: string;
  onTake: (good: string) => void;
}

function TooLittle({ preview, format, unit, worked, onTake }: TooLittleProps) {
  if (!preview || preview.largest === null) return null;
  const words = preview.shorts.map(
    (s) =>
      `${s.name}: ${format.amount(s.needed)} needed, ${format.amount(s.there)} on hand, ${format.amount(s.short, s.unit)} short`,
  );
  const possible = worked === "0" && decimal(preview.largest).gt(0);
  return (
    <Notice>
      <b>The books hold too little.</b>
      {words.map((text) => (
        <div key={text}>
          <Short>{text}</Short>
        </div>
      ))}
      <Row style={{ marginTop: 6, alignItems: "center" }}>
        {decimal(preview.largest).gt(0)
          ? `At most ${format.amount(preview.largest, unit)} can be finished.`
          : "None can be finished."}
        {possible && (
          <Button onPress={() => onTake(preview.largest ?? "")}>
            Make it {format.amount(preview.largest)}
          </Button>
        )}
      </Row>
    </Notice>
  );
}

const Cell = styled.div`
  display: flex;
  justify-content: flex-end;
  text-align: left;
`;
const Wide = styled.div`
  margin-top: 14px;
  max-width: 420px;
`;
const Total = styled.b`
  margin-left: auto;
  font: 600 18px/1.2 "Bricolage Grotesque Variable", sans-serif;
`;
