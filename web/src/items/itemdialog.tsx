import { type ItemRow, type ItemSheet, itemSheetRoutes } from "@yosegi/contract";
import type { NewItemDialogProps } from "../fields/index.ts";
import { FormDialog, inputsOf, sentLines } from "../forms/index.ts";
import { Row, sayDone } from "../ui/index.ts";
import { blankItem, bodyOfItem, draftOfItem, isPack } from "./itemdraft.ts";
import { ItemFields } from "./itemform.tsx";

const WIDTH = "800px";
const PACKS = sentLines("packs", isPack);

/** Makes a new item, from the catalog or on the spot where one is missing. */
export function NewItemDialog({ code, choosing = "part", onClose, onMade }: NewItemDialogProps) {
  return (
    <FormDialog
      title="New item"
      isOpen={code !== null}
      onClose={onClose}
      width={WIDTH}
      save="Create item"
      route={itemSheetRoutes.newItem}
      begin={blankItem(code ?? "", choosing === "product" ? "built" : "bought")}
      fieldOf={PACKS}
      body={bodyOfItem}
      done={(item) => {
        sayDone(`${item.code} added.`);
        onMade(item);
      }}
    >
      <ItemFields isNew />
    </FormDialog>
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
    <FormDialog
      title={`Change ${item.code}`}
      isOpen={isOpen}
      onClose={onClose}
      width={WIDTH}
      save="Save"
      route={itemSheetRoutes.changeItem}
      params={{ id: item.id }}
      begin={draftOfItem(item)}
      version={item.version}
      fieldOf={PACKS}
      body={bodyOfItem}
      done={() => sayDone(`${item.code} saved.`)}
    >
      <ItemFields isNew={false} />
    </FormDialog>
  );
}

interface CopyDraft {
  code: string;
  name: string;
}

const In = inputsOf<CopyDraft>();

/** Makes an item like this one. */
export function CopyItemDialog({
  item,
  isOpen,
  onClose,
  onMade,
}: ItemDialogProps & { onMade: (item: ItemRow) => void }) {
  return (
    <FormDialog
      title={`Copy ${item.code}`}
      isOpen={isOpen}
      onClose={onClose}
      save="Create copy"
      route={itemSheetRoutes.copyItem}
      params={{ id: item.id }}
      begin={{ code: `${item.code}-2`, name: item.name }}
      body={(typed: CopyDraft) => typed}
      done={(made) => {
        sayDone(`${made.code} added.`);
        onMade(made);
      }}
    >
      <p>
        With its suppliers, packs and custom fields
        {item.list && ", and its parts list as a draft"}
        {item.kit && item.kit.contents.length > 0 && ", and its contents"}. It gets no stock and no barcode.
      </p>
      <Row>
        <In.Text label="Code" name="code" width="170px" autoFocus />
        <In.Text label="Name" name="name" width="320px" />
      </Row>
    </FormDialog>
  );
}
