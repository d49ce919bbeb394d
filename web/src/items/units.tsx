import { routes, type UnitAnswer } from "@yosegi/contract";
import { DIMENSIONS, type Dimension } from "@yosegi/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Unanswered, useCommand } from "../api/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Dialog,
  EditButton,
  Form,
  Row,
  Section,
  Select,
  SheetTable,
  Stack,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { useUnitList } from "./queries.ts";

/** Units of measure: what is there, and the form of one. */
export function Units() {
  const format = useFormat();
  const { data, error } = useUnitList();
  const [open, setOpen] = useState<UnitAnswer | "new" | null>(null);
  if (!data) return <Unanswered error={error} />;
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
          {
            header: "",
            end: true,
            cell: (unit) => <EditButton label={`Change ${unit.code}`} onPress={() => setOpen(unit)} />,
          },
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
    name,
    dimension,
    factor,
    rec20,
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
