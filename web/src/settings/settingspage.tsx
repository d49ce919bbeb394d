import { useQuery } from "@tanstack/react-query";
import { type Group, type OwnField, routes, type UnitAnswer } from "@yosegi/contract";
import {
  DIMENSIONS,
  type Dimension,
  type DrawnAt,
  OWN_FIELD_TYPES,
  type OwnFieldType,
  type Tracking,
} from "@yosegi/core";
import { Pencil, Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Link } from "react-router";
import { asking, Failure, useCommand } from "../api/index.ts";
import { useStores } from "../catalog/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Dialog,
  Form,
  Notice,
  Page,
  Row,
  Section,
  Select,
  SheetTable,
  Stack,
  Sub,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";

/** What the company keeps to everywhere: units of measure, groups of items, and fields of its own. */
export function SettingsPage() {
  return (
    <Page>
      <h1>Settings</h1>
      <Sub>Units, groups and fields of your own, for every item, list, lot and serial.</Sub>
      <Units />
      <Groups />
      <OwnFields />
    </Page>
  );
}

const edit = (label: string, onPress: () => void) => (
  <Button look="icon" aria-label={label} onPress={onPress}>
    <Pencil />
  </Button>
);

function Units() {
  const format = useFormat();
  const { data, error } = useQuery(asking(routes.units, {}));
  const [open, setOpen] = useState<UnitAnswer | "new" | null>(null);
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const close = () => setOpen(null);
  return (
    <Section
      title="Units of measure"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New unit
        </Button>
      }
    >
      <SheetTable
        label="Units"
        rows={data.units}
        rowId={(unit) => unit.code}
        columns={[
          {
            header: "Unit",
            cell: (unit) => (
              <>
                <b>{unit.code}</b> {unit.name !== unit.code && unit.name}
              </>
            ),
          },
          { header: "Measures", cell: (unit) => unit.dimension },
          {
            header: "One of it is",
            end: true,
            cell: (unit) => `${format.amount(unit.factor)} ${smallest(data.units, unit)}`,
          },
          { header: "Decimals", end: true, cell: (unit) => unit.decimals },
          { header: "Rec 20 code", cell: (unit) => unit.rec20 },
          { header: "", end: true, cell: (unit) => edit(`Change ${unit.code}`, () => setOpen(unit)) },
        ]}
      />
      <Dialog title="New unit" isOpen={open === "new"} onClose={close} width="620px">
        <UnitForm unit={null} onDone={close} />
      </Dialog>
      <Dialog
        title={`Change ${open === "new" ? "" : (open?.code ?? "")}`}
        isOpen={open !== null && open !== "new"}
        onClose={close}
        width="620px"
      >
        <UnitForm unit={open === "new" ? null : open} onDone={close} />
      </Dialog>
    </Section>
  );
}

/** The unit in which factors of a dimension are told. */
function smallest(units: readonly UnitAnswer[], of: UnitAnswer): string {
  return units.find((unit) => unit.dimension === of.dimension && unit.factor === "1")?.code ?? "";
}

const DIMENSION_CHOICES = DIMENSIONS.map((value) => ({ value, label: value }));

function UnitForm({ unit, onDone }: { unit: UnitAnswer | null; onDone: () => void }) {
  const [code, setCode] = useState(unit?.code ?? "");
  const [name, setName] = useState(unit?.name ?? "");
  const [dimension, setDimension] = useState<Dimension>(unit?.dimension ?? "count");
  const [factor, setFactor] = useState(unit?.factor ?? "1");
  const [decimals, setDecimals] = useState(String(unit?.decimals ?? 0));
  const [rec20, setRec20] = useState(unit?.rec20 ?? "");
  const done = () => {
    sayDone(`${code} is saved.`);
    onDone();
  };
  const make = useCommand(routes.newUnit, done);
  const change = useCommand(routes.changeUnit, done);
  const body = {
    ...{ name, dimension, factor, rec20 },
    decimals: /^\d+$/.test(decimals) ? Number(decimals) : Number.NaN,
  };
  return (
    <Form
      refusal={unit ? change.refusal : make.refusal}
      onSubmit={() =>
        void (unit ? change.run({ params: { code }, body }) : make.run({ body: { ...body, code } }))
      }
    >
      <Stack>
        <Row>
          <TextField
            label="Unit"
            name="code"
            width="130px"
            value={code}
            onChange={setCode}
            isReadOnly={unit !== null}
            autoFocus={unit === null}
          />
          <TextField label="Name" name="name" width="300px" value={name} onChange={setName} />
        </Row>
        <Row>
          <Select
            label="Measures"
            name="dimension"
            width="150px"
            value={dimension}
            options={DIMENSION_CHOICES}
            onChange={setDimension}
          />
          <AmountField
            label="One of it is"
            name="factor"
            width="170px"
            value={factor}
            onChange={setFactor}
            hint="of pc, g, mL, cm or min"
          />
          <AmountField
            label="Decimals"
            name="decimals"
            width="110px"
            value={decimals}
            onChange={setDecimals}
          />
          <TextField
            label="Rec 20 code"
            name="rec20"
            width="120px"
            value={rec20}
            onChange={(text) => setRec20(text.toUpperCase())}
          />
        </Row>
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={make.busy || change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

const OPEN = "–";

function Groups() {
  const { data, error } = useQuery(asking(routes.groups, {}));
  const [open, setOpen] = useState<Group | "new" | null>(null);
  const remove = useCommand(routes.removeGroup, () => sayDone("The group is removed."));
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const close = () => setOpen(null);
  const given = (group: Group) =>
    [
      group.unit && `in ${group.unit}`,
      group.tracking && group.tracking !== "none" && `by ${group.tracking}`,
      group.drawnAt && `drawn at ${group.drawnAt}`,
      group.store && `in ${group.store}`,
    ].filter(Boolean);
  return (
    <Section
      title="Groups"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New group
        </Button>
      }
    >
      {remove.refusal && <Notice>{remove.refusal.message}</Notice>}
      {data.groups.length === 0 ? (
        <Sub>None yet. A group filters lists and gives new items their unit, tracking and store.</Sub>
      ) : (
        <SheetTable
          label="Groups"
          rows={data.groups}
          rowId={(group) => group.id}
          columns={[
            { header: "Group", cell: (group) => <b>{group.name}</b> },
            { header: "New items are", cell: (group) => given(group).join(", ") || "–" },
            {
              header: "Items",
              end: true,
              cell: (group) => (
                <Link to={`/catalog?group=${encodeURIComponent(group.name)}`}>{group.items}</Link>
              ),
            },
            {
              header: "",
              end: true,
              cell: (group) => (
                <>
                  {edit(`Change ${group.name}`, () => setOpen(group))}
                  <Button
                    look="icon"
                    aria-label={`Remove ${group.name}`}
                    onPress={() => void remove.run({ params: { id: group.id } })}
                  >
                    <Trash2 />
                  </Button>
                </>
              ),
            },
          ]}
        />
      )}
      <Dialog
        title={open === "new" ? "New group" : `Change ${open?.name ?? ""}`}
        isOpen={open !== null}
        onClose={close}
        width="620px"
      >
        {open !== null && <GroupForm group={open === "new" ? null : open} onDone={close} />}
      </Dialog>
    </Section>
  );
}

function GroupForm({ group, onDone }: { group: Group | null; onDone: () => void }) {
  const units = useQuery(asking(routes.units, {})).data?.units ?? [];
  const stores = useStores().data?.stores ?? [];
  const [name, setName] = useState(group?.name ?? "");
  const [unit, setUnit] = useState(group?.unit ?? OPEN);
  const [tracking, setTracking] = useState<Tracking | typeof OPEN>(group?.tracking ?? OPEN);
  const [drawnAt, setDrawnAt] = useState<DrawnAt | typeof OPEN>(group?.drawnAt ?? OPEN);
  const [store, setStore] = useState(group?.store || OPEN);
  const done = () => {
    sayDone(`${name} is saved.`);
    onDone();
  };
  const make = useCommand(routes.newGroup, done);
  const change = useCommand(routes.changeGroup, done);
  const body = {
    name,
    unit: unit === OPEN ? null : unit,
    tracking: tracking === OPEN ? null : tracking,
    drawnAt: drawnAt === OPEN ? null : drawnAt,
    store: store === OPEN ? "" : store,
  };
  const open = { value: OPEN, label: "No default" } as const;
  return (
    <Form
      refusal={group ? change.refusal : make.refusal}
      onSubmit={() => void (group ? change.run({ params: { id: group.id }, body }) : make.run({ body }))}
    >
      <Stack>
        <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
        <Row>
          <Select
            label="Unit"
            name="unit"
            width="170px"
            value={unit}
            options={[open, ...units.map((u) => ({ value: u.code, label: `${u.code} · ${u.name}` }))]}
            onChange={setUnit}
          />
          <Select
            label="Tracking"
            width="180px"
            value={tracking}
            options={[
              open,
              { value: "none", label: "None" },
              { value: "lot", label: "By lot" },
              { value: "serial", label: "By serial number" },
            ]}
            onChange={setTracking}
          />
        </Row>
        <Row>
          <Select
            label="Drawn"
            width="170px"
            value={drawnAt}
            options={[open, { value: "pick", label: "At pick" }, { value: "finish", label: "At finish" }]}
            onChange={setDrawnAt}
          />
          <Select
            label="Store"
            name="store"
            width="180px"
            value={store}
            options={[open, ...stores.map((s) => ({ value: s.name, label: s.name }))]}
            onChange={setStore}
          />
        </Row>
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={make.busy || change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}

const TYPES = OWN_FIELD_TYPES.map((value) => ({ value, label: value }));

function OwnFields() {
  const format = useFormat();
  const { data, error } = useQuery(asking(routes.ownFields, {}));
  const [open, setOpen] = useState<OwnField | "new" | null>(null);
  const [removing, setRemoving] = useState<OwnField | null>(null);
  const remove = useCommand(routes.removeOwnField, () => {
    sayDone("The field is removed.");
    setRemoving(null);
  });
  if (error) return <Failure error={error} />;
  if (!data) return null;
  const close = () => setOpen(null);
  return (
    <Section
      title="Fields of your own"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New field
        </Button>
      }
    >
      {data.fields.length === 0 ? (
        <Sub>None yet. A field is defined once and filled in for items, parts lists, lots and serials.</Sub>
      ) : (
        <SheetTable
          label="Fields of your own"
          rows={data.fields}
          rowId={(field) => field.id}
          columns={[
            { header: "Field", cell: (field) => <b>{field.name}</b> },
            { header: "Holds", cell: (field) => field.type },
            { header: "Filled in", end: true, cell: (field) => field.used },
            {
              header: "",
              end: true,
              cell: (field) => (
                <>
                  {edit(`Rename ${field.name}`, () => setOpen(field))}
                  <Button look="icon" aria-label={`Remove ${field.name}`} onPress={() => setRemoving(field)}>
                    <Trash2 />
                  </Button>
                </>
              ),
            },
          ]}
        />
      )}
      <Dialog
        title={open === "new" ? "New field" : `Rename ${open?.name ?? ""}`}
        isOpen={open !== null}
        onClose={close}
      >
        {open !== null && <OwnFieldForm field={open === "new" ? null : open} onDone={close} />}
      </Dialog>
      <Dialog
        title={`Remove ${removing?.name ?? ""}`}
        isOpen={removing !== null}
        onClose={() => setRemoving(null)}
      >
        <p>
          The field goes, with what is filled in for {format.count(removing?.used ?? 0, "thing", "things")}.
          This cannot be taken back.
        </p>
        <Actions>
          <Button
            look="main"
            isPending={remove.busy}
            onPress={() => removing && void remove.run({ params: { id: removing.id } })}
          >
            Remove it
          </Button>
        </Actions>
      </Dialog>
    </Section>
  );
}

function OwnFieldForm({ field, onDone }: { field: OwnField | null; onDone: () => void }) {
  const [name, setName] = useState(field?.name ?? "");
  const [type, setType] = useState<OwnFieldType>(field?.type ?? "text");
  const done = () => {
    sayDone(`${name} is saved.`);
    onDone();
  };
  const make = useCommand(routes.newOwnField, done);
  const change = useCommand(routes.changeOwnField, done);
  return (
    <Form
      refusal={field ? change.refusal : make.refusal}
      onSubmit={() =>
        void (field
          ? change.run({ params: { id: field.id }, body: { name } })
          : make.run({ body: { name, type } }))
      }
    >
      <Row>
        <TextField label="Name" name="name" width="280px" value={name} onChange={setName} autoFocus />
        {!field && <Select label="Holds" width="150px" value={type} options={TYPES} onChange={setType} />}
      </Row>
      <Actions>
        <Button look="main" type="submit" isPending={make.busy || change.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}
