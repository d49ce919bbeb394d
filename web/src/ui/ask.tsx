import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { Heading, Modal, ModalOverlay, Dialog as Window } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { Actions } from "./layout.tsx";
import { color, radius } from "./theme.ts";

export interface Question {
  title: string;
  /** What will happen, in figures where there are some. */
  text: ReactNode;
  /** What the button that does it is called. */
  yes: string;
  no?: string;
}

const AskContext = createContext<(question: Question) => Promise<boolean>>(() => Promise.resolve(true));

/** Gives how to ask before something is done that can't be undone; true where the person says so. */
export const useAsk = () => useContext(AskContext);

/** Shows what is asked, over whatever is open. */
export function AskProvider({ children }: { children: ReactNode }) {
  const [asked, setAsked] = useState<{ question: Question; answer: (yes: boolean) => void } | null>(null);
  const ask = useCallback(
    (question: Question) =>
      new Promise<boolean>((resolve) => {
        setAsked({
          question,
          answer: (yes) => {
            setAsked(null);
            resolve(yes);
          },
        });
      }),
    [],
  );
  return (
    <AskContext value={ask}>
      {children}
      <Veil isOpen={asked !== null} onOpenChange={(open) => !open && asked?.answer(false)}>
        <Panel>
          {asked && (
            <Window role="alertdialog" data-asks>
              <Heading slot="title">{asked.question.title}</Heading>
              <p>{asked.question.text}</p>
              <Actions>
                <Button look="main" onPress={() => asked.answer(true)}>
                  {asked.question.yes}
                </Button>
                <Button onPress={() => asked.answer(false)}>{asked.question.no ?? "Cancel"}</Button>
              </Actions>
            </Window>
          )}
        </Panel>
      </Veil>
    </AskContext>
  );
}

const Veil = styled(ModalOverlay)`
  position: fixed;
  inset: 0;
  z-index: 30;
  display: grid;
  grid-template-columns: minmax(0, 1fr);
  place-items: start center;
  padding: 14vh 16px 16px;
  background: rgb(30 20 12 / 0.45);
`;

const Panel = styled(Modal)`
  width: min(460px, 100%);
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
