import { type RecurringBuild, recurringRoutes } from "@yosegi/contract";
import { useWatch } from "react-hook-form";
import { Link } from "react-router";
import { usePress } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { useWorking } from "../people/index.ts";
import {
  Choices,
  type Format,
  Named,
  Row,
  SheetTable,
  Short,
  Stack,
  sayDone,
  useFieldState,
  useFormat,
} from "../ui/index.ts";
import { type Product, RowSteps } from "./rowsteps.tsx";

/** The names of the days of the week, 1 Monday to 7 Sunday. */
const dayNames = (format: Format) =>
  // 1 January 2024 was a Monday.
  Array.from({ length: 7 }, (_, i) =>
    new Intl.DateTimeFormat(format.wording, { weekday: "long", timeZone: "UTC" }).format(
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
  const remove = usePress(recurringRoutes.removeRecurring);
  const bringBack = usePress(recurringRoutes.newRecurring);
  const onRemove = async ({ id, product, quantity, weekdays, starts, assigned, note }: RecurringBuild) => {
    const body = { product: product.id, quantity, weekdays, starts, assigned: assigned?.id ?? null, note };
    if (await remove.run({ params: { id } }))
      sayDone(`Recurring build of ${product.code} removed.`, () => void bringBack.run({ body }));
  };
  return (
    <SheetTable
      label="Recurring builds"
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
        { header: "Assigned to", cell: (row) => row.assigned?.name ?? "–" },
        { header: "Last created", cell: (row) => (row.lastDay ? format.day(row.lastDay) : "–") },
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

interface RecurringDraft {
  product: Product | null;
  quantity: string;
  weekdays: boolean[];
  starts: string;
  /** The id of a person; "" for nobody yet. */
  assigned: string;
  note: string;
}

const WEEK = [1, 2, 3, 4, 5, 6, 7];

const draftOf = ({
  product,
  quantity,
  weekdays,
  starts,
  assigned,
  note,
}: RecurringBuild): RecurringDraft => ({
  product,
  quantity,
  weekdays: WEEK.map((day) => weekdays.includes(day)),
  starts,
  assigned: assigned ? String(assigned.id) : "",
  note,
});

const In = fieldsOf<RecurringDraft>();

/** A build on fixed days; `row` as it is now, null for a new one. */
export function RecurringDialog({
  row,
  isOpen,
  onClose,
}: {
  row: RecurringBuild | null;
  isOpen: boolean;
  onClose: () => void;
}) {
  const format = useFormat();
  return (
    <FormDialog
      title={row ? "Edit recurring build" : "New recurring build"}
      isOpen={isOpen}
      onClose={onClose}
      save="Save"
      more={<Link to="/builds">Go to builds</Link>}
      route={row ? recurringRoutes.changeRecurring : recurringRoutes.newRecurring}
      params={{ id: row?.id ?? 0 }}
      begin={
        row
          ? draftOf(row)
          : {
              product: null,
              quantity: "",
              weekdays: WEEK.map(() => false),
              starts: format.settings.today,
              assigned: "",
              note: "",
            }
      }
      version={row?.version}
      body={({ product, weekdays, assigned, ...typed }: RecurringDraft) => ({
        ...typed,
        product: product?.id ?? 0,
        weekdays: WEEK.filter((_, i) => weekdays[i]),
        assigned: wholeNumber(assigned),
      })}
      done={() => sayDone("Recurring build saved.")}
    >
      <RecurringFields />
    </FormDialog>
  );
}

function RecurringFields() {
  const format = useFormat();
  const { people } = useWorking();
  const product = useWatch<RecurringDraft, "product">({ name: "product" });
  const { message } = useFieldState("weekdays", "");
  return (
    <Stack>
      <In.Item label="Product" name="product" choosing="product" autoFocus />
      <Row>
        <In.Quantity
          packs={product?.packs ?? []}
          label="Quantity"
          name="quantity"
          width="150px"
          unit={product?.unit}
        />
        <In.Day label="From" name="starts" />
        <In.Choice
          label="Assigned to"
          name="assigned"
          width="150px"
          none="Unassigned"
          options={people.map((p) => ({ value: String(p.id), label: p.name }))}
        />
      </Row>
      <Choices legend="Every">
        {dayNames(format).map((name, i) => (
          <In.Tick key={name} name={`weekdays.${i}`}>
            {name}
          </In.Tick>
        ))}
        {message && <Short role="alert">{message}</Short>}
      </Choices>
      <In.Text label="Note" name="note" />
    </Stack>
  );
}
