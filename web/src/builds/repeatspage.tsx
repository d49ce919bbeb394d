import { type KeepRule, PLAIN_BUILD, routes, type StandingBuild } from "@yosegi/contract";
import { Pencil, Plus, X } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Failure, useCommand } from "../api/index.ts";
import { ItemField, QuantityField } from "../catalog/index.ts";
import { useWorking } from "../people/index.ts";
import {
  Actions,
  Button,
  Checkbox,
  DateField,
  Dialog,
  Form,
  type Format,
  Named,
  Page,
  Row,
  Section,
  Select,
  SheetTable,
  Short,
  Stack,
  Sub,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { BuildsNav } from "./buildsnav.tsx";
import { useRepeats } from "./queries.ts";

type Product = { id: number; code: string; name: string; unit: string; packs: KeepRule["product"]["packs"] };

/** What is built again and again: to keep a stock, or on fixed days. */
export function RepeatsPage() {
  const format = useFormat();
  const { data, error } = useRepeats();
  const [keeping, setKeeping] = useState<KeepRule | "new" | null>(null);
  const [standing, setStanding] = useState<StandingBuild | "new" | null>(null);
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const low = data.keep.filter((rule) => rule.toBuild !== "0");
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>
          {low.length === 0
            ? "Nothing is to be built to keep the stock"
            : `${format.list(low.map((rule) => rule.product.name))} ${low.length === 1 ? "is" : "are"} to be built`}
        </h1>
        <Sub>
          A product is suggested when what is free, and what open builds will bring, falls below what is kept.
        </Sub>
        <Section
          title="Keep in stock"
          more={
            <Button onPress={() => setKeeping("new")}>
              <Plus /> Keep another product
            </Button>
          }
        >
          {data.keep.length === 0 ? (
            <p>No product is kept yet: say how many are to be there at least.</p>
          ) : (
            <KeepTable rules={data.keep} onChange={setKeeping} />
          )}
        </Section>
        <Section
          title="On fixed days"
          more={
            <Button onPress={() => setStanding("new")}>
              <Plus /> Another standing build
            </Button>
          }
        >
          {data.standing.length === 0 ? (
            <p>A dozen every Monday: a standing build makes its draft by itself on its day.</p>
          ) : (
            <StandingTable rows={data.standing} onChange={setStanding} />
          )}
        </Section>
        <Dialog
          title={keeping === "new" ? "Keep a product in stock" : `Keep ${keeping?.product.name ?? ""}`}
          isOpen={keeping !== null}
          onClose={() => setKeeping(null)}
        >
          {keeping && <KeepForm rule={keeping === "new" ? null : keeping} onClose={() => setKeeping(null)} />}
        </Dialog>
        <Dialog
          title={standing === "new" ? "New standing build" : "Change the standing build"}
          isOpen={standing !== null}
          onClose={() => setStanding(null)}
        >
          {standing && (
            <StandingForm row={standing === "new" ? null : standing} onClose={() => setStanding(null)} />
          )}
        </Dialog>
      </Page>
    </>
  );
}

/** Changing or removing a row. */
function RowSteps(props: { change: string; onChange: () => void; remove: string; onRemove: () => void }) {
  return (
    <Row $gap="2px">
      <Button look="icon" aria-label={props.change} onPress={props.onChange}>
        <Pencil />
      </Button>
      <Button look="icon" aria-label={props.remove} onPress={props.onRemove}>
        <X />
      </Button>
    </Row>
  );
}

function KeepTable({ rules, onChange }: { rules: KeepRule[]; onChange: (rule: KeepRule) => void }) {
  const format = useFormat();
  const navigate = useNavigate();
  const remove = useCommand(routes.removeKeepRule, () => sayDone("It is not kept any more."));
  const make = useCommand(routes.newBuild, (made) => {
    sayDone(`${made.number} is a draft.`);
    void navigate(`/builds/${made.id}`);
  });
  return (
    <SheetTable
      stacks
      label="Keep in stock"
      rows={rules}
      rowId={(rule) => rule.product.id}
      columns={[
        {
          header: "Product",
          cell: ({ product }) => (
            <Named name={product.name} to={`/catalog/${product.id}`} more={[product.code]} />
          ),
        },
        { header: "Keep", end: true, cell: (rule) => format.amount(rule.keep, rule.product.unit) },
        {
          header: "Free",
          end: true,
          cell: (rule) =>
            rule.toBuild === "0" ? (
              format.amount(rule.free, rule.product.unit)
            ) : (
              <Short>{format.amount(rule.free, rule.product.unit)}</Short>
            ),
        },
        { header: "Being built", end: true, cell: (rule) => format.amount(rule.coming, rule.product.unit) },
        {
          header: "At least at once",
          end: true,
          cell: (rule) => format.amount(rule.batch, rule.product.unit),
        },
        {
          header: "Build now",
          end: true,
          cell: (rule) =>
            rule.toBuild === "0" ? (
              "–"
            ) : (
              <Button
                isPending={make.busy}
                onPress={() =>
                  void make.run({
                    body: { ...PLAIN_BUILD, product: rule.product.id, quantity: rule.toBuild },
                  })
                }
              >
                Build {format.amount(rule.toBuild)}
              </Button>
            ),
        },
        {
          header: "",
          cell: (rule) => (
            <RowSteps
              change={`Change ${rule.product.code}`}
              onChange={() => onChange(rule)}
              remove={`Keep no ${rule.product.code}`}
              onRemove={() => void remove.run({ params: { id: rule.product.id } })}
            />
          ),
        },
      ]}
    />
  );
}

/** Which product is built again and again. */
function ProductField(props: { value: Product | null; onChange: (product: Product | null) => void }) {
  return <ItemField autoFocus label="Product" name="product" choosing="product" {...props} />;
}

function KeepForm({ rule, onClose }: { rule: KeepRule | null; onClose: () => void }) {
  const [product, setProduct] = useState<Product | null>(rule?.product ?? null);
  const [keep, setKeep] = useState(rule?.keep ?? "");
  const [batch, setBatch] = useState(rule?.batch ?? "");
  const set = useCommand(routes.setKeepRule, () => {
    sayDone(`${product?.code} is kept.`);
    onClose();
  });
  return (
    <Form
      refusal={set.refusal}
      onSubmit={() => void set.run({ params: { id: product?.id ?? 0 }, body: { keep, batch } })}
    >
      <Stack>
        {!rule && <ProductField value={product} onChange={setProduct} />}
        <Row>
          <QuantityField
            autoFocus={rule !== null}
            packs={product?.packs ?? []}
            label="Keep at least"
            name="keep"
            width="160px"
            unit={product?.unit}
            value={keep}
            onChange={setKeep}
            error={set.errors.quantity}
          />
          <QuantityField
            packs={product?.packs ?? []}
            label="Build at least"
            name="batch"
            width="160px"
            unit={product?.unit}
            value={batch}
            onChange={setBatch}
          />
        </Row>
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={set.busy} isDisabled={product === null}>
          Keep it
        </Button>
      </Actions>
    </Form>
  );
}

/** The names of the days of the week, 1 Monday to 7 Sunday. */
const dayNames = (format: Format) =>
  // 1 January 2024 was a Monday.
  Array.from({ length: 7 }, (_, i) =>
    new Intl.DateTimeFormat(format.locale, { weekday: "long", timeZone: "UTC" }).format(
      new Date(Date.UTC(2024, 0, 1 + i)),
    ),
  );

function StandingTable({
  rows,
  onChange,
}: {
  rows: StandingBuild[];
  onChange: (row: StandingBuild) => void;
}) {
  const format = useFormat();
  const names = dayNames(format);
  const remove = useCommand(routes.removeStanding, () => sayDone("It makes no more drafts."));
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
              remove={`Stop the build of ${row.product.code}`}
              onRemove={() => void remove.run({ params: { id: row.id } })}
            />
          ),
        },
      ]}
    />
  );
}

const NOBODY = "none";

function StandingForm({ row, onClose }: { row: StandingBuild | null; onClose: () => void }) {
  const format = useFormat();
  const { people } = useWorking();
  const [product, setProduct] = useState<Product | null>(row?.product ?? null);
  const [quantity, setQuantity] = useState(row?.quantity ?? "");
  const [weekdays, setWeekdays] = useState<readonly number[]>(row?.weekdays ?? []);
  const [starts, setStarts] = useState(row?.starts ?? format.settings.today);
  const [assigned, setAssigned] = useState(row?.assigned ? String(row.assigned.id) : NOBODY);
  const [note, setNote] = useState(row?.note ?? "");
  const done = () => {
    sayDone("The standing build is kept.");
    onClose();
  };
  const make = useCommand(routes.newStanding, done);
  const change = useCommand(routes.changeStanding, done);
  const command = row ? change : make;
  const body = {
    product: product?.id ?? 0,
    quantity,
    weekdays: [...weekdays],
    starts,
    note,
    assigned: assigned === NOBODY ? null : Number(assigned),
  };
  return (
    <Form
      refusal={command.refusal}
      onSubmit={() => void (row ? change.run({ params: { id: row.id }, body }) : make.run({ body }))}
    >
      <Stack>
        <ProductField value={product} onChange={setProduct} />
        <Row>
          <QuantityField
            packs={product?.packs ?? []}
            label="How many"
            name="quantity"
            width="150px"
            unit={product?.unit}
            value={quantity}
            onChange={setQuantity}
          />
          <DateField label="From" name="starts" value={starts} onChange={setStarts} />
          <Select
            label="Who does it"
            name="assigned"
            width="150px"
            value={assigned}
            options={[
              { value: NOBODY, label: "nobody yet" },
              ...people.map((p) => ({ value: String(p.id), label: p.name })),
            ]}
            onChange={setAssigned}
          />
        </Row>
        <fieldset style={{ border: 0, padding: 0, margin: 0 }}>
          <legend style={{ fontSize: 13, fontWeight: 600, color: "var(--ink2)" }}>Every</legend>
          <Row>
            {dayNames(format).map((name, i) => (
              <Checkbox
                key={name}
                isSelected={weekdays.includes(i + 1)}
                onChange={(on) =>
                  setWeekdays(on ? [...weekdays, i + 1] : weekdays.filter((d) => d !== i + 1))
                }
              >
                {name}
              </Checkbox>
            ))}
          </Row>
          {command.errors.weekdays && <Short role="alert">{command.errors.weekdays}</Short>}
        </fieldset>
        <TextField label="Note" name="note" value={note} onChange={setNote} />
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
