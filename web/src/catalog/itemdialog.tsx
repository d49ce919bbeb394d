import { type ItemRow, type ItemSheet, type NewItem, routes } from "@yosegi/contract";
import type { Choosing, ItemKind, Tracking } from "@yosegi/core";
import { useState } from "react";
import { type Command, useCommand } from "../api/index.ts";
import {
  Actions,
  AmountField,
  Button,
  Dialog,
  Form,
  Row,
  Select,
  Stack,
  sayDone,
  TextField,
} from "../ui/index.ts";
import { useStores, useUnits } from "./queries.ts";
import { KIND_CHOICES } from "./words.ts";

const TRACKINGS: { value: Tracking; label: string }[] = [
  { value: "none", label: "None" },
  { value: "lot", label: "By lot" },
  { value: "serial", label: "By serial number" },
];

interface Draft {
  code: string;
  name: string;
  kind: ItemKind;
  unit: string;
  tracking: Tracking;
  cost: string;
  price: string;
  store: string;
  bin: string;
}

const blank = (code: string, kind: ItemKind): Draft => ({
  code,
  name: "",
  kind,
  unit: kind === "service" ? "hour" : "pc",
  tracking: "none",
  cost: "",
  price: "",
  store: "",
  bin: "",
});

const bodyOf = (draft: Draft): NewItem => ({
  ...draft,
  cost: draft.cost === "" ? null : draft.cost,
  price: draft.price === "" ? null : draft.price,
});

export interface NewItemDialogProps {
  /** The code to begin with; null while the dialog is closed. */
  code: string | null;
  /** What the item is wanted for, which tells what kind it most likely is. */
  choosing?: Choosing;
  onClose: () => void;
  onMade: (item: ItemRow) => void;
}

/** Makes a new item, from the catalog or on the spot where one is missing. */
export function NewItemDialog({ code, choosing = "part", onClose, onMade }: NewItemDialogProps) {
  return (
    <Dialog title="New item" isOpen={code !== null} onClose={onClose} width="640px">
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
  const [draft, setDraft] = useState(() => blank(code.toUpperCase(), kind));
  const make = useCommand(routes.newItem, (item) => {
    sayDone(`${item.code} is in the catalog.`);
    onMade(item);
  });
  return (
    <ItemForm
      draft={draft}
      onChange={setDraft}
      command={make}
      submit={() => make.run({ body: bodyOf(draft) })}
      isNew
    >
      Make the item
    </ItemForm>
  );
}

/** Changes an item. */
export function EditItemDialog({
  item,
  isOpen,
  onClose,
}: {
  item: ItemSheet;
  isOpen: boolean;
  onClose: () => void;
}) {
  return (
    <Dialog title={`Change ${item.code}`} isOpen={isOpen} onClose={onClose} width="640px">
      <EditItemForm item={item} onClose={onClose} />
    </Dialog>
  );
}

function EditItemForm({ item, onClose }: { item: ItemSheet; onClose: () => void }) {
  const { code, name, kind, unit, tracking, store, bin } = item;
  const [draft, setDraft] = useState<Draft>({
    ...{ code, name, kind, unit, tracking, store, bin },
    cost: item.cost ?? "",
    price: item.price ?? "",
  });
  const save = useCommand(routes.changeItem, () => {
    sayDone(`${code} is changed.`);
    onClose();
  });
  const { code: _, ...body } = bodyOf(draft);
  return (
    <ItemForm
      draft={draft}
      onChange={setDraft}
      command={save}
      submit={() => save.run({ params: { id: item.id }, body })}
    >
      Save
    </ItemForm>
  );
}

interface ItemFormProps {
  draft: Draft;
  onChange: (draft: Draft) => void;
  command: Pick<Command<never>, "busy" | "refusal">;
  submit: () => Promise<unknown>;
  isNew?: boolean;
  children: string;
}

function ItemForm({ draft, onChange, command, submit, isNew = false, children }: ItemFormProps) {
  const units = [...useUnits().values()];
  const stores = useStores().data?.stores ?? [];
  const set = (change: Partial<Draft>) => onChange({ ...draft, ...change });
  const service = draft.kind === "service";
  return (
    <Form refusal={command.refusal} onSubmit={() => void submit()}>
      <Stack>
        <Row>
          <TextField
            label="Code"
            name="code"
            width="170px"
            value={draft.code}
            onChange={(code) => set({ code })}
            isReadOnly={!isNew}
            autoFocus={isNew}
          />
          <TextField
            label="Name"
            name="name"
            width="400px"
            value={draft.name}
            onChange={(name) => set({ name })}
            autoFocus={!isNew}
          />
        </Row>
        <Row>
          <Select
            label="Kind"
            name="kind"
            width="170px"
            value={draft.kind}
            options={KIND_CHOICES}
            onChange={(kind) => set({ kind, ...(kind === "service" && { tracking: "none" }) })}
          />
          <Select
            label="Unit"
            name="unit"
            width="190px"
            value={draft.unit}
            options={units.map((u) => ({ value: u.code, label: `${u.code} · ${u.name}` }))}
            onChange={(unit) => set({ unit })}
          />
          <Select
            label="Tracking"
            name="tracking"
            width="190px"
            value={draft.tracking}
            options={TRACKINGS}
            onChange={(tracking) => set({ tracking })}
            isDisabled={service}
          />
        </Row>
        <Row>
          <AmountField
            label={service ? "Rate" : "Standard cost"}
            name="cost"
            width="170px"
            unit={draft.unit && `per ${draft.unit}`}
            value={draft.cost}
            onChange={(cost) => set({ cost })}
          />
          <AmountField
            label="Price"
            name="price"
            width="190px"
            unit={draft.unit && `per ${draft.unit}`}
            value={draft.price}
            onChange={(price) => set({ price })}
          />
        </Row>
        {!service && (
          <Row>
            <Select
              label="Home store"
              name="store"
              width="170px"
              value={draft.store}
              options={stores.map((s) => ({ value: s.name, label: s.name }))}
              onChange={(store) => set({ store })}
              placeholder="None"
            />
            <TextField
              label="Home bin"
              name="bin"
              width="190px"
              value={draft.bin}
              onChange={(bin) => set({ bin })}
            />
          </Row>
        )}
      </Stack>
      <Actions>
        <Button look="main" type="submit" isPending={command.busy}>
          {children}
        </Button>
      </Actions>
    </Form>
  );
}
