import type { CoverAnswer } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

export interface Sentences {
  /** What can be made. */
  main: string;
  /** What stands in the way, where something does. */
  obstacle: string;
  /** What is worth knowing beside it. */
  beside: string;
}

/** The answer of a check in words, made from its figures. */
export function sentences(cover: CoverAnswer, format: Format): Sentences {
  const beside = [finished, cost, work].map((say) => say(cover, format)).filter(Boolean);
  return { ...answer(cover, format), beside: beside.join(" ") };
}

function answer(cover: CoverAnswer, format: Format): Pick<Sentences, "main" | "obstacle"> {
  const { wanted, makesNow } = cover;
  const all = format.amount(wanted);
  if (makesNow === null)
    return { main: `All ${all} can be made now, and any other number: no part limits it.`, obstacle: "" };
  const names = cover.parts.filter((part) => part.limiting).map((part) => part.name);
  const say = (one: string, many: string) => `${format.list(names)} ${names.length === 1 ? one : many}`;
  const reached = decimal(makesNow).cmp(wanted);
  if (reached > 0)
    return {
      main: `All ${all} can be made now. Up to ${format.amount(makesNow)}; then ${say("runs", "run")} out.`,
      obstacle: "",
    };
  if (reached === 0)
    return {
      main: `All ${all} can be made now. Not one more: ${say("is", "are")} used up then.`,
      obstacle: "",
    };
  if (decimal(makesNow).lte(0))
    return { main: `None of ${all} can be made now.`, obstacle: `${say("stops", "stop")} it.` };
  return {
    main: `${format.amount(makesNow)} of ${all} can be made now.`,
    obstacle: `${say("runs", "run")} out first.`,
  };
}

function finished({ finishedFree, product }: CoverAnswer, format: Format): string {
  if (decimal(finishedFree).lte(0)) return "No finished ones are free.";
  const verb = finishedFree === "1" ? "is" : "are";
  return `${format.amount(finishedFree, product.unit)} finished ${verb} free besides.`;
}

function cost({ cost: { each, unknown } }: CoverAnswer, format: Format): string {
  const lacking = unknown.length === 0 ? "" : `, without ${format.list(unknown)}: no cost yet`;
  return `Expected to cost ${format.unitCost(each)} each${lacking}.`;
}

function work(cover: CoverAnswer, format: Format): string {
  const works = cover.work.map((w) => `${format.amount(w.quantity, w.unit)} of ${w.name.toLowerCase()}`);
  return works.length === 0 ? "" : `Takes ${format.list(works)}.`;
}
