import { type ItemRow, type ItemSheet, routes } from "@yosegi/contract";
import type { ItemKind } from "@yosegi/core";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import type { NewItemDialogProps } from "../fields/index.ts";
import { Actions, Button, Dialog, Form, Row, Stale, sayDone, TextField } from "../ui/index.ts";
import { blankItem, bodyOfItem, describeItem, draftOfItem } from "./itemdraft.ts";
import { ItemForm } from "./itemform.tsx";

const WIDTH = "800px";

/** Makes a new item, from the catalog or on the spot where one is missing. */
export function NewItemDialog({ code, choosing = "part", onClose, onMade }: NewItemDialogProps) {
  return (
    <Dialog title="New item" isOpen={code !== null} onClose={onClose} width={WIDTH}>
      <NewItemForm
        code={code ?? ""}
        kind={choosing === "product" ? "built" : "bought"}
        onMade={(item) => {
          onClose();
          onMade(item);
        }}
      />
    </Dialog>
  );
}

function NewItemForm({
  code,
  kind,
  onMade,
}: {
  code: string;
  kind: ItemKind;
  onMade: (item: ItemRow) => void;
}) {
  const [draft, setDraft] = useState(() => blankItem(code, kind));
  const make = useCommand(routes.newItem, (item) => {
    sayDone(`${item.code} is in the catalog.`);
    onMade(item);
  });
  return (
    <ItemForm
      draft={draft}
      onChange={setDraft}
      refusal={make.refusal}
      busy={make.busy}
      onSubmit={() => void make.run({ body: bodyOfItem(draft) })}
      isNew
    >
      Make the item
    </ItemForm>
  );
}

interface ItemDialogProps {
  item: ItemSheet;
  isOpen: boolean;
  onClose: () => void;
}

/** Changes an item. */
export function EditItemDialog({ item, isOpen, onClose }: ItemDialogProps) {
  return (
    <Dialog title={`Change ${item.code}`} isOpen={isOpen} onClose={onClose} width={WIDTH}>
      <EditItemForm item={item} onClose={onClose} />
    </Dialog>
  );
}

function EditItemForm({ item, onClose }: { item: ItemSheet; onClose: () => void }) {
  const [draft, setDraft] = useState(() => draftOfItem(item));
  const [version, setVersion] = useState(item.version);
  const save = useCommand(routes.changeItem, () => {
    sayDone(`${item.code} is changed.`);
    onClose();
  });
  const { code: _, ...body } = bodyOfItem(draft);
  return (
    <ItemForm
      draft={draft}
      onChange={setDraft}
      refusal={save.refusal}
      busy={save.busy}
      onSubmit={() => void save.run({ params: { id: item.id }, body, version })}
      top={
        <Stale
          command={save}
          mine={describeItem(draft)}
          theirs={describeItem(draftOfItem(item))}
          onMine={() => {
            setVersion(item.version);
          }}
          onTheirs={() => {
            setDraft(draftOfItem(item));
            setVersion(item.version);
          }}
        />
      }
    >
      Save
    </ItemForm>
  );
}

/** Makes an item like this one. */
export function CopyItemDialog({
  item,
  isOpen,
  onClose,
  onMade,
}: ItemDialogProps & { onMade: (item: ItemRow) => void }) {
  return (
    <Dialog title={`Copy ${item.code}`} isOpen={isOpen} onClose={onClose}>
      <CopyItemForm
        item={item}
        onMade={(made) => {
          onClose();
          onMade(made);
        }}
      />
    </Dialog>
  );
}

function CopyItemForm({ item, onMade }: { item: ItemSheet; onMade: (item: ItemRow) => void }) {
  const [code, setCode] = useState(`${item.code}-2`);
  const [name, setName] = useState(item.name);
  const copy = useCommand(routes.copyItem, (made) => {
    sayDone(`${made.code} is in the catalog.`);
    onMade(made);
  });
  return (
    <Form
      refusal={copy.refusal}
      onSubmit={() => void copy.run({ params: { id: item.id }, body: { code, name } })}
    >
      <p>
        With its suppliers, packs and own fields
        {item.list && ", and its parts list as a draft"}
        {item.kit && item.kit.contents.length > 0 && ", and its contents"}. It gets no stock and no barcode.
      </p>
      <Row>
        <TextField label="Code" name="code" width="170px" value={code} onChange={setCode} autoFocus />
        <TextField label="Name" name="name" width="320px" value={name} onChange={setName} />
      </Row>
      <Actions>
        <Button look="main" type="submit" isPending={copy.busy}>
          Make the copy
        </Button>
      </Actions>
    </Form>
  );
}
