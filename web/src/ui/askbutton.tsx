import { type Question, useAsk } from "./ask.tsx";
import { Button, type ButtonProps } from "./button.tsx";

export interface AskButtonProps extends Omit<ButtonProps, "onPress"> {
  question: Question;
  onYes: () => void;
}

/** A button for what can't be undone: it asks first, and says what will go. */
export function AskButton({ question, onYes, ...button }: AskButtonProps) {
  const ask = useAsk();
  return <Button {...button} onPress={() => void ask(question).then((yes) => yes && onYes())} />;
}
