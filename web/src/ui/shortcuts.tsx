import { createContext, type ReactNode, useContext, useEffect, useMemo, useRef, useState } from "react";
import styled from "styled-components";
import { Checkbox } from "./checkbox.tsx";
import { Dialog } from "./dialog.tsx";
import { Key } from "./layout.tsx";
import { listenToKeys } from "./scans.ts";
import { sayFailed } from "./toast.tsx";

interface Shortcut {
  key: string;
  what: string;
  run: () => void;
}

interface Registry {
  add: (shortcut: Shortcut) => () => void;
  /** Says who takes what is scanned outside of fields. */
  takeScans: (take: (code: string) => void) => () => void;
}

const RegistryContext = createContext<Registry | null>(null);

/** What lies over the page; a message in the corner, which has the role of an alert dialog too, does not. */
const OVER = "[role=dialog], [data-asks]";

const STORED_OFF = "yosegi.shortcuts-off";

/** Lets pages have keys of their own while they are in view, shows all of them on "?", and tells scans from keys. */
export function Shortcuts({ children }: { children: ReactNode }) {
  const known = useRef(new Set<Shortcut>());
  const takers = useRef(new Set<(code: string) => void>());
  const [listed, setListed] = useState<Shortcut[] | null>(null);
  const [off, setOff] = useState(() => localStorage.getItem(STORED_OFF) === "yes");
  const registry = useMemo<Registry>(
    () => ({
      add: (shortcut) => {
        known.current.add(shortcut);
        return () => known.current.delete(shortcut);
      },
      takeScans: (take) => {
        takers.current.add(take);
        return () => takers.current.delete(take);
      },
    }),
    [],
  );
  useEffect(
    () =>
      listenToKeys(window, {
        onScan: (code) => {
          if (document.querySelector(OVER))
            sayFailed(`Scanned ${code}. Choose a field for it, or close this first.`);
          // The page in view takes it before the field at the top does.
          else [...takers.current].at(-1)?.(code);
        },
        onKey: (key) => {
          if (document.querySelector(`${OVER}, [role=menu], [role=listbox]`)) return;
          if (key === "?") return setListed([...known.current]);
          // The page registered last is the one in view.
          if (!off)
            [...known.current]
              .reverse()
              .find((shortcut) => shortcut.key === key)
              ?.run();
        },
      }),
    [off],
  );
  const turn = (on: boolean) => {
    setOff(!on);
    localStorage.setItem(STORED_OFF, on ? "no" : "yes");
  };
  return (
    <RegistryContext value={registry}>
      {children}
      <Dialog
        title="Keyboard shortcuts"
        isOpen={listed !== null}
        onClose={() => setListed(null)}
        width="420px"
      >
        <Checkbox isSelected={!off} onChange={turn}>
          Single keys work on this device
        </Checkbox>
        <List>
          {[...(listed ?? []), ...ALWAYS].map(({ key, what }) => (
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

const ALWAYS = [
  { key: "Enter", what: "Next field, next line" },
  { key: "Ctrl Enter", what: "Save" },
  { key: "?", what: "Show shortcuts" },
];

/** Gives the page a key while it is in view. Not heard in a field, in a dialog, or where keys are switched off. */
export function useShortcut(key: string, what: string, run: () => void): void {
  const registry = useContext(RegistryContext);
  const latest = useRef(run);
  useEffect(() => {
    latest.current = run;
  });
  useEffect(() => registry?.add({ key, what, run: () => latest.current() }), [registry, key, what]);
}

/** Takes what is scanned while no field has the focus. */
export function useScans(take: (code: string) => void): void {
  const registry = useContext(RegistryContext);
  const latest = useRef(take);
  useEffect(() => {
    latest.current = take;
  });
  useEffect(() => registry?.takeScans((code) => latest.current(code)), [registry]);
}

const List = styled.dl`
  margin: 8px 0 0;
  div {
    display: grid;
    grid-template-columns: 96px 1fr;
    padding: 5px 0;
  }
  dd {
    margin: 0;
  }
`;
