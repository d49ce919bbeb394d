import {
  createContext,
  type ReactNode,
  useCallback,
  useContext,
  useEffect,
  useMemo,
  useRef,
  useState,
} from "react";
import { Heading, Modal, ModalOverlay, Dialog as Window } from "react-aria-components";
import { useBlocker } from "react-router";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { Actions } from "./layout.tsx";
import { color, radius } from "./theme.ts";

/** Forms within a page or a dialog, and whether one of them has something typed that is not saved. */
interface Forms {
  add: (unsaved: () => boolean) => () => void;
  any: () => boolean;
  /** Asks whether to leave what is typed, where something is; true where it may go. */
  mayLeave: () => Promise<boolean>;
}

const FormsContext = createContext<Forms>({
  add: () => () => {},
  any: () => false,
  mayLeave: () => Promise.resolve(true),
});

/**
 * Watches over what is typed on the whole page: going to another page, reloading and closing the tab ask first, as long as a
 * form has something that is not saved.
 */
export function UnsavedGuard({ children }: { children: ReactNode }) {
  const forms = useRef(new Set<() => boolean>());
  const [asking, setAsking] = useState<((leave: boolean) => void) | null>(null);
  const value = useMemo<Forms>(() => {
    const any = () => [...forms.current].some((unsaved) => unsaved());
    return {
      add: (unsaved) => {
        forms.current.add(unsaved);
        return () => forms.current.delete(unsaved);
      },
      any,
      mayLeave: () => new Promise((resolve) => setAsking(() => resolve)),
    };
  }, []);
  const blocker = useBlocker(
    ({ currentLocation, nextLocation }) => value.any() && currentLocation.pathname !== nextLocation.pathname,
  );
  useEffect(() => {
    if (blocker.state !== "blocked") return;
    void value.mayLeave().then((leave) => (leave ? blocker.proceed() : blocker.reset()));
  }, [blocker, value]);
  useEffect(() => {
    const onUnload = (event: BeforeUnloadEvent) => {
      if (value.any()) event.preventDefault();
    };
    window.addEventListener("beforeunload", onUnload);
    return () => window.removeEventListener("beforeunload", onUnload);
  }, [value]);
  const answer = (leave: boolean) => {
    asking?.(leave);
    setAsking(null);
  };
  return (
    <FormsContext value={value}>
      {children}
      <Question isOpen={asking !== null} onAnswer={answer} />
    </FormsContext>
  );
}

function Question({ isOpen, onAnswer }: { isOpen: boolean; onAnswer: (leave: boolean) => void }) {
  return (
    <Veil isOpen={isOpen} onOpenChange={(open) => !open && onAnswer(false)}>
      <Panel>
        <Window role="alertdialog" data-asks>
          <Heading slot="title">Leave without saving?</Heading>
          <p>What you typed here isn't saved.</p>
          <Actions>
            <Button look="main" onPress={() => onAnswer(false)}>
              Keep editing
            </Button>
            <Button onPress={() => onAnswer(true)}>Leave without saving</Button>
          </Actions>
        </Window>
      </Panel>
    </Veil>
  );
}

/** A part of the page that is left by itself, such as a dialog: gives how to ask before it closes. */
export function useUnsavedWithin(): {
  Provide: (props: { children: ReactNode }) => ReactNode;
  mayLeave: () => Promise<boolean>;
} {
  const outer = useContext(FormsContext);
  const own = useRef(new Set<() => boolean>());
  const value = useMemo<Forms>(
    () => ({
      add: (unsaved) => {
        own.current.add(unsaved);
        const remove = outer.add(unsaved);
        return () => {
          own.current.delete(unsaved);
          remove();
        };
      },
      any: () => [...own.current].some((unsaved) => unsaved()),
      mayLeave: outer.mayLeave,
    }),
    [outer],
  );
  const Provide = useCallback(
    (props: { children: ReactNode }) => <FormsContext value={value}>{props.children}</FormsContext>,
    [value],
  );
  return { Provide, mayLeave: () => (value.any() ? value.mayLeave() : Promise.resolve(true)) };
}

/** Lets the page ask before it is left, while `unsaved` says so. */
export function useUnsaved(unsaved: () => boolean): void {
  const { add } = useContext(FormsContext);
  const latest = useRef(unsaved);
  useEffect(() => {
    latest.current = unsaved;
  });
  useEffect(() => add(() => latest.current()), [add]);
}

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 30;
  display: grid;
  place-items: start center;
  padding: 14vh 16px 16px;
  background: rgb(30 20 12 / 0.45);
`;

const Panel = styled(Modal)`
  width: min(440px, 100%);
  padding: 18px 22px 22px;
  background: ${color.paper};
  border: 1px solid ${color.line};
  border-radius: ${radius};
  box-shadow: 0 20px 60px rgb(0 0 0 / 0.35);
  h2 {
    font-size: 21px;
  }
  section {
    outline: none;
  }
`;
