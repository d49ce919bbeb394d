import type { CoverAnswer, DemandCoverAnswer, ExpectedAnswer, PartCoverAnswer } from "@yosegi/contract";
import { daysBetween, decimal } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

/** The most tiles that the reach of a part is shown by. */
export const TILES = 12;

export interface Sentences {
  /** What can be made. */
  main: string;
  /** What stands in the way, where something does. */
  obstacle: string;
  /** When all of it could be done, and what has to be ordered for that. */
  when: string;
}

/** The answer of a check in words, made from its figures. */
export function sentences(cover: CoverAnswer, format: Format): Sentences {
  const [only, ...others] = cover.demands;
  if (!only) return { main: "", obstacle: "", when: "" };
  const now = others.length === 0 ? single(only, cover.parts, format) : several(cover, format);
  return { ...now, when: when(cover, format) };
}

type Now = Pick<Sentences, "main" | "obstacle">;

function single(
  { wanted, makesNow }: DemandCoverAnswer,
  parts: readonly PartCoverAnswer[],
  format: Format,
): Now {
  const all = format.amount(wanted);
  if (makesNow === null)
    return { main: `All ${all} can be made now; no part limits the quantity.`, obstacle: "" };
  const names = parts.filter((part) => part.limiting).map((part) => part.name);
  const say = (one: string, many: string) => `${format.list(names)} ${names.length === 1 ? one : many}`;
  const reached = decimal(makesNow).cmp(wanted);
  if (reached > 0)
    return {
      main: `All ${all} can be made now. Up to ${format.amount(makesNow)}, then ${say("runs", "run")} out.`,
      obstacle: "",
    };
  if (reached === 0)
    return {
      main: `You can make all ${all} now – with no ${format.list(names)} left over.`,
      obstacle: "",
    };
  if (decimal(makesNow).lte(0))
    return { main: `None of ${all} can be made now.`, obstacle: `${say("stops", "stop")} it.` };
  return {
    main: `${format.amount(makesNow)} of ${all} can be made now.`,
    obstacle: `${say("runs", "run")} out first.`,
  };
}

function several({ demands, parts }: CoverAnswer, format: Format): Now {
  const whole = demands.filter((d) => d.short.length === 0).length;
  if (whole === demands.length)
    return { main: `All ${demands.length} can be made in full now.`, obstacle: "" };
  const main = `${whole === 0 ? "None" : whole} of ${demands.length} can be made in full now.`;
  const together = parts.filter((part) => part.shortTogether).map((part) => part.name);
  if (together.length > 0) {
    return {
      main,
      obstacle: `There's enough ${format.list(together)} for each on its own, but not for all of them together.`,
    };
  }
  const short = parts.filter((part) => decimal(part.shortNow).gt(0)).map((part) => part.name);
  return { main, obstacle: `${listed(short, format)} ${short.length === 1 ? "is" : "are"} short.` };
}

const NAMED = 3;
const listed = (names: readonly string[], format: Format, what = "parts"): string =>
  names.length <= NAMED ? format.list(names) : `${names[0]} and ${names.length - 1} other ${what}`;

/** "All 20 by 8 Dec, if you order 6 pc of Mesh floor today." Empty where nothing is short. */
function when(cover: CoverAnswer, format: Format): string {
  if (cover.demands.every((d) => d.short.length === 0)) return "";
  const [only, ...others] = cover.demands;
  const all = others.length === 0 && only ? `All ${format.amount(only.wanted)}` : "Everything";
  if (cover.finish === null) return unknown(cover, format);
  const steps = [ordering(cover, format), building(cover, format), onDrafts(cover, format)].filter(Boolean);
  const condition = steps.length > 0 ? `, if you ${steps.join(" and ")}` : ", with deliveries on order";
  return format.sentence(`${all} by ${format.day(cover.finish)}${lateness(cover, format)}${condition}`);
}

/** What has to be ordered or built beyond what stands on drafts. */
const more = <T extends { quantity: string }>(todo: readonly T[]): T[] =>
  todo.filter(({ quantity }) => decimal(quantity).gt(0));

function ordering(cover: CoverAnswer, format: Format): string {
  const orders = more(cover.orders);
  if (orders.length === 0) return "";
  const names = orders.map((o) => `${format.amount(o.quantity, o.item.unit)} of ${o.item.name}`);
  return `order ${orders.length <= 2 ? format.list(names) : format.count(orders.length, "part", "parts")} today`;
}

function building(cover: CoverAnswer, format: Format): string {
  const builds = more(cover.builds);
  if (builds.length === 0) return "";
  const names = builds.map((b) => `${format.amount(b.quantity, b.item.unit)} of ${b.item.name}`);
  return `build ${listed(names, format)} first`;
}

/** "send P-4": what stands on drafts counts only once it is sent or queued. */
function onDrafts({ orders, builds }: CoverAnswer, format: Format): string {
  const documents = (todo: readonly { onDrafts: { document: string }[] }[]) => [
    ...new Set(todo.flatMap((t) => t.onDrafts.map((draft) => draft.document))),
  ];
  const [sent, queued] = [documents(orders), documents(builds)];
  return [
    sent.length > 0 && `place ${listed(sent, format, "drafts")}`,
    queued.length > 0 && `build ${listed(queued, format, "drafts")} first`,
  ]
    .filter(Boolean)
    .join(" and ");
}

/** How late it gets; among several, which of them. */
function lateness({ demands }: CoverAnswer, format: Format): string {
  const late = demands.flatMap(({ item, build, day, finish }) =>
    day !== null && finish !== null && finish > day
      ? [{ name: build?.number ?? item.name, days: format.count(daysBetween(day, finish), "day", "days") }]
      : [],
  );
  if (late.length === 0) return "";
  if (demands.length === 1) return `, ${late[0]?.days} late`;
  const named = late.slice(0, NAMED).map(({ name, days }) => `${name} ${days} late`);
  const others = late.length > NAMED ? [`${late.length - NAMED} more late`] : [];
  return ` (${[...named, ...others].join(", ")})`;
}

function unknown({ demands, parts }: CoverAnswer, format: Format): string {
  const ids = new Set(demands.flatMap((d) => d.unknown));
  const names = parts.filter((part) => ids.has(part.id)).map((part) => part.name);
  return `No date for the rest: ${listed(names, format)} ${names.length === 1 ? "has" : "have"} no supplier lead time, parts list or expected delivery.`;
}

/** What is worth knowing beside the answer to one product. */
export function beside(
  demand: DemandCoverAnswer,
  expected: ExpectedAnswer | undefined,
  format: Format,
): string {
  return [finished(demand, format), expected && cost(expected, format), expected && work(expected, format)]
    .filter(Boolean)
    .join(" ");
}

function finished({ finishedFree, item }: DemandCoverAnswer, format: Format): string {
  if (item.kind === "kit") return "";
  if (decimal(finishedFree).lte(0)) return "None in stock.";
  return `${format.amount(finishedFree, item.unit)} more already in stock.`;
}

function cost({ cost: { each, unknown } }: ExpectedAnswer, format: Format): string {
  const lacking = unknown.length === 0 ? "" : ` (without ${format.list(unknown)}, no cost yet)`;
  return `Expected to cost ${format.unitCost(each)} each${lacking}.`;
}

function work({ work }: ExpectedAnswer, format: Format): string {
  const works = work.map((w) => `${format.amount(w.quantity, w.unit)} of ${w.name.toLowerCase()}`);
  return works.length === 0 ? "" : `Takes ${format.list(works)}.`;
}

/** One demand among several, in short: "40 of 200 now · all by 30 Nov". */
export function demandWords(demand: DemandCoverAnswer, format: Format): string {
  const { wanted, makesNow, finish, short } = demand;
  if (makesNow === null || short.length === 0) return "all now";
  const now = `${format.amount(decimal(makesNow).gt(wanted) ? wanted : makesNow)} of ${format.amount(wanted)} now`;
  return `${now} · ${finish === null ? "the rest: unknown" : `all by ${format.day(finish)}`}`;
}

/** What comes of a part and when, in short. */
export function comingWords({ incoming }: PartCoverAnswer, format: Format): string {
  const [first, ...more] = incoming;
  if (!first) return "";
  const words =
    first.day === null ? "no date" : first.overdue ? `late, ${format.day(first.day)}` : format.day(first.day);
  return more.length === 0 ? words : `${words} and ${more.length} more`;
}
