import { useState } from "react";
import { sayFailed, useFormBlock, useFormWait } from "../ui/index.ts";

export interface TypedChoiceProps<Found> {
  /** What the field shows while nothing is typed: what was chosen. */
  label: string;
  /** Looks up what is typed: what it means, or why it means nothing. Throws where it can't be asked. */
  find: (typed: string) => Promise<Found | string>;
  onChange: (found: Found | null) => void;
}

/**
 * A field that takes something by its code or name, typed, scanned, or chosen from a list. What is typed stands until the field
 * is left; then it is looked up, and the form around waits for that. Nothing is chosen where nothing is typed.
 */
export function useTypedChoice<Found extends object>({ label, find, onChange }: TypedChoiceProps<Found>) {
  const [typed, setTyped] = useState<string | null>(null);
  const [unknown, setUnknown] = useState<string | undefined>(undefined);
  // What is to be made, by the code or name that it begins with.
  const [making, setMaking] = useState<string | null>(null);
  const wait = useFormWait();
  // What is shown is not what would be sent.
  useFormBlock(unknown !== undefined);
  const text = typed ?? label;
  const choose = (found: Found) => {
    setTyped(null);
    setUnknown(undefined);
    onChange(found);
  };
  /** Gives false where it could not be looked up: then nothing is sent either. */
  const leave = async (): Promise<boolean> => {
    if (typed === null || typed === label) return true;
    if (typed.trim() === "") {
      setTyped(null);
      onChange(null);
      return true;
    }
    try {
      const found = await find(typed);
      if (typeof found === "string") setUnknown(found);
      else choose(found);
      return true;
    } catch (error) {
      sayFailed(error instanceof Error ? error.message : String(error));
      return false;
    }
  };
  return {
    unknown,
    choose,
    /** What to search for while somebody types. */
    search: typed === null || typed === label ? "" : typed,
    picker: {
      text,
      onText: (next: string) => {
        if (next === text) return;
        setTyped(next);
        setUnknown(undefined);
      },
      onLeave: () => wait(leave()),
      onMake: setMaking,
    },
    making,
    onMadeEnd: () => setMaking(null),
  };
}
