import { type CoverDemand, type CoverQuestion, coverQuestion } from "@yosegi/contract";
import { type NumberMarks, parseNumber } from "@yosegi/core";
import { useEffect, useMemo } from "react";
import { useSearch } from "../ui/index.ts";

/** One thing that is wanted, as it is typed: text that cannot be read yet stays as it is. */
export interface Wanted {
  /** 0 while nothing is chosen. */
  item: number;
  quantity: string;
  day: string;
  priority: string;
  /** Id of the build it stands for; "" for none. */
  build: string;
  /** Id of the list it is made by; "" for the main one. */
  list: string;
  /** Items of the optional parts it takes. */
  options: readonly number[];
}

/** What is supposed to be otherwise, as it is typed. */
export interface Supposed {
  /** For a demand, by its place: other figures than it has. */
  demands: { at: number; quantity: string; day: string; list: string }[];
  stock: { item: number; onHand: string }[];
  incoming: { key: string; day: string }[];
  instead: { at: number; part: number; by: number; shortOnly: boolean }[];
}

export const NOTHING_WANTED: Wanted = {
  item: 0,
  quantity: "",
  day: "",
  priority: "1",
  build: "",
  list: "",
  options: [],
};
export const NOTHING_SUPPOSED: Supposed = { demands: [], stock: [], incoming: [], instead: [] };

export const supposesNothing = (s: Supposed): boolean =>
  s.demands.length + s.stock.length + s.incoming.length + s.instead.length === 0;

/** Everything that the page is asked for; all of it stands in its address. */
export interface CheckInput {
  wanted: Wanted[];
  store: string;
  /** Whether the page shows what would be otherwise. */
  supposing: boolean;
  supposed: Supposed;
}

const MARK = ";";
const SHORT_ONLY = "short";
const split = (text: string, parts: number): string[] => {
  const found = text.split(MARK);
  return Array.from({ length: parts }, (_, i) => found[i] ?? "");
};

/** Reads what an address says. */
export function readInput(address: URLSearchParams): CheckInput {
  const wanted = address.getAll("want").map((text): Wanted => {
    const [item = "", quantity = "", day = "", priority = "", build = "", list = "", taken = ""] = split(
      text,
      7,
    );
    const options = taken.split(",").map(Number).filter(Boolean);
    return { item: Number(item) || 0, quantity, day, priority: priority || "1", build, list, options };
  });
  return {
    wanted: wanted.length > 0 ? wanted : [NOTHING_WANTED],
    store: address.get("store") ?? "",
    supposing: address.has("if"),
    supposed: {
      demands: address.getAll("if.want").map((text) => {
        const [at = "", quantity = "", day = "", list = ""] = split(text, 4);
        return { at: Number(at) || 0, quantity, day, list };
      }),
      stock: address.getAll("if.stock").map((text) => {
        const [item = "", onHand = ""] = split(text, 2);
        return { item: Number(item) || 0, onHand };
      }),
      incoming: address.getAll("if.coming").map((text) => {
        const [key = "", day = ""] = split(text, 2);
        return { key, day };
      }),
      instead: address.getAll("if.take").map((text) => {
        const [at = "", part = "", by = "", short = ""] = split(text, 4);
        const shortOnly = short === SHORT_ONLY;
        return { at: Number(at) || 0, part: Number(part) || 0, by: Number(by) || 0, shortOnly };
      }),
    },
  };
}

/** Writes it into an address; what is as it always is takes no room there. */
export function writeInput({ wanted, store, supposing, supposed }: CheckInput): URLSearchParams {
  const address = new URLSearchParams();
  const put = (name: string, ...parts: (string | number)[]) =>
    address.append(name, parts.join(MARK).replace(/;+$/, ""));
  for (const w of wanted)
    put(
      "want",
      w.item || "",
      w.quantity,
      w.day,
      w.priority === "1" ? "" : w.priority,
      w.build,
      w.list,
      w.options.join(","),
    );
  if (store !== "") address.set("store", store);
  if (supposing) address.set("if", "");
  for (const s of supposed.demands) put("if.want", s.at, s.quantity, s.day, s.list);
  for (const s of supposed.stock) put("if.stock", s.item, s.onHand);
  for (const s of supposed.incoming) put("if.coming", s.key, s.day);
  for (const s of supposed.instead) put("if.take", s.at, s.part, s.by, s.shortOnly ? SHORT_ONLY : "");
  return address;
}

/** A change of what the page is asked for, made from what is asked then. */
export type Change = (change: (input: CheckInput) => Partial<CheckInput>) => void;

/**
 * What the page is asked for, kept in its address: so that a reload, a link and Back show the same. A change begins with
 * what the address says at that moment: a fast typist is ahead of what is drawn.
 */
export function useCheckInput(): [CheckInput, Change] {
  const [address, setAddress] = useSearch();
  const input = useMemo(() => readInput(address), [address]);
  const change: Change = (to) =>
    setAddress((before) => {
      const now = readInput(before);
      return writeInput({ ...now, ...to(now) });
    });
  return [input, change];
}

const STORED = "yosegi.last-check";

/**
 * Keeps what was asked last on this device; gives it where nothing is asked now, to go on with after the page was left or
 * begun anew.
 */
export function useLastCheck(input: CheckInput): string | null {
  const asks = input.wanted.some((wanted) => wanted.item !== 0);
  const text = writeInput(input).toString();
  useEffect(() => {
    if (asks) localStorage.setItem(STORED, text);
  }, [asks, text]);
  return asks ? null : localStorage.getItem(STORED);
}

/** Where a check of these stands; one may stand for a build, which does not compete with what it has reserved. */
export function checkAddress(
  demands: readonly { item: number; quantity: string; day: string | null; build?: number }[],
): string {
  const wanted = demands.map(
    ({ item, quantity, day, build }): Wanted => ({
      ...NOTHING_WANTED,
      item,
      quantity,
      day: day ?? "",
      build: build === undefined ? "" : String(build),
    }),
  );
  return `/check?${writeInput({ wanted, store: "", supposing: false, supposed: NOTHING_SUPPOSED })}`;
}

const demandOf = (w: Wanted): CoverDemand => ({
  item: w.item,
  quantity: w.quantity,
  day: w.day === "" ? null : w.day,
  priority: Number(w.priority),
  build: w.build === "" ? null : Number(w.build),
  list: w.list === "" ? null : Number(w.list),
  options: [...w.options],
  instead: [],
});

/** What can be read of it, and why the rest cannot, by the field of the question. */
export interface Readable {
  /** null while nothing that is asked can be read. */
  question: CoverQuestion | null;
  errors: Record<string, string>;
}

/** The question as it is: what is chosen and has a quantity. Lines that are still empty are left out. */
export function questionOf({ wanted, store }: CheckInput): Readable & { places: number[] } {
  const places = wanted.flatMap((w, i) => (w.item !== 0 && w.quantity !== "" ? [i] : []));
  const demands = places.map((i) => demandOf(wanted[i] ?? NOTHING_WANTED));
  return { ...parsed({ demands, store, stock: [], incoming: [] }), places };
}

/** The question with what is supposed to be otherwise. */
export function supposedQuestion(base: CoverQuestion, supposed: Supposed): Readable {
  const demands = base.demands.map((demand, at): CoverDemand => {
    const other = supposed.demands.find((s) => s.at === at);
    const instead = supposed.instead.filter((s) => s.at === at).map(({ at: _, ...taken }) => taken);
    return {
      ...demand,
      instead,
      ...(other && other.quantity !== "" && { quantity: other.quantity }),
      ...(other && other.day !== "" && { day: other.day }),
      ...(other && other.list !== "" && { list: Number(other.list) }),
    };
  });
  const stock = supposed.stock.filter((s) => s.onHand !== "");
  const incoming = supposed.incoming.filter((s) => s.day !== "");
  return parsed({ ...base, demands, stock, incoming });
}

function parsed(body: CoverQuestion): Readable {
  if (body.demands.length === 0) return { question: null, errors: {} };
  const found = coverQuestion.safeParse(body);
  if (found.success) return { question: found.data, errors: {} };
  return {
    question: null,
    errors: Object.fromEntries(found.error.issues.map((issue) => [issue.path.join("."), issue.message])),
  };
}

/** A question that was kept, as the page's address has it. */
export function inputOf(question: CoverQuestion): CheckInput {
  const base: CheckInput = {
    wanted: question.demands.map((d) => ({
      item: d.item,
      quantity: d.quantity,
      day: d.day ?? "",
      priority: String(d.priority),
      build: d.build === null ? "" : String(d.build),
      list: d.list === null ? "" : String(d.list),
      options: d.options,
    })),
    store: question.store,
    supposing: false,
    supposed: {
      demands: [],
      stock: question.stock,
      incoming: question.incoming,
      instead: question.demands.flatMap((d, at) => d.instead.map((i) => ({ at, ...i }))),
    },
  };
  return { ...base, supposing: !supposesNothing(base.supposed) };
}

/** Rows copied from a spreadsheet: code, quantity, and a day where there is one. */
export function pastedRows(
  rows: readonly string[][],
  marks: NumberMarks,
): { code: string; quantity: string; day: string }[] {
  return rows
    .filter(([code = "", quantity = ""]) => code !== "" && quantity !== "")
    .map(([code = "", quantity = "", day = ""]) => ({
      code,
      // Text that is no number stays as it is, to be refused at its field.
      quantity: parseNumber(quantity, marks) ?? quantity,
      day,
    }));
}
