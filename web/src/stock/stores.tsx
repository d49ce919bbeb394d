import { type StoreAnswer, stockRoutes } from "@yosegi/contract";
import { Plus, Trash2, X } from "lucide-react";
import { useState } from "react";
import styled from "styled-components";
import { Unanswered, usePress } from "../api/index.ts";
import { FormOf, inputsOf, Save, useCommandForm } from "../forms/index.ts";
import {
  Actions,
  Button,
  color,
  Dialog,
  EditButton,
  Section,
  SheetTable,
  Stack,
  Sub,
  sayDone,
  useAsk,
  useFormat,
} from "../ui/index.ts";
import { useAllStores } from "./queries.ts";

/** Where stock lies: stores, and the bins in them. */
export function Stores() {
  const format = useFormat();
  const ask = useAsk();
  const { data, error } = useAllStores();
  const [open, setOpen] = useState<number | "new" | null>(null);
  const remove = usePress(stockRoutes.removeStore, () => sayDone("Store removed."));
  if (!data) return <Unanswered error={error} />;
  const close = () => setOpen(null);
  const chosen = data.stores.find((store) => store.id === open) ?? null;
  const onRemove = async ({ id, name, bins }: StoreAnswer) => {
    const yes = await ask({
      title: `Remove ${name}?`,
      text: `${format.count(bins.length, "bin", "bins")} go with it. A store that ever held stock can only be archived.`,
      yes: "Remove",
    });
    if (yes) await remove.run({ params: { id } });
  };
  return (
    <Section
      title="Stores and bins"
      more={
        <Button look="link" onPress={() => setOpen("new")}>
          <Plus /> New store
        </Button>
      }
    >
      <SheetTable
        label="Stores"
        rows={data.stores}
        rowId={(store) => store.id}
        columns={[
          { header: "Store", cell: (store) => <b>{store.name}</b> },
          { header: "Bins", end: true, cell: (store) => store.bins.length },
          { header: "", cell: (store) => (store.archived ? "archived" : "") },
          {
            header: "",
            end: true,
            cell: (store) => (
              <>
                <EditButton label={`Change ${store.name}`} onPress={() => setOpen(store.id)} />
                <Button look="icon" aria-label={`Remove ${store.name}`} onPress={() => void onRemove(store)}>
                  <Trash2 />
                </Button>
              </>
            ),
          },
        ]}
      />
      <Dialog
        title={chosen ? `Change ${chosen.name}` : "New store"}
        isOpen={open !== null}
        onClose={close}
        width="520px"
      >
        <StoreForm store={chosen} onDone={close} />
        {chosen && <Bins store={chosen} />}
      </Dialog>
    </Section>
  );
}

interface StoreDraft {
  name: string;
  archived: boolean;
}

const In = inputsOf<StoreDraft>();

function StoreForm({ store, onDone }: { store: StoreAnswer | null; onDone: () => void }) {
  const form = useCommandForm({
    route: store ? stockRoutes.changeStore : stockRoutes.newStore,
    begin: { name: store?.name ?? "", archived: store?.archived ?? false },
    params: { id: store?.id ?? 0 },
    body: (typed: StoreDraft) => typed,
    done: (_, { name }) => {
      sayDone(`${name} is saved.`);
      onDone();
    },
  });
  return (
    <FormOf form={form} save="Save">
      <Stack>
        <In.Text label="Name" name="name" autoFocus />
        {store && <In.Tick name="archived">Archived: no longer offered</In.Tick>}
      </Stack>
    </FormOf>
  );
}

const BinIn = inputsOf<{ bins: string[] }>();

/** The bins of a store: more of them by typing or scanning, one that was never used taken away. */
function Bins({ store }: { store: StoreAnswer }) {
  const params = { id: store.id };
  const form = useCommandForm({
    route: stockRoutes.addBins,
    begin: { bins: [""] },
    params,
    body: (typed: { bins: string[] }) => typed,
    done: () => form.startAgain(),
  });
  const remove = usePress(stockRoutes.removeBin);
  const bringBack = usePress(stockRoutes.addBins);
  const onRemove = async (one: string) => {
    if (await remove.run({ params, body: { bin: one } }))
      sayDone(`Bin ${one} is removed.`, () => void bringBack.run({ params, body: { bins: [one] } }));
  };
  return (
    <Section title="Bins">
      {store.bins.length === 0 && <Sub>None yet. Without bins, stock is kept in the store itself.</Sub>}
      <List>
        {store.bins.map((one) => (
          <li key={one}>
            {one}
            <Button look="icon" aria-label={`Remove bin ${one}`} onPress={() => void onRemove(one)}>
              <X />
            </Button>
          </li>
        ))}
      </List>
      <FormOf form={form}>
        <BinIn.Text label="New bin" name="bins.0" width="180px" />
        <Actions>
          <Save look="quiet">Add bin</Save>
        </Actions>
      </FormOf>
    </Section>
  );
}

const List = styled.ul`
  display: flex;
  flex-wrap: wrap;
  gap: 6px;
  margin: 0 0 12px;
  padding: 0;
  max-height: 220px;
  overflow: auto;
  list-style: none;
  li {
    display: flex;
    align-items: center;
    padding-left: 10px;
    border: 1px solid ${color.line};
    background: ${color.sheet};
  }
`;
