import { createContext, type ReactNode, useCallback, useContext, useState } from "react";
import { Heading, Modal, ModalOverlay, Dialog as Window } from "react-aria-components";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { Actions } from "./layout.tsx";
import { panel, veil } from "./overlay.ts";

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
  ${veil}
  z-index: 30;
  padding: 14vh 16px 16px;
`;

const Panel = styled(Modal)`
  ${panel}
  width: min(460px, 100%);
  padding: 18px 22px 22px;
  section {
    outline: none;
  }
`;
