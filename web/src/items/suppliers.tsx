import { type ItemSheet, type ItemSupplier, itemRoutes } from "@yosegi/contract";
import { Pencil, Plus } from "lucide-react";
import { useState } from "react";
import { useFormContext } from "react-hook-form";
import styled from "styled-components";
import { fieldsOf } from "../fields/index.ts";
import { FormDialog, wholeNumber } from "../forms/index.ts";
import { Button, color, Named, Row, Section, SheetTable, Sub, sayDone, useFormat } from "../ui/index.ts";

/** Who supplies an item, and at what. */
export function SuppliersSection({ item }: { item: ItemSheet }) {
  const format = useFormat();
  const [editing, setEditing] = useState(false);
  if (item.kind === "built" && item.suppliers.length === 0) return null;
  const edit = (
    <Button look="link" onPress={() => setEditing(true)}>
      {item.suppliers.length === 0 ? <Plus /> : <Pencil />}
      {item.suppliers.length === 0 ? "Add suppliers" : "Edit suppliers"}
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
              header: "Minimum order",
              end: true,
              cell: (s) => (s.minimum ? format.amount(s.minimum, item.unit) : "–"),
            },
            {
              header: "Order multiple",
              end: true,
              cell: (s) => (s.multiple ? format.amount(s.multiple) : "–"),
            },
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
      <FormDialog
        title={`Suppliers of ${item.code}`}
        isOpen={editing}
        onClose={() => setEditing(false)}
        width="860px"
        save="Save"
        route={itemRoutes.changeSuppliers}
        params={{ id: item.id }}
        begin={{ suppliers: item.suppliers.length > 0 ? item.suppliers.map(draftOf) : [NEW] }}
        version={item.version}
        body={({ suppliers }: SuppliersDraft) => ({ suppliers: suppliers.map(bodyOf) })}
        done={() => sayDone(`The suppliers of ${item.code} are saved.`)}
      >
        <In.Lines
          name="suppliers"
          blank={NEW}
          add="Add supplier"
          remove={(i) => `Remove supplier ${i + 1}`}
          isLong
        >
          {(at) => <SupplierFields at={at} item={item} />}
        </In.Lines>
      </FormDialog>
    </Section>
  );
}

/** A line as it is typed: amounts as text, "" for none. */
interface Draft extends Omit<ItemSupplier, "supplier" | "price" | "leadDays" | "minimum" | "multiple"> {
  supplier: { id: number; code: string; name: string } | null;
  price: string;
  leadDays: string;
  minimum: string;
  multiple: string;
}

interface SuppliersDraft {
  suppliers: Draft[];
}

const In = fieldsOf<SuppliersDraft>();

const draftOf = (s: ItemSheet["suppliers"][number]): Draft => ({
  supplier: { id: s.firm, code: s.supplier, name: s.name },
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
  supplier: null,
  theirCode: "",
  price: "",
  pricePer: "",
  leadDays: "",
  minimum: "",
  multiple: "",
  web: "",
  preferred: false,
};

const bodyOf = (draft: Draft): ItemSupplier => {
  const amount = (text: string) => (text === "" ? null : text);
  return {
    ...draft,
    supplier: draft.supplier?.code ?? "",
    leadDays: wholeNumber(draft.leadDays),
    price: amount(draft.price),
    minimum: amount(draft.minimum),
    multiple: amount(draft.multiple),
  };
};

function SupplierFields({ at, item }: { at: `suppliers.${number}`; item: ItemSheet }) {
  const { getValues, setValue } = useFormContext<SuppliersDraft>();
  // One supplier of an item is preferred.
  const preferOnly = (on: boolean) => {
    if (!on) return;
    for (const i of getValues("suppliers").keys())
      if (at !== `suppliers.${i}`) setValue(`suppliers.${i}.preferred`, false);
  };
  return (
    <One>
      <Row>
        <In.Firm label="Supplier" name={`${at}.supplier`} kind="supplier" width="230px" />
        <In.Text label="Supplier code" name={`${at}.theirCode`} width="160px" />
        <In.Rate
          label="Price"
          name={`${at}.price`}
          per={`${at}.pricePer`}
          unit={item.unit}
          packs={item.packs}
        />
        <In.Amount label="Lead time" name={`${at}.leadDays`} width="130px" unit="days" />
      </Row>
      <Row>
        <In.Quantity
          packs={item.packs}
          label="Minimum order"
          name={`${at}.minimum`}
          width="130px"
          unit={item.unit}
        />
        <In.Quantity
          packs={item.packs}
          label="Order multiple"
          name={`${at}.multiple`}
          width="130px"
          unit={item.unit}
        />
        <In.Text label="Web address" name={`${at}.web`} width="240px" />
        <Foot>
          <In.Tick name={`${at}.preferred`} onChanged={preferOnly}>
            Preferred
          </In.Tick>
        </Foot>
      </Row>
    </One>
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
