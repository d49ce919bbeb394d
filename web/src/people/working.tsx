import type { Person } from "@yosegi/contract";
import { createContext, type ReactNode, useContext, useEffect, useState } from "react";
import { setWorking } from "../api/index.ts";
import { usePeople } from "./queries.ts";

const STORED = "yosegi.person";

interface Working {
  person: Person | null;
  people: Person[];
  choose: (id: number) => void;
}

const WorkingContext = createContext<Working>({ person: null, people: [], choose: () => {} });

/** Knows who is working, on this device, until somebody else is chosen. */
export function WorkingProvider({ children }: { children: ReactNode }) {
  const { data } = usePeople();
  const [chosen, setChosen] = useState(() => Number(localStorage.getItem(STORED)));
  const people = data?.people ?? [];
  const person = people.find((p) => p.id === chosen) ?? people[0] ?? null;
  const id = person?.id ?? null;
  useEffect(() => setWorking(id), [id]);
  const choose = (next: number) => {
    localStorage.setItem(STORED, String(next));
    setWorking(next);
    setChosen(next);
  };
  return <WorkingContext value={{ person, people, choose }}>{children}</WorkingContext>;
}

export const useWorking = (): Working => useContext(WorkingContext);
