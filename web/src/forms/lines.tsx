import type { ReactNode } from "react";
import { type FieldArray, type FieldArrayPath, type FieldValues, useFieldArray } from "react-hook-form";
import { AddLine, FieldHeads, FieldLine, Notice, useFieldState } from "../ui/index.ts";

export interface LinesProps<V extends FieldValues, List extends FieldArrayPath<V>> {
  /** The list among the form's values. */
  name: List;
  blank: FieldArray<V, List>;
  /** What the fields of a line are called, and how wide they are; shown above them on a wide screen. */
  heads?: readonly (readonly [text: string, width: string])[];
  add: string;
  /** Another kind of line that may be added. */
  other?: { words: string; blank: FieldArray<V, List> };
  /** What the button that takes line `i` away is called. */
  remove?: (i: number) => string;
  /** Enter goes through all fields of a line. */
  isLong?: boolean;
  /** The fields of a line; their names begin with `at`. */
  children: (at: `${List}.${number}`, i: number) => ReactNode;
}

/** The lines of a document: added, filled by Enter, taken away. What is wrong with them as a whole stands below. */
export function Lines<V extends FieldValues, List extends FieldArrayPath<V>>({
  name,
  blank,
  heads,
  add,
  other,
  remove = (i) => `Remove line ${i + 1}`,
  isLong = false,
  children,
}: LinesProps<V, List>) {
  // The lines of a document have ids of their own.
  const lines = useFieldArray({ name, keyName: "key" } as never) as unknown as {
    fields: readonly { key: string }[];
    append: (line: unknown, options: { shouldFocus: boolean }) => void;
    remove: (i: number) => void;
  };
  const append = (line: unknown) => lines.append(line, { shouldFocus: false });
  const { message, touch } = useFieldState(name, "");
  return (
    <div>
      {heads && <FieldHeads gap="6px" heads={heads} />}
      {lines.fields.map(({ key }, i) => (
        <FieldLine
          key={key}
          remove={remove(i)}
          isLong={isLong}
          onRemove={() => {
            touch();
            lines.remove(i);
          }}
        >
          {children(`${name}.${i}` as `${List}.${number}`, i)}
        </FieldLine>
      ))}
      <AddLine
        onAdd={() => append(blank)}
        other={other && { words: other.words, onAdd: () => append(other.blank) }}
      >
        {add}
      </AddLine>
      {message && <Notice>{message}</Notice>}
    </div>
  );
}
