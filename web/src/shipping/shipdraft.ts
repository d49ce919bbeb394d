import type { FinishBody, OrderLine, OrderSheet, ShipBody, ShipPreview } from "@yosegi/contract";
import { type Day, decimal, QUANTITY_DECIMALS, setsReady } from "@yosegi/core";
import type { Format } from "../ui/index.ts";

/** What leaves of one line, as it is typed. */
export interface LeavingDraft {
  line: number;
  /** Whole sets or units; "" leaves it out, so that work leaves with the last goods. */
  quantity: string;
  /** Whether single pieces of a set leave besides. */
  single: boolean;
  pieces: { item: number; quantity: string }[];
  /** Lots or serials of what has such, one a line; empty: the suggested ones. */
  only: { item: number; codes: string }[];
}

/** A shipment as it stands in the form. */
export interface ShipDraft {
  day: Day;
  note: string;
  parcels: string;
  weight: string;
  goOn: boolean;
  takeFromOthers: boolean;
  lines: LeavingDraft[];
  /** Builds that are finished with it, and what is recorded of each. */
  finishes: { build: number; body: FinishBody }[];
}

/** Whether a line is a set with its contents, and not an item alone. */
export const isSet = (line: Pick<OrderLine, "set">): boolean => line.set !== null;

/** The form as an order offers it: all that is ready of each open line, whole sets only. */
export const newShipDraft = (order: OrderSheet, today: Day): ShipDraft => ({
  day: today,
  note: "",
  parcels: "",
  weight: "",
  goOn: false,
  takeFromOthers: false,
  finishes: [],
  lines: order.orderLines.filter((line) => line.open !== "0" && !line.bySupplier).map(leavingOf),
});

const leavingOf = (line: OrderLine): LeavingDraft => ({
  line: line.id,
  quantity: line.takes.length === 0 ? "" : readyOf(line),
  single: false,
  pieces: isSet(line) ? line.takes.map(({ item }) => ({ item: item.id, quantity: "0" })) : [],
  only: line.takes
    .filter(({ item }) => item.tracking !== "none")
    .map(({ item }) => ({ item: item.id, codes: "" })),
});

type Take = OrderLine["takes"][number];

/** What builds give a line of it that shipping finishes. */
const toFinish = ({ finishWhenShipped, builds }: Take): Take["builds"] =>
  finishWhenShipped ? builds.filter(({ coming }) => coming !== "0") : [];

/** Whole sets or units that can leave now, with what is finished for it; all that is open where every component is in stock. */
function readyOf(line: OrderLine): string {
  const components = line.takes.map((take) => {
    const built = toFinish(take).reduce((sum, { coming }) => sum.plus(coming), decimal(take.ready));
    return {
      per: decimal(take.per),
      shipped: decimal(take.shipped),
      ready: built.gt(take.open) ? decimal(take.open) : built,
      open: take.open,
    };
  });
  if (components.every(({ ready, open }) => ready.eq(open))) return line.open;
  return setsReady(decimal(line.quantity), components, isSet(line) ? 0 : QUANTITY_DECIMALS).toFixed();
}

/** The builds that have to be finished for what is to leave, and how many good units of each. */
export function finishesFor(
  order: Pick<OrderSheet, "orderLines">,
  lines: readonly LeavingDraft[],
): { build: number; good: string }[] {
  const needed = new Map<number, ReturnType<typeof decimal>>();
  for (const { line: id, quantity } of lines) {
    const line = order.orderLines.find((own) => own.id === id);
    if (!line || !/^\d+(\.\d+)?$/.test(quantity)) continue;
    for (const take of line.takes) {
      let missing = decimal(quantity).times(take.per).minus(take.ready);
      for (const { id: build, coming } of toFinish(take)) {
        if (missing.lte(0)) break;
        const good = missing.gt(coming) ? decimal(coming) : missing;
        needed.set(build, (needed.get(build) ?? decimal(0)).plus(good));
        missing = missing.minus(good);
      }
    }
  }
  return [...needed].map(([build, good]) => ({ build, good: good.toFixed() }));
}

/** Whether anything is said of a line. */
export const isLeaving = ({ quantity, single, pieces }: LeavingDraft): boolean =>
  quantity !== "" || (single && pieces.some((piece) => piece.quantity !== "" && piece.quantity !== "0"));

/** What is sent for what was typed. */
export function shipBodyOf(draft: ShipDraft, order: Pick<OrderSheet, "orderLines">): ShipBody {
  const { parcels, weight, lines, finishes, ...rest } = draft;
  return {
    ...rest,
    finishes: finishes.map(({ build, body }) => ({ ...body, build, day: draft.day })),
    parcels: parcels === "" ? null : Number(parcels),
    weight: weight === "" ? null : weight,
    lines: lines.filter(isLeaving).map(({ line, quantity, single, pieces, only }) => {
      const open = order.orderLines.find((own) => own.id === line)?.open;
      return {
        line,
        // All that is open, single pieces of a set too that is not whole any more.
        quantity: !single && quantity === open ? null : quantity || "0",
        pieces: single ? pieces.map((piece) => ({ ...piece, quantity: piece.quantity || "0" })) : [],
        only: only.map(({ item, codes }) => ({ item, codes: codesIn(codes) })),
      };
    }),
  };
}

/** Lots or serials as they are typed, pasted or scanned: one a line, or with commas between. */
export const codesIn = (text: string): string[] =>
  text
    .split(/[\n,;\t]+/)
    .map((code) => code.trim())
    .filter(Boolean);

/** The field of the form that a fault in what is sent stands at. */
export function shipField(path: string, { lines }: ShipDraft): string {
  const [name, at, ...rest] = path.split(".");
  if (name !== "lines" || at === undefined) return path;
  const sent = lines.flatMap((line, i) => (isLeaving(line) ? [i] : []));
  const field = rest.join(".");
  // A lot is refused as a whole list, a line without a price at its quantity.
  const own = /^only\.\d+$/.test(field) ? `${field}.codes` : field === "line" ? "quantity" : field;
  return ["lines", sent[Number(at)] ?? at, own].join(".");
}

type PreviewComponent = ShipPreview["lines"][number]["components"][number];

/** Where a component is taken from, in words: "Yard Y1-A, HS-114". */
export const takenWords = ({ taken }: Pick<PreviewComponent, "taken">, format: Format): string =>
  taken.length > 6
    ? format.count(taken.length, "bin, lot or serial", "bins, lots or serials")
    : taken
        .map(({ store, bin, lot, serial, quantity }) =>
          [
            `${store} ${bin}`.trim() || "the bench",
            lot || serial,
            taken.length > 1 && serial === "" && format.amount(quantity),
          ]
            .filter(Boolean)
            .join(", "),
        )
        .join(" · ");

/** Why a component can't leave; "" where it can. */
export function shortWords({ item, quantity, short, expired }: PreviewComponent, format: Format): string {
  if (decimal(short).lte(0)) return "";
  const there = decimal(quantity).minus(short).toFixed();
  const old = expired === "0" ? "" : `, ${format.amount(expired)} more expired`;
  return `${item.code}: ${format.amount(there)} of ${format.amount(quantity, item.unit)} in stock${old}`;
}
