import { type CustomField, customFieldRoutes } from "@yosegi/contract";
import { CUSTOM_FIELD_TYPES, type CustomFieldType } from "@yosegi/core";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Unanswered, usePress } from "../api/index.ts";
import { FormDialog, inputsOf } from "../forms/index.ts";
import {
  Actions,
  Button,
  Dialog,
  EditButton,
  Row,
  Section,
  SheetTable,
  Sub,
  sayDone,
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
  const remove = usePress(customFieldRoutes.removeCustomField, () => {
    sayDone("Field deleted.");
    setRemoving(null);
  });
  if (!data) return <Unanswered error={error} />;
  const close = () => setOpen(null);
  return (
    <Section
      title="Custom fields"
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
          label="Custom fields"
          rows={data.fields}
          rowId={(field) => field.id}
          columns={[
            { header: "Field", cell: (field) => <b>{field.name}</b> },
            { header: "Type", cell: (field) => field.type },
            { header: "Used in", end: true, cell: (field) => field.used },
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
      <CustomFieldDialog open={open} onClose={close} />
      <Dialog
        title={`Remove ${removing?.name ?? ""}`}
        isOpen={removing !== null}
        onClose={() => setRemoving(null)}
      >
        <p>
          This deletes the field and its values on {format.count(removing?.used ?? 0, "record", "records")}.
          It can't be undone.
        </p>
        <Actions>
          <Button
            look="main"
            isPending={remove.busy}
            onPress={() => removing && void remove.run({ params: { id: removing.id } })}
          >
            Delete field
          </Button>
        </Actions>
      </Dialog>
    </Section>
  );
}

interface FieldDraft {
  name: string;
  type: CustomFieldType;
}

const In = inputsOf<FieldDraft>();

function CustomFieldDialog({ open, onClose }: { open: CustomField | "new" | null; onClose: () => void }) {
  const field = open === "new" ? null : open;
  return (
    <FormDialog
      title={field ? `Rename ${field.name}` : "New field"}
      isOpen={open !== null}
      onClose={onClose}
      save="Save"
      route={field ? customFieldRoutes.changeCustomField : customFieldRoutes.newCustomField}
      begin={{ name: field?.name ?? "", type: field?.type ?? "text" }}
      params={{ id: field?.id ?? 0 }}
      body={(typed: FieldDraft) => typed}
      done={(_, { name }) => sayDone(`${name} is saved.`)}
    >
      <Row>
        <In.Text label="Name" name="name" width="280px" autoFocus />
        {!field && <In.Choice label="Type" name="type" width="150px" options={TYPES} />}
      </Row>
    </FormDialog>
  );
}
