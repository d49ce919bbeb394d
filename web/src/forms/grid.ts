import { useEffect } from "react";
import { useFieldArray, useFormContext, useWatch } from "react-hook-form";

/** The lines of a form that have a key of their own, whatever place they stand at. */
export interface Grid {
  keys: readonly number[];
  remove: (at: number) => void;
  /** Puts a line in another's place. */
  move: (at: number, to: number) => void;
}

/** Lines that always end with an empty one, so that there is one to go on at. */
export function useGrid<Line extends { key: number }>(
  name: string,
  isEmpty: (line: Line) => boolean,
  blank: (key: number) => Line,
): Grid {
  const { fields, remove, move, append } = useFieldArray({ name, keyName: "fieldId" });
  const { getValues } = useFormContext();
  const lines = fields as unknown as Line[];
  const last = useWatch({ name: `${name}.${lines.length - 1}` }) as Line | undefined;
  const isFull = last === undefined || !isEmpty(last);
  useEffect(() => {
    if (!isFull) return;
    const keys = ((getValues(name) ?? []) as Line[]).map((line) => line.key);
    append(blank(Math.max(-1, ...keys) + 1) as never, { shouldFocus: false });
  }, [isFull, append, blank, getValues, name]);
  return { keys: lines.map((line) => line.key), remove, move };
}
