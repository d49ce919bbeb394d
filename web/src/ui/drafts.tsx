import { Fragment } from "react";
import styled from "styled-components";
import { Button } from "./button.tsx";
import { useFormat } from "./format.ts";
import { Notice } from "./layout.tsx";
import { color } from "./theme.ts";

/** Says that what stands in the form was typed earlier and never saved; it can be thrown away. */
export function KeptDraft({ at, onStartAgain }: { at: number | null; onStartAgain: () => void }) {
  const format = useFormat();
  if (at === null) return null;
  return (
    <Notice role="status">
      You typed this on {format.moment(new Date(at).toISOString())} and did not save it.{" "}
      <Button look="link" onPress={onStartAgain}>
        Discard it
      </Button>
    </Notice>
  );
}

/** What a form says of a document, line by line: what it is, and its text. */
export type Described = readonly (readonly [what: string, text: string])[];

export interface StaleProps {
  /** What stands in the form, and what the document says now. */
  mine: Described;
  theirs: Described;
  /** Goes on with what is typed: saved again, it takes the place of what the document says. */
  onMine: () => void;
  /** Goes on with what the document says. */
  onTheirs: () => void;
}

/** Shows what somebody else changed in a document beside what is typed, where saving was refused for it. */
export function Stale({ mine, theirs, onMine, onTheirs }: StaleProps) {
  const rows = pairsOf(mine, theirs).filter(({ own, other }) => own !== other);
  return (
    <Sides>
      <b />
      <b>Yours</b>
      <b>Now saved</b>
      {rows.map(({ key, what, own, other }) => (
        <Fragment key={key}>
          <span>{what}</span>
          <span>{own || "–"}</span>
          <span>{other || "–"}</span>
        </Fragment>
      ))}
      {rows.length === 0 && <Same>No differences.</Same>}
      <i>
        <Button onPress={onMine}>Keep mine</Button> <Button onPress={onTheirs}>Take what is saved</Button>
      </i>
    </Sides>
  );
}

interface Pair {
  key: string;
  what: string;
  own: string;
  other: string;
}

/** Lines of both with the same name, in their order. */
function pairsOf(mine: Described, theirs: Described): Pair[] {
  const names = [...new Set([...mine, ...theirs].map(([what]) => what))];
  return names.flatMap((what) => {
    const [own, other] = [mine, theirs].map((lines) => lines.filter(([name]) => name === what));
    return Array.from({ length: Math.max(own?.length ?? 0, other?.length ?? 0) }, (_, i) => ({
      key: `${what} ${i}`,
      what,
      own: own?.[i]?.[1] ?? "",
      other: other?.[i]?.[1] ?? "",
    }));
  });
}

const Sides = styled.div`
  display: grid;
  grid-template-columns: auto minmax(0, 1fr) minmax(0, 1fr);
  gap: 4px 20px;
  max-width: 60em;
  margin: 0 0 16px;
  padding: 10px 14px;
  border-left: 5px solid ${color.lacquer};
  background: ${color.sheet};
  > i {
    grid-column: 1 / -1;
    margin-top: 8px;
    font-style: normal;
  }
`;

const Same = styled.span`
  grid-column: 1 / -1;
`;
