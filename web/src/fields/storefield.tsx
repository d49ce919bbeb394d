import { lazy, Suspense, useState } from "react";
import { Select } from "../ui/index.ts";
import { useStores } from "./queries.ts";

const NewStoreDialog = lazy(async () => ({ default: (await import("./newstore.tsx")).NewStoreDialog }));

/** No store has a name of two blanks. */
const NEW = "  ";

export interface StoreFieldProps {
  label: string;
  name?: string;
  hideLabel?: boolean;
  width: string;
  /** The store's name. */
  value: string;
  onChange: (store: string) => void;
  /** What stands for no store, as the first choice. */
  none?: string;
  placeholder?: string;
}

/** A choice of stores, which can make one that is not there yet. */
export function StoreField({ onChange, ...field }: StoreFieldProps) {
  const stores = useStores().data?.stores ?? [];
  const [making, setMaking] = useState(false);
  const choices = stores.map(({ name }) => ({ value: name, label: name }));
  return (
    <>
      <Select
        {...field}
        options={choices.length === 0 ? [] : [...choices, { value: NEW, label: "New store …" }]}
        onChange={(store) => (store === NEW ? setMaking(true) : onChange(store))}
      />
      {making && (
        <Suspense>
          <NewStoreDialog onClose={() => setMaking(false)} onMade={onChange} />
        </Suspense>
      )}
    </>
  );
}
