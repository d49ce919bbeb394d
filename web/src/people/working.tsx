import type { Person } from "@yosegi/contract";
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { setWorking } from "../api/index.ts";
import { usePeople } from "./queries.ts";

const STORED = "yosegi.person";

interface Working {
  /** Who works on this device; null until somebody said so. */
  person: Person | null;
  /** Who works here now. */
  people: Person[];
  /** Why the people could not be read; null where they could. */
  error: Error | null;
  choose: (id: number) => void;
}

const WorkingContext = createContext<Working>({ person: null, people: [], error: null, choose: () => {} });

/** Knows who is working, on this device, until somebody else is chosen. It is never guessed. */
export function WorkingProvider({ children }: { children: ReactNode }) {
  const { data, error } = usePeople();
  const [chosen, setChosen] = useState(() => Number(localStorage.getItem(STORED)));
  const people = (data?.people ?? []).filter((one) => !one.archived);
  const person = people.find((p) => p.id === chosen) ?? null;
  const id = person?.id ?? null;
  useEffect(() => setWorking(id), [id]);
  const choose = (next: number) => {
    localStorage.setItem(STORED, String(next));
    setWorking(next);
    setChosen(next);
  };
  return <WorkingContext value={{ person, people, error, choose }}>{children}</WorkingContext>;
}

export const useWorking = (): Working => useContext(WorkingContext);
