import { REWORK_OUTCOMES, REWORK_STATES, STEP_STATES } from "@yosegi/core";
import {
  bin,
  byId,
  chosen,
  cost,
  day,
  id,
  lot,
  note,
  once,
  pageEnd,
  pageQuery,
  price,
  quantity,
  ref,
  serial,
  short,
} from "./fields.ts";
import { outboxMessage } from "./outbox.ts";
import { heldUnit, listedStep, reworkRow, reworkSheet } from "./reworkanswers.ts";
import { ask, command, replace } from "./route.ts";
import { z } from "./zod.ts";

const store = z.string().trim().max(120);
const hour = z
  .string()
  .regex(/^(|([01]\d|2[0-3]):[0-5]\d)$/, "Write the time like 14:30.")
  .default("")
  .meta({ description: "By what time of that day; empty: by its end" });

const head = {
  due: day.nullable().default(null),
  assigned: ref.nullable().default(null).meta({ description: "The person who is to do it" }),
  reason: note.default("").meta({ description: "What is wrong with it, or what is to be improved" }),
  costTag: short("The cost tag").default(""),
};

export const reworkBody = z.object({
  ...head,
  item: ref,
  customer: ref.nullable().default(null).meta({ description: "Whom it is for; null: nobody yet" }),
  isTheirs: z.boolean().default(false).meta({ description: "The units are the customer's own" }),
  at: ref.nullable().default(null).meta({ description: "The subcontractor it lies with; null: our bench" }),
  plan: ref
    .nullable()
    .default(null)
    .meta({ description: "The starting point whose parts and steps it begins with" }),
  day,
  units: z
    .array(
      z.object({
        lot: lot.default(""),
        serial: serial.default(""),
        quantity,
        store: store
          .default("")
          .meta({ description: "Where it is; empty: the customer's own, or in a return" }),
        bin: bin.default(""),
        returnLine: z
          .object({ id: ref, line: ref })
          .nullable()
          .default(null)
          .meta({ description: "The line of a return that it is taken from" }),
      }),
    )
    .min(1, "Enter what is to be reworked.")
    .max(100, "Up to 100 units.")
    .check(once(({ serial: s }) => s || null, "This serial number is named"))
    .check(
      once(
        ({ returnLine }) => (returnLine ? `${returnLine.id} ${returnLine.line}` : null),
        "This line of a return is named",
      ),
    ),
});
export type ReworkBody = z.infer<typeof reworkBody>;

const forUnit = ref
  .nullable()
  .default(null)
  .meta({ description: "The unit that it is for; null: all of them" });
const charge = price
  .nullable()
  .default(null)
  .meta({ description: "What the customer pays for it; null: a part's price, else what it costs" });

const partBody = z
  .object({
    item: ref.nullable().default(null).meta({ description: "null: a line of text with an amount" }),
    text: short("The text").default(""),
    amount: cost.default("0").meta({ description: "What a line of text costs" }),
    quantity: quantity.default("1"),
    lot: lot.default(""),
    serial: serial.default(""),
    store: store.default("").meta({ description: "Where it is taken from; empty: planned, not taken yet" }),
    bin: bin.default(""),
    unit: forUnit,
    step: ref.nullable().default(null).meta({ description: "The step that it is for" }),
    charge,
    day,
  })
  .refine(({ item, text }) => item !== null || text !== "", {
    path: ["item"],
    error: "Choose a part, or enter a text.",
  });

const stepBody = z.object({
  what: short("What is done").min(1, "Enter what is to be done."),
  person: ref.nullable().default(null),
  supplier: ref.nullable().default(null).meta({ description: "The subcontractor who does it" }),
  service: ref.nullable().default(null).meta({ description: "What is ordered from the subcontractor" }),
  due: day.nullable().default(null),
  hour,
  planned: cost.default("0").meta({ description: "What it should cost" }),
  actual: cost.nullable().default(null).meta({ description: "What it cost; null: as planned" }),
  state: z.enum(STEP_STATES).default("waiting"),
  unit: forUnit,
  charge,
});
export type ReworkStepBody = z.infer<typeof stepBody>;

const outBody = z.object({
  day,
  units: z
    .array(
      z.object({
        unit: ref,
        outcome: z.enum(REWORK_OUTCOMES),
        item: ref.nullable().default(null).meta({ description: "What it is now; null: what it was" }),
        store: store.default("").meta({ description: "Where it goes, or its parts; empty: to its customer" }),
        bin: bin.default(""),
        reason: note.default("").meta({ description: "Why it is scrapped" }),
        price: price
          .nullable()
          .default(null)
          .meta({ description: "What it is to be sold for; stays with its serial number" }),
        parts: z
          .array(
            z.object({
              item: chosen("a part"),
              quantity,
              lot: lot.default(""),
              serial: serial.default(""),
              store: store.default(""),
              bin: bin.default(""),
            }),
          )
          .max(200, "Up to 200 parts.")
          .default([])
          .meta({ description: "Good parts that are taken out of it" }),
      }),
    )
    .min(1)
    .max(100)
    .check(once(({ unit }) => unit, "This unit is named")),
});
export type ReworkOutBody = z.infer<typeof outBody>;

const planBody = z.object({
  name: short("The name").min(1, "Enter a name."),
  from: ref.meta({ description: "The rework whose parts and steps it keeps" }),
});

const answer = { answer: reworkSheet };
const done = z.object({});
const partParams = { params: z.object({ id, part: id }) };
const stepParams = { params: z.object({ id, step: id }) };

export const REWORK_PAPERS = ["job", "quote", "bill", "account"] as const;
export type ReworkPaper = (typeof REWORK_PAPERS)[number];

export const reworkRoutes = {
  reworks: ask("/api/reworks", {
    permission: "look",
    summary: "Reworks, those that are open first, by their due day",
    query: z.object({
      ...pageQuery,
      state: z.enum(["", "open", ...REWORK_STATES]).default(""),
      person: z.coerce.number().int().nonnegative().default(0).meta({ description: "0: of anybody" }),
      late: z.enum(["", "1"]).default("").meta({ description: "Only what is overdue" }),
    }),
    answer: z.object({ reworks: z.array(reworkRow), ...pageEnd }),
  }),
  rework: ask("/api/reworks/:id", {
    permission: "look",
    summary: "One rework: its units, parts and steps, and what it costs",
    ...byId,
    ...answer,
  }),
  newRework: command("/api/reworks", {
    permission: "build",
    summary: "Begin a rework: units go in, with what they carry",
    body: reworkBody,
    ...answer,
  }),
  changeRework: replace("/api/reworks/:id", {
    permission: "build",
    summary: "Change when a rework is due, who does it, and what is wrong",
    ...byId,
    body: z.object(head),
    ...answer,
  }),
  priceRework: replace("/api/reworks/:id/price", {
    permission: "build",
    summary: "Say what the units of a rework are to be sold for",
    ...byId,
    body: z.object({
      price: price.nullable().meta({ description: "For all units together; null: not known" }),
    }),
    ...answer,
  }),
  addReworkPart: command("/api/reworks/:id/parts", {
    permission: "build",
    summary: "Add a part, taken from stock or planned, or a line of text with an amount",
    ...byId,
    body: partBody,
    ...answer,
  }),
  takeReworkPart: command("/api/reworks/:id/parts/:part/take", {
    permission: "build",
    summary: "Take a planned part from stock, or a substitute that the item's parts list allows",
    ...partParams,
    body: z.object({
      substitute: ref
        .nullable()
        .default(null)
        .meta({ description: "What is taken in its place; null: itself" }),
      store,
      bin: bin.default(""),
      lot: lot.default(""),
      serial: serial.default(""),
      day,
    }),
    ...answer,
  }),
  removeReworkPart: command("/api/reworks/:id/parts/:part/remove", {
    permission: "build",
    summary: "Remove a part or a line of text; a part goes back to the bin it came from",
    ...partParams,
    ...answer,
  }),
  addReworkStep: command("/api/reworks/:id/steps", {
    permission: "build",
    summary: "Add a step",
    ...byId,
    body: stepBody,
    ...answer,
  }),
  changeReworkStep: replace("/api/reworks/:id/steps/:step", {
    permission: "build",
    summary: "Change a step",
    ...stepParams,
    body: stepBody,
    ...answer,
  }),
  removeReworkStep: command("/api/reworks/:id/steps/:step/remove", {
    permission: "build",
    summary: "Remove a step",
    ...stepParams,
    ...answer,
  }),
  orderReworkStep: command("/api/reworks/:id/steps/:step/order", {
    permission: "buy",
    summary: "Order a subcontractor's step on a purchase order of its own",
    ...stepParams,
    ...answer,
  }),
  reworkSteps: ask("/api/reworks/steps", {
    permission: "look",
    summary: "Steps of all reworks that are not done, by their due day",
    query: z.object({
      ...pageQuery,
      state: z.enum(["", ...STEP_STATES]).default(""),
      person: z.coerce.number().int().nonnegative().default(0).meta({ description: "0: of anybody" }),
    }),
    answer: z.object({ steps: z.array(listedStep), ...pageEnd }),
  }),
  setReworkSteps: command("/api/reworks/steps/state", {
    permission: "build",
    summary: "Set the state of several steps",
    body: z.object({
      steps: z.array(ref).min(1, "Choose at least one step.").max(500),
      state: z.enum(STEP_STATES),
    }),
    answer: done,
  }),
  agreeRework: command("/api/reworks/:id/agree", {
    permission: "sell",
    summary: "Note that the customer agreed to the quote, or that they didn't",
    ...byId,
    body: z.object({ agreed: z.boolean() }),
    ...answer,
  }),
  finishRework: command("/api/reworks/:id/finish", {
    permission: "build",
    summary: "Finish a rework: each unit comes out, is scrapped, or gives its good parts",
    ...byId,
    body: outBody,
    ...answer,
  }),
  finishReworkGood: command("/api/reworks/:id/finish-good", {
    permission: "build",
    summary:
      "Finish a rework with all its units good: as what they were, to where they are usually kept, or back to the customer whose own they are",
    ...byId,
    body: z.object({ day }),
    ...answer,
  }),
  undoFinishRework: command("/api/reworks/:id/undo-finish", {
    permission: "build",
    summary: "Undo the finish of a rework: its units and parts lie with it again",
    ...byId,
    ...answer,
  }),
  undoRework: command("/api/reworks/:id/undo", {
    permission: "build",
    summary: "Undo a rework that is not finished: its units and parts are back where they were",
    ...byId,
    ...answer,
  }),
  sendRework: command("/api/reworks/:id/send", {
    permission: "build",
    summary: "Put the quote, the bill or the account of a rework into the outbox, for its customer",
    ...byId,
    body: z.object({ kind: z.enum(["quote", "bill", "account"]) }),
    answer: outboxMessage,
  }),
  reworkPaper: ask("/api/reworks/:id/paper", {
    permission: "look",
    summary:
      "The job sheet for the bench, or the quote, the bill or the account of what was done, for the customer; as PDF",
    ...byId,
    query: z.object({
      kind: z.enum(REWORK_PAPERS),
      unit: z.coerce
        .number()
        .int()
        .nonnegative()
        .default(0)
        .meta({ description: "The account of one unit; 0: of all" }),
    }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  reworkPlans: ask("/api/reworks/plans", {
    permission: "look",
    summary: "Saved starting points of reworks",
    answer: z.object({
      plans: z.array(z.object({ id: ref, name: z.string(), parts: z.int(), steps: z.int() })),
    }),
  }),
  saveReworkPlan: command("/api/reworks/plans", {
    permission: "build",
    summary: "Keep the parts and steps of a rework as a starting point for others",
    body: planBody,
    answer: done,
  }),
  removeReworkPlan: command("/api/reworks/plans/:id/remove", {
    permission: "build",
    summary: "Remove a starting point",
    ...byId,
    answer: done,
  }),
  registerUnit: command("/api/customers/:id/units", {
    permission: "firms",
    summary: "Write down a unit that a customer has and that we never shipped",
    ...byId,
    body: z.object({
      item: ref,
      serial: serial.min(1, "Enter the serial number."),
      since: day.nullable().default(null),
      note: note.default(""),
    }),
    answer: done,
  }),
  removeRegisteredUnit: command("/api/customers/:id/units/remove", {
    permission: "firms",
    summary: "Forget a unit that was written down by hand",
    ...byId,
    body: z.object({ item: ref, serial: serial.min(1, "Enter the serial number.") }),
    answer: done,
  }),
  heldUnits: ask("/api/customers/:id/units", {
    permission: "look",
    summary: "Units by serial number that a customer has, with warranty and earlier reworks",
    ...byId,
    answer: z.object({ units: z.array(heldUnit) }),
  }),
};
