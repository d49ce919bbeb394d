import { type CustomField, routes } from "@yosegi/contract";
import { CUSTOM_FIELD_TYPES, type CustomFieldType } from "@yosegi/core";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Unanswered, useCommand, usePress } from "../api/index.ts";
import {
  Actions,
  Button,
  Dialog,
  EditButton,
  Form,
  Row,
  Section,
  Select,
  SheetTable,
  Sub,
  sayDone,
  TextField,
  useFormat,
} from "../ui/index.ts";
import { useCustomFields } from "./queries.ts";

const TYPES = CUSTOM_FIELD_TYPES.map((value) => ({ value, label: value }));

/** Fields of one's own: defined once for items, parts lists, lots and serials alike. */
export function CustomFields() {
  const format = useFormat();
  const { data, error } = useCustomFields();
  const [open, setOpen] = useState<CustomField | "new" | null>(null);
  const [removing, setRemoving] = useState<CustomField | null>(null);
  const remove = usePress(routes.removeCustomField, () => {
    sayDone("The field is removed.");
    setRemoving(null);
  });
  if (!data) return <Unanswered error={error} />;
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
                  <EditButton label={`Rename ${field.name}`} onPress={() => setOpen(field)} />
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
        {open !== null && <CustomFieldForm field={open === "new" ? null : open} onDone={close} />}
      </Dialog>
      <Dialog
        title={`Remove ${removing?.name ?? ""}`}
        isOpen={removing !== null}
        onClose={() => setRemoving(null)}
      >
        <p>
          The field goes, with what is filled in for {format.count(removing?.used ?? 0, "thing", "things")}.
          This cannot be undone.
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

function CustomFieldForm({ field, onDone }: { field: CustomField | null; onDone: () => void }) {
  const [name, setName] = useState(field?.name ?? "");
  const [type, setType] = useState<CustomFieldType>(field?.type ?? "text");
  const done = () => {
    sayDone(`${name} is saved.`);
    onDone();
  };
  const make = useCommand(routes.newCustomField, done);
  const change = useCommand(routes.changeCustomField, done);
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
