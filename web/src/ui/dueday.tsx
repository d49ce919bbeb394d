import { useFormat } from "./format.ts";
import { Short } from "./layout.tsx";

/** A day on which something is due or expected, and in how many days; what is late stands out. */
export function DueDay({ day, late }: { day: string | null; late: boolean }) {
  const format = useFormat();
  if (day === null) return "no date";
  const words = `${format.day(day)}, ${format.relativeDay(day)}`;
  return late ? <Short>{words}</Short> : words;
}
