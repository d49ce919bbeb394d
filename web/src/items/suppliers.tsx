import { type ItemSheet, type ItemSupplier, routes } from "@yosegi/contract";
import { Pencil, Plus, X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import { FirmField, QuantityField, RateField } from "../fields/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Checkbox,
  color,
  type Described,
  Dialog,
  Form,
  Named,
  Row,
  Section,
  SheetTable,
  Stack,
  Stale,
  Sub,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";

/** Who supplies an item, and at what. */
export function SuppliersSection({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const [editing, setEditing] = useState(false);
  if (item.kind === "built" && item.suppliers.length === 0) return null;
  const edit = (
    <Button look="link" onPress={() => setEditing(true)}>
      {item.suppliers.length === 0 ? <Plus /> : <Pencil />}
      {item.suppliers.length === 0 ? "Say who supplies it" : "Change the suppliers"}
    </Button>
  );
  return (
    <Section title="Suppliers" more={edit}>
      {item.suppliers.length === 0 ? (
        <Sub>None yet.</Sub>
      ) : (
        <SheetTable
          label="Suppliers"
          rows={item.suppliers}
          rowId={(s) => s.firm}
          columns={[
            {
              header: "Supplier",
              cell: (s) => (
                <Named
                  name={s.name}
                  to={`/suppliers/${s.firm}`}
                  more={[s.preferred && "preferred", s.theirCode]}
                />
              ),
            },
            {
              header: "Price",
              end: true,
              cell: (s) => (s.price ? format.unitCost(s.price, s.pricePer) : "–"),
            },
            {
              header: "Lead time",
              end: true,
              cell: (s) => (s.leadDays === null ? "–" : format.count(s.leadDays, "day", "days")),
            },
            {
              header: "At least",
              end: true,
              cell: (s) => (s.minimum ? format.amount(s.minimum, item.unit) : "–"),
            },
            { header: "In steps of", end: true, cell: (s) => (s.multiple ? format.amount(s.multiple) : "–") },
            {
              header: "Web",
              cell: (s) =>
                s.web && (
                  <a href={s.web} target="_blank" rel="noreferrer">
                    open
                  </a>
                ),
            },
          ]}
        />
      )}
      <Dialog
        title={`Who supplies ${item.code}`}
        isOpen={editing}
        onClose={() => setEditing(false)}
        width="860px"
      >
        <SuppliersForm item={item} onDone={() => setEditing(false)} />
      </Dialog>
    </Section>
  );
}

/** A line as it is typed: amounts as text, "" for none. */
interface Draft extends Omit<ItemSupplier, "price" | "leadDays" | "minimum" | "multiple"> {
  firm: { id: number; name: string } | null;
  price: string;
  leadDays: string;
  minimum: string;
  multiple: string;
}

const draftOf = (s: ItemSheet["suppliers"][number]): Draft => ({
  firm: { id: s.firm, name: s.name },
  supplier: s.supplier,
  theirCode: s.theirCode,
  web: s.web,
  preferred: s.preferred,
  price: s.price ?? "",
  pricePer: s.pricePer,
  leadDays: s.leadDays === null ? "" : String(s.leadDays),
  minimum: s.minimum ?? "",
  multiple: s.multiple ?? "",
});

const NEW: Draft = {
  firm: null,
  supplier: "",
  theirCode: "",
  price: "",
  pricePer: "",
  leadDays: "",
  minimum: "",
  multiple: "",
  web: "",
  preferred: false,
};

const bodyOf = ({ firm: _, ...draft }: Draft): ItemSupplier => {
  const amount = (text: string) => (text === "" ? null : text);
  const days =
    draft.leadDays === "" ? null : /^\d+$/.test(draft.leadDays) ? Number(draft.leadDays) : Number.NaN;
  return {
    ...draft,
    leadDays: days,
    price: amount(draft.price),
    minimum: amount(draft.minimum),
    multiple: amount(draft.multiple),
  };
};

/** Who supplies an item, to be held against what somebody else made of it. */
const describe = (lines: readonly Draft[]): Described =>
  lines.map((line) => [
    "Supplier",
    [
      line.firm?.name,
      line.theirCode,
      line.price && `at ${line.price}`,
      line.leadDays && `${line.leadDays} days`,
      line.preferred && "preferred",
    ]
      .filter(Boolean)
      .join(", "),
  ]);

function SuppliersForm({ item, onDone }: { item: ItemSheet; onDone: () => void }) {
  const [lines, setLines] = useState(() => (item.suppliers.length > 0 ? item.suppliers.map(draftOf) : [NEW]));
  const [version, setVersion] = useState(item.version);
  const now = item.suppliers.map(draftOf);
  const save = useCommand(routes.changeSuppliers, () => {
    sayDone(`The suppliers of ${item.code} are saved.`);
    onDone();
  });
  const change = (at: number, to: Partial<Draft>) =>
    setLines((before) =>
      before.map((line, i) =>
        i === at ? { ...line, ...to } : to.preferred ? { ...line, preferred: false } : line,
      ),
    );
  return (
    <Form
      refusal={save.refusal}
      onSubmit={() =>
        void save.run({ params: { id: item.id }, body: { suppliers: lines.map(bodyOf) }, version })
      }
    >
      <Stale
        command={save}
        mine={describe(lines)}
        theirs={describe(now)}
        onMine={() => {
          setVersion(item.version);
        }}
        onTheirs={() => {
          setLines(now);
          setVersion(item.version);
        }}
      />
      <Stack>
        {lines.map((line, i) => (
          // biome-ignore lint/suspicious/noArrayIndexKey: a line may have no supplier yet
          <One key={i}>
            <Row>
              <FirmField
                label="Supplier"
                name={`suppliers.${i}.supplier`}
                kind="supplier"
                width="230px"
                value={line.firm}
                onChange={(firm) => change(i, { firm, supplier: firm?.code ?? "" })}
              />
              <TextField
                label="Their code"
                name={`suppliers.${i}.theirCode`}
                width="160px"
                value={line.theirCode}
                onChange={(theirCode) => change(i, { theirCode })}
              />
              <RateField
                label="Price"
                name={`suppliers.${i}.price`}
                unit={item.unit}
                packs={item.packs}
                value={line.price}
                per={line.pricePer}
                onChange={(price, pricePer) => change(i, { price, pricePer })}
              />
              <AmountField
                label="Lead time"
                name={`suppliers.${i}.leadDays`}
                width="130px"
                unit="days"
                value={line.leadDays}
                onChange={(leadDays) => change(i, { leadDays })}
              />
            </Row>
            <Row>
              <QuantityField
                packs={item.packs}
                label="At least"
                name={`suppliers.${i}.minimum`}
                width="130px"
                unit={item.unit}
                value={line.minimum}
                onChange={(minimum) => change(i, { minimum })}
              />
              <QuantityField
                packs={item.packs}
                label="In steps of"
                name={`suppliers.${i}.multiple`}
                width="130px"
                unit={item.unit}
                value={line.multiple}
                onChange={(multiple) => change(i, { multiple })}
              />
              <TextField
                label="Web address"
                name={`suppliers.${i}.web`}
                width="240px"
                value={line.web}
                onChange={(web) => change(i, { web })}
              />
              <Foot>
                <Checkbox isSelected={line.preferred} onChange={(preferred) => change(i, { preferred })}>
                  Preferred
                </Checkbox>
                <Button
                  look="icon"
                  aria-label={`Remove supplier ${i + 1}`}
                  onPress={() => setLines(lines.filter((_, at) => at !== i))}
                >
                  <X />
                </Button>
              </Foot>
            </Row>
          </One>
        ))}
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={save.busy}>
          Save
        </Button>
        <Button onPress={() => setLines([...lines, NEW])}>
          <Plus /> Another supplier
        </Button>
      </Actions>
    </Form>
  );
}

const One = styled.div`
  display: grid;
  gap: 8px;
  padding-bottom: 14px;
  border-bottom: 1px solid ${color.line};
`;

const Foot = styled.div`
  display: flex;
  gap: 8px;
  align-items: center;
  padding-top: 21px;
`;
