import { labelRoutes, type StoreAnswer, stockRoutes } from "@yosegi/contract";
import { GripVertical, Tags, X } from "lucide-react";
import { useState } from "react";
import { Button as DragButton, GridList, GridListItem, useDragAndDrop } from "react-aria-components";
import styled from "styled-components";
import { usePress } from "../api/index.ts";
import { FormDialog, FormOf, inputsOf, Save, useCommandForm } from "../forms/index.ts";
import { Actions, Button, color, EditButton, focusRing, Section, Sub, sayDone } from "../ui/index.ts";

const BinIn = inputsOf<{ bins: string[] }>();

/** The bins of a store in the order in which one walks by them: moved by dragging, renamed, closed, labelled; more of them by typing or scanning. */
export function Bins({ store }: { store: StoreAnswer }) {
  const params = { id: store.id };
  const [renamed, setRenamed] = useState<string | null>(null);
  const form = useCommandForm({
    route: stockRoutes.addBins,
    begin: { bins: [""] },
    params,
    body: (typed: { bins: string[] }) => typed,
    done: () => form.startAgain(),
  });
  const remove = usePress(stockRoutes.removeBin);
  const bringBack = usePress(stockRoutes.addBins);
  const order = usePress(stockRoutes.orderBins, () => sayDone("Walk order saved."));
  const print = usePress(labelRoutes.makeBinLabels, ({ labels }) =>
    sayDone(`${labels} labels of bins added to the tray.`),
  );
  const onRemove = async (one: string) => {
    if (await remove.run({ params, body: { bin: one } }))
      sayDone(`Bin ${one} is removed.`, () => void bringBack.run({ params, body: { bins: [one] } }));
  };
  const { dragAndDropHooks } = useDragAndDrop({
    getItems: (keys) => [...keys].map((key) => ({ "text/plain": String(key) })),
    onReorder: ({ keys, target }) => {
      const moved = store.bins.filter((bin) => keys.has(bin));
      const rest = store.bins.filter((bin) => !keys.has(bin));
      const at = rest.indexOf(String(target.key)) + (target.dropPosition === "after" ? 1 : 0);
      void order.run({ params, body: { bins: rest.toSpliced(at, 0, ...moved) } });
    },
  });
  return (
    <Section
      title="Bins"
      more={
        store.bins.length > 0 && (
          <Button
            look="link"
            isPending={print.busy}
            onPress={() => void print.run({ params, body: { shape: "code 128", bins: [] } })}
          >
            <Tags /> Labels for all
          </Button>
        )
      }
    >
      <Sub>
        {store.bins.length === 0
          ? "None yet. Without bins, stock is kept in the store itself."
          : "In the order in which pickers walk. Drag one to where it belongs."}
      </Sub>
      <List aria-label={`Bins of ${store.name}`} dragAndDropHooks={dragAndDropHooks} selectionMode="none">
        {store.bins.map((one) => (
          <GridListItem key={one} id={one} textValue={one}>
            <DragButton slot="drag" aria-label={`Move bin ${one}`}>
              <GripVertical aria-hidden />
            </DragButton>
            <span>{one}</span>
            <EditButton label={`Rename bin ${one}`} onPress={() => setRenamed(one)} />
            <Button look="icon" aria-label={`Remove bin ${one}`} onPress={() => void onRemove(one)}>
              <X />
            </Button>
          </GridListItem>
        ))}
      </List>
      <FormOf form={form}>
        <BinIn.Text label="New bin" name="bins.0" width="180px" />
        <Actions>
          <Save look="quiet">Add bin</Save>
        </Actions>
      </FormOf>
      {renamed !== null && <RenameBin store={store} bin={renamed} onClose={() => setRenamed(null)} />}
    </Section>
  );
}

const Rename = inputsOf<{ to: string }>();

function RenameBin({ store, bin, onClose }: { store: StoreAnswer; bin: string; onClose: () => void }) {
  return (
    <FormDialog
      title={`Rename bin ${bin}`}
      isOpen
      onClose={onClose}
      width="420px"
      save="Rename"
      route={stockRoutes.renameBin}
      params={{ id: store.id }}
      begin={{ to: bin }}
      body={({ to }: { to: string }) => ({ bin, to })}
      done={({ document }, { to }) =>
        sayDone(
          document === null
            ? `Bin ${bin} is ${to} now.`
            : `Bin ${bin} is ${to} now; its stock was moved as ${document}.`,
        )
      }
    >
      <Sub>Its stock, and the items and open builds that name it, follow. Print a new label for it.</Sub>
      <Rename.Text label="New name" name="to" width="180px" autoFocus />
    </FormDialog>
  );
}

const List = styled(GridList)`
  max-height: 300px;
  overflow: auto;
  margin: 6px 0 12px;
  border: 1px solid ${color.line};
  &:empty {
    display: none;
  }
  > * {
    display: flex;
    align-items: center;
    gap: 4px;
    padding-right: 6px;
    background: ${color.sheet};
    border-bottom: 1px solid ${color.line};
    &[data-focus-visible] {
      ${focusRing}
    }
    &[data-dragging] {
      opacity: 0.5;
    }
    span {
      flex: 1;
    }
  }
  button[slot="drag"] {
    display: grid;
    place-items: center;
    width: 34px;
    height: 34px;
    border: 0;
    background: none;
    color: ${color.ink3};
    cursor: grab;
    svg {
      width: 18px;
    }
    &[data-focus-visible] {
      ${focusRing}
    }
  }
  .react-aria-DropIndicator[data-drop-target] {
    outline: 2px solid ${color.focus};
  }
`;
