import { z } from "./zod.ts";

/** Areas of what is recorded, as a change of it is made known. */
export const DATA_AREAS = [
  "items",
  "lists",
  "kits",
  "firms",
  "prices",
  "messages",
  "people",
  "stock",
  "counts",
  "notices",
  "builds",
  "recurring",
  "buying",
  "orders",
  "picking",
  "shipping",
  "returns",
  "takeaparts",
  "reworks",
  "supplierreturns",
  "outbox",
  "papers",
  "allocations",
  "labels",
  "customfields",
  "files",
  "cover",
  "imports",
] as const;

export type DataArea = (typeof DATA_AREAS)[number];

const area = z.enum(DATA_AREAS);

/** What a stream of events says of a change; `/api/events` sends one after each command. */
export const changeEvent = z.object({
  /** Counts up by one with each change; another step means that some were missed. */
  count: z.int(),
  areas: z.array(area),
  /** The idempotency key of the command, so that who sent it knows its own. */
  key: z.string(),
});

export type ChangeEvent = z.infer<typeof changeEvent>;

/** The header that says of a command's answer which areas it changed. */
export const CHANGED_HEADER = "yosegi-changed";

/** The areas that such a header names; what this version doesn't know is left out. */
export const changedAreas = (header: string | null): DataArea[] =>
  (header ?? "").split(",").flatMap((name) => {
    const known = area.safeParse(name.trim());
    return known.success ? [known.data] : [];
  });

const CATALOG = ["items", "lists", "kits", "firms"] as const;
const RESERVING = ["stock", "builds", "buying", "orders", "allocations"] as const;

/**
 * Which areas an answer may depend on, by the area of its route: when one of them changes, it is asked again. All depend on
 * people: the company's currency and day, and the names of who did what. A test of the server compares it with what is read.
 */
const DEPENDS: Record<string, readonly DataArea[]> = {
  company: [],
  people: [],
  units: ["items", "lists", "builds", "recurring"],
  groups: ["items", "stock"],
  items: DATA_AREAS,
  revisions: [...CATALOG, ...RESERVING, "files", "customfields"],
  prices: [...CATALOG, ...RESERVING, "files"],
  messages: [...CATALOG, "messages", "files"],
  customers: ["messages", "items", "firms", "files"],
  "price-lists": ["prices", "items", "firms", "files"],
  replacements: [...CATALOG, ...RESERVING, "files"],
  firms: ["firms", "prices", "items", "customfields", "orders", "buying", "builds"],
  "custom-fields": ["customfields"],
  files: ["files"],
  cover: [...CATALOG, ...RESERVING, "recurring", "cover", "files"],
  checks: ["cover"],
  purchases: [...CATALOG, ...RESERVING, "outbox", "files"],
  reorder: [...CATALOG, ...RESERVING, "recurring", "files"],
  outbox: ["outbox", "buying", "firms", "files"],
  papers: ["papers"],
  orders: [...CATALOG, "prices", ...RESERVING, "shipping", "outbox", "papers", "files"],
  picks: [...CATALOG, ...RESERVING, "picking", "files"],
  shipments: [...CATALOG, "stock", "orders", "shipping", "returns", "outbox", "papers", "files"],
  returns: [
    ...CATALOG,
    "stock",
    "orders",
    "shipping",
    "returns",
    "takeaparts",
    "outbox",
    "papers",
    "builds",
    "files",
  ],
  "take-aparts": [...CATALOG, ...RESERVING, "recurring", "returns", "takeaparts", "files"],
  "supplier-returns": [...CATALOG, "stock", "buying", "returns", "supplierreturns", "files"],
  builds: [...CATALOG, ...RESERVING, "recurring", "takeaparts", "files", "labels", "customfields"],
  "build-sheets": DATA_AREAS,
  recurring: [...CATALOG, ...RESERVING, "recurring", "files"],
  labels: ["labels", "items", "builds", "stock"],
  "label-sheets": DATA_AREAS,
  stores: ["stock", "items", "files"],
  today: [...CATALOG, ...RESERVING, "picking", "returns", "reworks", "recurring", "outbox", "files"],
  trace: [
    ...CATALOG,
    "stock",
    "builds",
    "buying",
    "orders",
    "shipping",
    "returns",
    "supplierreturns",
    "takeaparts",
    "reworks",
    "files",
  ],
  reworks: [...CATALOG, "prices", ...RESERVING, "returns", "reworks", "papers", "files"],
  stock: ["stock", "items", "builds", "buying", "orders", "firms"],
  counts: ["stock", "counts", "items", "lists", "builds", "buying", "files"],
  imports: DATA_AREAS,
  exports: DATA_AREAS,
  jobs: [],
  reach: [],
  notices: ["notices"],
  pieces: [...CATALOG, "reworks", "stock", "builds", "orders", "shipping", "customfields", "files"],
  find: DATA_AREAS,
  waiting: [...CATALOG, ...RESERVING, "recurring", "picking", "files"],
};

/** The areas that answers of a route's area may depend on; of an area that is not listed all. */
export const dependenciesOf = (routeArea: string): readonly DataArea[] => [
  ...(DEPENDS[routeArea] ?? DATA_AREAS),
  "people",
];

/** Whether answers to questions of a route's area may be others after a change of areas. */
export const dependsOn = (routeArea: string, changed: readonly DataArea[]): boolean =>
  dependenciesOf(routeArea).some((one) => changed.includes(one));
