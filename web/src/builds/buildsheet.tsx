import { type BuildSheet, routes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { useState } from "react";
import { Link } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { QuantityField } from "../catalog/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  DateField,
  Dialog,
  Facts,
  Form,
  Notice,
  Row,
  Select,
  SheetTable,
  Short,
  Sub,
  sayDone,
  TextField,
  TileStrip,
  useFormat,
} from "../ui/index.ts";
import { CostSheet } from "./costsheet.tsx";
import { FinishForm } from "./finishform.tsx";
import { lineFigure, PartCell } from "./linecells.tsx";
import { STAGE_WORDS } from "./words.ts";

/** One build: what it is, what can be done with it now, its parts, and what was recorded. */
export function BuildSheetView({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const { product } = build;
  return (
    <article>
      <h1>
        {format.amount(build.quantity)} × {product.name}
      </h1>
      <Sub>
        {build.number} ·{" "}
        {build.history.map((h) => `${h.what} ${format.moment(h.moment)} by ${h.person}`).join(" · ")}
      </Sub>
      <Facts>
        <div>
          <dt>Made so far</dt>
          <dd>
            <TileStrip
              small
              wanted={build.quantity}
              there={build.good}
              says={`${format.amount(build.good)} of ${format.amount(build.quantity)} made`}
            />
            {format.amount(build.good)} of {format.amount(build.quantity, product.unit)}
            {build.rejected !== "0" && `, ${format.amount(build.rejected)} rejected`}
          </dd>
        </div>
        <div>
          <dt>Stage</dt>
          <dd>{STAGE_WORDS[build.stage]}</dd>
        </div>
        <div>
          <dt>Due</dt>
          <dd>{due(build, format)}</dd>
        </div>
        <div>
          <dt>Product</dt>
          <dd>
            <Link to={`/catalog/${product.id}`}>{product.code}</Link>
          </dd>
        </div>
        {build.list && (
          <div>
            <dt>Built by</dt>
            <dd>
              <Link to={`/catalog/${product.id}/lists`}>
                {build.list.main ? "main list" : build.list.name}, revision {build.list.revision}
              </Link>
            </dd>
          </div>
        )}
        {build.options.some((o) => o.chosen) && (
          <div>
            <dt>With</dt>
            <dd>{format.list(build.options.filter((o) => o.chosen).map((o) => o.name))}</dd>
          </div>
        )}
        {build.wanted !== build.quantity && (
          <div>
            <dt>Wanted</dt>
            <dd>
              {format.amount(build.wanted)} good of {format.amount(build.quantity)} started
            </dd>
          </div>
        )}
        {build.price && (
          <div>
            <dt>Price</dt>
            <dd>{format.money(build.price)}</dd>
          </div>
        )}
        {build.note && (
          <div>
            <dt>Note</dt>
            <dd>{build.note}</dd>
          </div>
        )}
      </Facts>
      {build.stage === "draft" && <Draft build={build} />}
      {build.stage === "queued" && <Queued build={build} />}
      {build.finishes.map((finish) => (
        <CostSheet key={finish.id} build={build} finish={finish} />
      ))}
    </article>
  );
}

function due(build: BuildSheet, format: ReturnType<typeof useFormat>) {
  if (!build.due) return "no day";
  const words = `${format.day(build.due)}, ${format.relativeDay(build.due)}`;
  const open = build.stage === "draft" || build.stage === "queued";
  return open && build.due < format.settings.today ? <Short>{words}</Short> : words;
}

function Draft({ build }: { build: BuildSheet }) {
  const format = useFormat();
  const [changing, setChanging] = useState(false);
  const input = { params: { id: build.id } };
  const queue = useCommand(routes.queueBuild, () =>
    sayDone(`${build.number} is queued; its parts are reserved.`),
  );
  return (
    <>
      {queue.refusal && <Notice>{queue.refusal.message}</Notice>}
      <Actions style={{ marginTop: 0 }}>
        <Button look="main" autoFocus isPending={queue.busy} onPress={() => void queue.run(input)}>
          Queue it: reserve the parts
        </Button>
        <Button onPress={() => setChanging(true)}>Change</Button>
        <CancelButton build={build} />
      </Actions>
      <PlannedParts build={build} />
      <Dialog title={`Change ${build.number}`} isOpen={changing} onClose={() => setChanging(false)}>
        <ChangeForm build={build} onClose={() => setChanging(false)} />
      </Dialog>
      <Sub>
        What it takes follows the parts list of {build.product.code} until it is queued. On hand is figured as
        of {format.day(format.settings.today)}.
      </Sub>
    </>
  );
}

function Queued({ build }: { build: BuildSheet }) {
  const format = useFormat();
  return (
    <>
      {build.waitsFor.length > 0 && (
        <Notice role="status">
          Waits for <b>{format.list(build.waitsFor)}</b>: after the builds before it, too little is left.
        </Notice>
      )}
      <FinishForm
        key={`${build.good} ${build.rejected}`}
        build={build}
        cancel={<CancelButton build={build} />}
      />
    </>
  );
}

function ChangeForm({ build, onClose }: { build: BuildSheet; onClose: () => void }) {
  const [quantity, setQuantity] = useState(build.wanted);
  const [list, setList] = useState(String(build.list?.id ?? ""));
  const [options, setOptions] = useState(() => build.options.filter((o) => o.chosen).map((o) => o.item));
  const [due, setDue] = useState(build.due ?? "");
  const [note, setNote] = useState(build.note);
  const change = useCommand(routes.changeBuild, () => {
    sayDone(`${build.number} is changed.`);
    onClose();
  });
  return (
    <Form
      refusal={change.refusal}
      onSubmit={() =>
        void change.run({
          params: { id: build.id },
          body: {
            ...{ quantity, note, options },
            due: due === "" ? null : due,
            list: list === "" ? null : Number(list),
          },
        })
      }
    >
      <Row>
        <QuantityField
          packs={build.product.packs}
          label="How many"
          name="quantity"
          width="150px"
          unit={build.product.unit}
          value={quantity}
          onChange={setQuantity}
          autoFocus
        />
        <DateField label="Due on" name="due" value={due} onChange={setDue} />
        {build.lists.length > 1 && (
          <Select
            label="Built by"
            name="list"
            width="190px"
            value={list}
            options={build.lists.map((l) => ({ value: String(l.id), label: l.name }))}
            onChange={(id) => {
              setList(id);
              setOptions([]);
            }}
          />
        )}
      </Row>
      {list === String(build.list?.id ?? "") &&
        build.options.map((option) => (
          <Checkbox
            key={option.item}
            isSelected={options.includes(option.item)}
            onChange={(on) =>
              setOptions(on ? [...options, option.item] : options.filter((o) => o !== option.item))
            }
          >
            With {option.name}
          </Checkbox>
        ))}
      <Wide>
        <TextField label="Note" name="note" value={note} onChange={setNote} />
      </Wide>
      <Actions>
        <Button look="main" type="submit" isPending={change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

function CancelButton({ build }: { build: BuildSheet }) {
  const [asking, setAsking] = useState(false);
  const cancel = useCommand(routes.cancelBuild, () => {
    sayDone(`${build.number} is cancelled.`);
    setAsking(false);
  });
  const reserved = build.lines.filter((line) => decimal(line.open).gt(0)).length;
  return (
    <>
      <Button onPress={() => setAsking(true)}>Cancel the build</Button>
      <Dialog
        title={`Cancel ${build.number}?`}
        isOpen={asking}
        onClose={() => setAsking(false)}
        width="460px"
      >
        {cancel.refusal && <Notice>{cancel.refusal.message}</Notice>}
        <p>
          {reserved === 0
            ? "Nothing is reserved for it."
            : `The ${reserved} parts reserved for it become free.`}
          {build.good !== "0" && " What was made and recorded stays."} A cancelled build cannot be taken up
          again.
        </p>
        <Actions>
          <Button
            look="main"
            isPending={cancel.busy}
            onPress={() => void cancel.run({ params: { id: build.id } })}
          >
            Cancel {build.number}
          </Button>
          <Button onPress={() => setAsking(false)}>Keep it</Button>
        </Actions>
      </Dialog>
    </>
  );
}

/** Where a part is fetched from, when it is drawn, and what its line says of it. */
const whereAndHow = (line: BuildSheet["lines"][number]) =>
  [line.store, line.bin, line.drawnAt === "finish" && line.stocked && "drawn at finish", line.note]
    .filter(Boolean)
    .join(" · ");

function PlannedParts({ build }: { build: BuildSheet }) {
  const format = useFormat();
  return (
    <SheetTable
      label="Parts"
      rows={build.lines}
      rowId={(line) => line.line}
      columns={[
        { header: "Part", cell: (line) => <PartCell line={line} more={whereAndHow(line)} /> },
        { header: "Planned", end: true, cell: (line) => lineFigure(line, line.need, format) },
        {
          header: "On hand",
          end: true,
          cell: (line) => {
            if (line.onHand === null) return line.service ? "work" : "not counted";
            const figure = lineFigure(line, line.onHand, format);
            return decimal(line.onHand).lt(line.need) ? <Short>{figure}</Short> : figure;
          },
        },
      ]}
    />
  );
}

const Wide = styled.div`
  margin-top: 14px;
`;
