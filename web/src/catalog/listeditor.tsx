import { type ItemSheet, routes } from "@yosegi/contract";
import { Trash2 } from "lucide-react";
import { useMemo, useRef, useState } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  CostBar,
  Facts,
  Form,
  Large,
  Notice,
  Row,
  Select,
  Sub,
  sayDone,
  Table,
  Unseen,
  useFormat,
  useShortcut,
} from "../ui/index.ts";
import { ItemField } from "./itemfield.tsx";
import {
  bodyOf,
  changeLine,
  costOfDraft,
  type DraftLine,
  type DraftList,
  draftOf,
  firstUnit,
  removeLine,
  sentIndex,
  unitsFor,
} from "./listdraft.ts";
import { useUnits } from "./queries.ts";

/** Writes a parts list by keyboard: code, Tab, quantity, Tab, unit, Enter for the next line. What it costs adds up beside. */
export function ListEditor({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const navigate = useNavigate();
  const units = useUnits();
  const grid = useRef<HTMLTableElement>(null);
  const [draft, setDraft] = useState(() => draftOf(item));
  const cost = useMemo(() => costOfDraft(draft, units, item.price), [draft, units, item.price]);
  const back = `/catalog/${item.id}`;
  const save = useCommand(routes.saveList, () => {
    sayDone(`The parts list of ${item.code} is saved.`);
    void navigate(back);
  });
  const submit = () => save.run({ params: { id: item.id }, body: bodyOf(draft) });
  const sent = sentIndex(draft);
  const nameOf = (line: DraftLine, field: string) => `lines.${sent.get(line.key)}.${field}`;

  // A part that is looked up comes when the person types on already: changes build on what is there then.
  const change = (key: number, to: Partial<DraftLine>) => setDraft((before) => changeLine(before, key, to));
  const head = (to: Partial<DraftList>) => setDraft((before) => ({ ...before, ...to }));
  const remove = (key: number) => setDraft((before) => removeLine(before, key));
  const nextLine = (index: number) => {
    const inputs = grid.current?.querySelectorAll<HTMLInputElement>("input[role=combobox]");
    inputs?.[index + 1]?.focus();
  };
  useShortcut("s", "Save the parts list", () => void submit());

  return (
    <Form refusal={save.refusal} onSubmit={() => void submit()}>
      <h1>Parts list of {item.name}</h1>
      <Sub>
        {item.code} · what goes into one batch. Type a code, Tab, the quantity, Tab, the unit; Enter goes to
        the next line.
      </Sub>
      {save.errors.lines && <Notice>{save.errors.lines}</Notice>}
      {save.errors.product && <Notice>{save.errors.product}</Notice>}
      <Row>
        <AmountField
          label="One batch makes"
          name="makes"
          width="150px"
          unit={item.unit}
          value={draft.makes}
          onChange={(makes) => head({ makes })}
        />
        <AmountField
          label="Usual build"
          name="usual"
          width="150px"
          unit={item.unit}
          value={draft.usual}
          onChange={(usual) => head({ usual })}
          hint="Costs are figured at it."
        />
        <AmountField
          label="Overhead"
          name="overhead"
          width="190px"
          unit={`${format.settings.currency} per ${item.unit}`}
          value={draft.overhead}
          onChange={(overhead) => head({ overhead })}
        />
      </Row>
      <Wide>
        <Grid
          ref={grid}
          aria-label="Parts"
          onKeyDown={(e) => {
            if (e.key !== "Enter" || !(e.target instanceof HTMLInputElement) || e.target.role === "combobox")
              return;
            e.preventDefault();
            const row = e.target.closest("tr");
            nextLine(row ? row.rowIndex - 1 : 0);
          }}
        >
          <thead>
            <tr>
              <th scope="col">Part</th>
              <th scope="col">Quantity</th>
              <th scope="col">Unit</th>
              <th scope="col">Waste</th>
              <th scope="col">Once</th>
              <th scope="col" className="end">
                Cost of {format.amount(draft.usual, item.unit)}
              </th>
              <th scope="col">
                <Unseen>Remove</Unseen>
              </th>
            </tr>
          </thead>
          <tbody>
            {draft.lines.map((line, index) => {
              const n = index + 1;
              const lineCost = cost?.byLine.get(line.key);
              return (
                <tr key={line.key}>
                  <td>
                    <ItemField
                      label={`Part ${n}`}
                      hideLabel
                      choosing="part"
                      product={item.id}
                      value={line.part}
                      onChange={(part) => change(line.key, { part, unit: part ? firstUnit(part) : "" })}
                      name={nameOf(line, "part")}
                      autoFocus={index === 0 && !line.part}
                    />
                  </td>
                  <td>
                    <AmountField
                      label={`Quantity of part ${n}`}
                      hideLabel
                      width="104px"
                      value={line.quantity}
                      onChange={(quantity) => change(line.key, { quantity })}
                      name={nameOf(line, "quantity")}
                    />
                  </td>
                  <td>
                    <Select
                      label={`Unit of part ${n}`}
                      hideLabel
                      width="84px"
                      value={line.unit}
                      options={unitsFor(line.part, units)}
                      onChange={(unit) => change(line.key, { unit })}
                      name={nameOf(line, "unit")}
                      placeholder="–"
                    />
                  </td>
                  <td>
                    <AmountField
                      label={`Waste of part ${n}`}
                      hideLabel
                      width="84px"
                      unit="%"
                      value={line.waste}
                      onChange={(waste) => change(line.key, { waste })}
                      name={nameOf(line, "waste")}
                    />
                  </td>
                  <td>
                    <Checkbox
                      aria-label={`Part ${n} only once per build`}
                      isSelected={line.oncePerBuild}
                      onChange={(oncePerBuild) => change(line.key, { oncePerBuild })}
                    />
                  </td>
                  <td className="end">
                    {lineCost
                      ? format.money(lineCost)
                      : line.part && line.part.unitCost === null
                        ? "no cost yet"
                        : "–"}
                  </td>
                  <td>
                    {index < draft.lines.length - 1 && (
                      <Button look="icon" aria-label={`Remove part ${n}`} onPress={() => remove(line.key)}>
                        <Trash2 />
                      </Button>
                    )}
                  </td>
                </tr>
              );
            })}
          </tbody>
        </Grid>
      </Wide>
      {cost && (
        <>
          <Facts aria-live="polite">
            <div>
              <dt>Cost per {item.unit}</dt>
              <dd>
                <Large>{format.unitCost(cost.each.toFixed(4))}</Large>
              </dd>
            </div>
            <div>
              <dt>Price</dt>
              <dd>{item.price ? format.money(item.price) : "none yet"}</dd>
            </div>
            {cost.margin && (
              <div>
                <dt>Margin</dt>
                <dd>
                  {format.money(cost.margin.money.toFixed(4))}
                  {cost.margin.percent && ` · ${format.percent(cost.margin.percent.toFixed())}`}
                </dd>
              </div>
            )}
          </Facts>
          <CostBar
            of={`${format.amount(draft.usual, item.unit)}:`}
            cost={{
              materials: cost.materials.toFixed(4),
              work: cost.work.toFixed(4),
              overhead: cost.overhead.toFixed(4),
            }}
          />
        </>
      )}
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save the list
        </Button>
        <Button onPress={() => void navigate(back)}>Leave it as it was</Button>
      </Actions>
    </Form>
  );
}

const Wide = styled.div`
  overflow-x: auto;
`;

const Grid = styled(Table)`
  margin: 14px 0 4px;
  border: 1px solid var(--line);
  td {
    vertical-align: top;
    padding: 5px 6px;
  }
  td:first-child {
    width: 100%;
    min-width: 200px;
  }
  td.end {
    padding-top: 13px;
  }
`;
