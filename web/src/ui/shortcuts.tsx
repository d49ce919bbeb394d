import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { Dialog } from "./dialog.tsx";
import { Key } from "./layout.tsx";

interface Shortcut {
  key: string;
  what: string;
  run: () => void;
}

interface Registry {
  add: (shortcut: Shortcut) => () => void;
}

const RegistryContext = createContext<Registry | null>(null);

/** Lets pages have keys of their own while they are in view, and shows all of them on "?". */
export function Shortcuts({ children }: { children: ReactNode }) {
  const known = useRef(new Set<Shortcut>());
  const [listed, setListed] = useState<Shortcut[] | null>(null);
  const registry = useMemo<Registry>(
    () => ({
      add: (shortcut) => {
        known.current.add(shortcut);
        return () => known.current.delete(shortcut);
      },
    }),
    [],
  );
  useEffect(() => {
    const onKey = (event: KeyboardEvent) => {
      if (event.ctrlKey || event.metaKey || event.altKey || event.defaultPrevented || isTyping(event.target))
        return;
      if (event.key === "?") return setListed([...known.current]);
      // The page registered last is the one in view.
      const found = [...known.current].reverse().find((shortcut) => shortcut.key === event.key);
      if (!found) return;
      event.preventDefault();
      found.run();
    };
    window.addEventListener("keydown", onKey);
    return () => window.removeEventListener("keydown", onKey);
  }, []);
  return (
    <RegistryContext value={registry}>
      {children}
      <Dialog title="Keys" isOpen={listed !== null} onClose={() => setListed(null)} width="420px">
        <List>
          {[...(listed ?? []), { key: "?", what: "Show this list" }].map(({ key, what }) => (
            <div key={key + what}>
              <dt>
                <Key>{key}</Key>
              </dt>
              <dd>{what}</dd>
            </div>
          ))}
        </List>
      </Dialog>
    </RegistryContext>
  );
}

/** Gives the page a key while it is in view. Not heard while the person types in a field. */
export function useShortcut(key: string, what: string, run: () => void): void {
  const registry = useContext(RegistryContext);
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => registry?.add({ key, what, run: () => latest.current() }), [registry, key, what]);
}

function isTyping(target: EventTarget | null): boolean {
  return (
    target instanceof HTMLElement &&
    (target.isContentEditable || target.closest("input, textarea, select, [role=dialog]") !== null)
  );
}

const List = styled.dl`
  margin: 0;
  div {
    display: grid;
    grid-template-columns: 60px 1fr;
    padding: 5px 0;
  }
  dd {
    margin: 0;
  }
`;
