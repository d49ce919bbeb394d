import { type RecurringBuild, routes } from "@yosegi/contract";
import { useState } from "react";
import { Link } from "react-router";
import { useCommand, usePress } from "../api/index.ts";
import { QuantityField } from "../fields/index.ts";
import { useWorking } from "../people/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  DateField,
  type Described,
  Form,
  type Format,
  Named,
  Row,
  Select,
  SheetTable,
  Short,
  Stack,
  Stale,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { type Product, ProductField, RowSteps } from "./rowsteps.tsx";

/** The names of the days of the week, 1 Monday to 7 Sunday. */
const dayNames = (format: Format) =>
  // 1 January 2024 was a Monday.
  Array.from({ length: 7 }, (_, i) =>
    new Intl.DateTimeFormat(format.locale, { weekday: "long", timeZone: "UTC" }).format(
      new Date(Date.UTC(2024, 0, 1 + i)),
    ),
  );

export function RecurringTable({
  rows,
  onChange,
}: {
  rows: RecurringBuild[];
  onChange: (row: RecurringBuild) => void;
}) {
  const format = useFormat();
  const names = dayNames(format);
  const remove = usePress(routes.removeRecurring);
  const bringBack = usePress(routes.newRecurring);
  const onRemove = async ({ id, product, quantity, weekdays, starts, assigned, note }: RecurringBuild) => {
    const body = { product: product.id, quantity, weekdays, starts, assigned: assigned?.id ?? null, note };
    if (await remove.run({ params: { id } }))
      sayDone(`The recurring build of ${product.code} is removed.`, () => void bringBack.run({ body }));
  };
  return (
    <SheetTable
      stacks
      label="On fixed days"
      rows={rows}
      rowId={(row) => row.id}
      columns={[
        {
          header: "Build",
          cell: (row) => (
            <Named
              name={`${format.amount(row.quantity)} × ${row.product.name}`}
              to={`/catalog/${row.product.id}`}
              more={[row.product.code, row.note, row.problem]}
            />
          ),
        },
        { header: "Every", cell: (row) => format.list(row.weekdays.map((day) => names[day - 1] ?? "")) },
        { header: "Done by", cell: (row) => row.assigned?.name ?? "–" },
        { header: "Last made", cell: (row) => (row.lastDay ? format.day(row.lastDay) : "–") },
        {
          header: "Next",
          cell: (row) =>
            row.problem ? <Short>cannot be made</Short> : row.next ? format.day(row.next) : "–",
        },
        {
          header: "",
          cell: (row) => (
            <RowSteps
              change={`Change the build of ${row.product.code}`}
              onChange={() => onChange(row)}
              remove={`Remove the recurring build of ${row.product.code}`}
              onRemove={() => void onRemove(row)}
            />
          ),
        },
      ]}
    />
  );
}

const NOBODY = "none";

interface Draft {
  product: Product | null;
  quantity: string;
  weekdays: readonly number[];
  starts: string;
  /** The id of a person as text, or NOBODY. */
  assigned: string;
  note: string;
}

const draftOf = ({ product, quantity, weekdays, starts, assigned, note }: RecurringBuild): Draft => ({
  product,
  quantity,
  weekdays,
  starts,
  assigned: assigned ? String(assigned.id) : NOBODY,
  note,
});

export function RecurringForm({ row, onClose }: { row: RecurringBuild | null; onClose: () => void }) {
  const format = useFormat();
  const { people } = useWorking();
  const [draft, setDraft] = useState<Draft>(() =>
    row
      ? draftOf(row)
      : {
          product: null,
          quantity: "",
          weekdays: [],
          starts: format.settings.today,
          assigned: NOBODY,
          note: "",
        },
  );
  const [version, setVersion] = useState(row?.version ?? null);
  const set = (change: Partial<Draft>) => setDraft((before) => ({ ...before, ...change }));
  const { product, quantity, weekdays, starts, assigned, note } = draft;
  const done = () => {
    sayDone("The standing build is kept.");
    onClose();
  };
  const make = useCommand(routes.newRecurring, done);
  const change = useCommand(routes.changeRecurring, done);
  const command = row ? change : make;
  const body = {
    product: product?.id ?? 0,
    quantity,
    weekdays: [...weekdays],
    starts,
    note,
    assigned: assigned === NOBODY ? null : Number(assigned),
  };
  const names = dayNames(format);
  const assignees = [
    { value: NOBODY, label: "nobody yet" },
    ...people.map((p) => ({ value: String(p.id), label: p.name })),
  ];
  const describe = (of: Draft): Described => [
    ["Product", of.product?.code ?? ""],
    ["How many", of.quantity],
    ["Every", format.list([...of.weekdays].sort().map((day) => names[day - 1] ?? ""))],
    ["From", of.starts],
    ["Who does it", assignees.find(({ value }) => value === of.assigned)?.label ?? ""],
    ["Note", of.note],
  ];
  return (
    <Form
      refusal={command.refusal}
      onSubmit={() => void (row ? change.run({ params: { id: row.id }, body, version }) : make.run({ body }))}
    >
      {row && (
        <Stale
          command={change}
          mine={describe(draft)}
          theirs={describe(draftOf(row))}
          onMine={() => setVersion(row.version)}
          onTheirs={() => {
            setDraft(draftOf(row));
            setVersion(row.version);
          }}
        />
      )}
      <Stack>
        <ProductField value={product} onChange={(found) => set({ product: found })} />
        <Row>
          <QuantityField
            packs={product?.packs ?? []}
            label="How many"
            name="quantity"
            width="150px"
            unit={product?.unit}
            value={quantity}
            onChange={(typed) => set({ quantity: typed })}
          />
          <DateField label="From" name="starts" value={starts} onChange={(day) => set({ starts: day })} />
          <Select
            label="Who does it"
            name="assigned"
            width="150px"
            value={assigned}
            options={assignees}
            onChange={(person) => set({ assigned: person })}
          />
        </Row>
        <fieldset style={{ border: 0, padding: 0, margin: 0 }}>
          <legend style={{ fontSize: 13, fontWeight: 600, color: "var(--ink2)" }}>Every</legend>
          <Row>
            {names.map((name, i) => (
              <Checkbox
                key={name}
                isSelected={weekdays.includes(i + 1)}
                onChange={(on) =>
                  set({ weekdays: on ? [...weekdays, i + 1] : weekdays.filter((d) => d !== i + 1) })
                }
              >
                {name}
              </Checkbox>
            ))}
          </Row>
          {command.errors.weekdays && <Short role="alert">{command.errors.weekdays}</Short>}
        </fieldset>
        <TextField label="Note" name="note" value={note} onChange={(typed) => set({ note: typed })} />
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={command.busy} isDisabled={product === null}>
          Keep it
        </Button>
        <Link to="/builds">To the builds</Link>
      </Actions>
    </Form>
  );
}
