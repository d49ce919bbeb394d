import { useSearchParams } from "react-router";

export interface Address {
  /** What the address says of a name; "" where it says nothing. */
  get: (name: string) => string;
  /** Writes one name into the address, without a step for the Back key. */
  set: (name: string, value: string) => void;
  /** Writes several names at once. */
  setAll: (values: Record<string, string>) => void;
  clear: () => void;
  /** The address's part after the question mark. */
  text: string;
}

/** What a page was asked for, kept in its address: so that a reload, a link and Back show the same. */
export function useAddress(): Address {
  const [address, setAddress] = useSearchParams();
  const setAll = (values: Record<string, string>) => {
    setAddress(
      (before) => {
        const next = new URLSearchParams(before);
        for (const [name, value] of Object.entries(values))
          if (value === "") next.delete(name);
          else next.set(name, value);
        return next;
      },
      { replace: true },
    );
  };
  return {
    get: (name) => address.get(name) ?? "",
    set: (name, value) => setAll({ [name]: value }),
    setAll,
    clear: () => setAddress({}, { replace: true }),
    text: address.toString(),
  };
}
