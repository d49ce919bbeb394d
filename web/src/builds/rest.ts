import { decimal } from "@yosegi/core";

/** Whether good and rejected units, as typed, leave some of the open quantity to make. */
export function leavesRest(good: string, rejected: string, open: string): boolean {
  const readable = [good, rejected].every((text) => /^\d+(\.\d+)?$/.test(text));
  return readable && decimal(good).plus(rejected).lt(open);
}
