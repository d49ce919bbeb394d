import { itemRoutes, type UnitAnswer } from "@yosegi/contract";
import { DIMENSIONS, type Dimension } from "@yosegi/core";
import { Plus } from "lucide-react";
import { useState } from "react";
import { Unanswered } from "../api/index.ts";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { Button, EditButton, Row, Section, SheetTable, Stack, sayDone, useFormat } from "../ui/index.ts";
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
          { header: "Type", cell: (unit) => unit.dimension },
          {
            header: "Equals",
            end: true,
            cell: (unit) => `${format.amount(unit.factor)} ${smallest(data.units, unit)}`,
          },
          { header: "Decimals", end: true, cell: (unit) => unit.decimals },
          { header: "UN/ECE code", cell: (unit) => unit.rec20 },
          {
            header: "",
            end: true,
            cell: (unit) => <EditButton label={`Change ${unit.code}`} onPress={() => setOpen(unit)} />,
          },
        ]}
      />
      <UnitDialog open={open} onClose={close} />
    </Section>
  );
}

/** The unit in which factors of a dimension are told. */
function smallest(units: readonly UnitAnswer[], of: UnitAnswer): string {
  return units.find((unit) => unit.dimension === of.dimension && unit.factor === "1")?.code ?? "";
}

const DIMENSION_CHOICES = DIMENSIONS.map((value) => ({ value, label: value }));

interface UnitDraft {
  code: string;
  name: string;
  dimension: Dimension;
  factor: string;
  decimals: string;
  rec20: string;
}

const In = fieldsOf<UnitDraft>();

function UnitDialog({ open, onClose }: { open: UnitAnswer | "new" | null; onClose: () => void }) {
  const unit = open === "new" ? null : open;
  return (
    <FormDialog
      title={unit ? `Change ${unit.code}` : "New unit"}
      isOpen={open !== null}
      onClose={onClose}
      width="620px"
      save="Save"
      route={unit ? itemRoutes.changeUnit : itemRoutes.newUnit}
      begin={{
        code: unit?.code ?? "",
        name: unit?.name ?? "",
        dimension: unit?.dimension ?? "count",
        factor: unit?.factor ?? "1",
        decimals: String(unit?.decimals ?? 0),
        rec20: unit?.rec20 ?? "",
      }}
      params={{ code: unit?.code ?? "" }}
      body={({ decimals, ...typed }: UnitDraft) => ({
        ...typed,
        decimals: wholeNumber(decimals) ?? Number.NaN,
      })}
      done={(_, { code }) => sayDone(`${code} is saved.`)}
    >
      <Stack>
        <Row>
          <In.Text
            label="Unit"
            name="code"
            width="130px"
            isReadOnly={unit !== null}
            autoFocus={unit === null}
          />
          <In.Text label="Name" name="name" width="300px" />
        </Row>
        <Row>
          <In.Choice label="Type" name="dimension" width="150px" options={DIMENSION_CHOICES} />
          <In.Amount label="Equals" name="factor" width="170px" hint="in pc, g, mL, cm or min" />
          <In.Amount label="Decimals" name="decimals" width="110px" />
          <In.Text label="UN/ECE code" name="rec20" width="120px" upperCase />
        </Row>
      </Stack>
    </FormDialog>
  );
}
