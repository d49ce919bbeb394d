import { useEffect, useState } from "react";
import { Unseen } from "./layout.tsx";

/** While somebody types, what follows from it changes with every key: it is said once it stays for so long. */
const QUIET_MS = 1000;

/** Says a sentence to a screen reader, once, when it has stayed as it is for a moment; nothing at first. */
export function Spoken({ text }: { text: string }) {
  const [first] = useState(text);
  const [said, setSaid] = useState("");
  useEffect(() => {
    if (text === first && said === "") return;
    const timer = setTimeout(() => setSaid(text), QUIET_MS);
    return () => clearTimeout(timer);
  }, [text, first, said]);
  return <Unseen role="status">{said}</Unseen>;
}
