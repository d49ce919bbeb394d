import { useState } from "react";

const STORED = "yosegi.pick-store";

/** The store that is worked in on this device, by its name; "" for all of them. */
export const shownStore = (): string => localStorage.getItem(STORED) ?? "";

/** The same on a page that can change it. */
export function useShownStore(): [store: string, setStore: (store: string) => void] {
  const [store, setStore] = useState(shownStore);
  return [
    store,
    (next) => {
      setStore(next);
      localStorage.setItem(STORED, next);
    },
  ];
}
