import { routes } from "@yosegi/contract";
import { useState } from "react";
import { useCommand } from "../api/index.ts";
import { Actions, Button, Dialog, Form, Select, sayDone, TextField } from "../ui/index.ts";
import { useStores } from "./queries.ts";

/** No store has a name of one blank. */
const NEW = " ";

export interface StoreFieldProps {
  label: string;
  name?: string;
  hideLabel?: boolean;
  width: string;
  /** The store's name. */
  value: string;
  onChange: (store: string) => void;
  /** A choice before the stores, such as for none. */
  first?: { value: string; label: string };
  placeholder?: string;
}

/** A choice of stores, which can make one that is not there yet. */
export function StoreField({ onChange, first, ...field }: StoreFieldProps) {
  const stores = useStores().data?.stores ?? [];
  const [making, setMaking] = useState(false);
  const choices = stores.map(({ name }) => ({ value: name, label: name }));
  return (
    <>
      <Select
        {...field}
        options={
          choices.length === 0
            ? []
            : [...(first ? [first] : []), ...choices, { value: NEW, label: "New store …" }]
        }
        onChange={(store) => (store === NEW ? setMaking(true) : onChange(store))}
      />
      <Dialog title="New store" isOpen={making} onClose={() => setMaking(false)} width="420px">
        <NewStore
          onMade={(name) => {
            setMaking(false);
            onChange(name);
          }}
        />
      </Dialog>
    </>
  );
}

function NewStore({ onMade }: { onMade: (name: string) => void }) {
  const [name, setName] = useState("");
  const make = useCommand(routes.newStore, (store) => {
    sayDone(`${store.name} is saved.`);
    onMade(store.name);
  });
  return (
    <Form refusal={make.refusal} onSubmit={() => void make.run({ body: { name } })}>
      <TextField label="Name" name="name" value={name} onChange={setName} autoFocus />
      <Actions>
        <Button look="main" type="submit" isPending={make.busy}>
          Save
        </Button>
      </Actions>
    </Form>
  );
}
