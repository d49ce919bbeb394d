import { type StoreAnswer, stockRoutes } from "@yosegi/contract";
import { Plus, Trash2 } from "lucide-react";
import { useState } from "react";
import { Unanswered, usePress } from "../api/index.ts";
import { FormOf, inputsOf, useCommandForm } from "../forms/index.ts";
import {
  Button,
  Dialog,
  EditButton,
  Section,
  SheetTable,
  Stack,
  sayDone,
  useAsk,
  useFormat,
} from "../ui/index.ts";
import { Bins } from "./bins.tsx";
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
