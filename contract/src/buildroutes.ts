import { buildRow, buildStage, buildSummary, newBuild, orderLink, ownParts } from "./builds.ts";
import { buildSheet, handOut, nextNumbers } from "./buildsheet.ts";
import { byId, day, figure, id, note, pageEnd, pageQuery, quantity, ref } from "./fields.ts";
import { finishBody, finishPreview } from "./finishes.ts";
import { ask, askWith, command, replace } from "./route.ts";
import { z } from "./zod.ts";

const ids = z
  .string()
  .regex(/^\d{1,9}(,\d{1,9}){0,199}$/, "Ids are numbers with commas between them.")
  .transform((text) => text.split(",").map(Number));

export const buildRoutes = {
  builds: ask("/api/builds", {
    permission: "look",
    summary: "Builds, overdue first",
    query: z.object({
      stage: buildStage.optional(),
      product: id.optional(),
      person: id.optional(),
      tag: z.string().max(60).optional(),
      from: day.optional().meta({ description: "Due on this day or later" }),
      until: day.optional().meta({ description: "Due on this day or earlier" }),
      undated: z.stringbool().optional().meta({ description: "Only those without a due day" }),
      open: z.stringbool().optional().meta({ description: "Only those that have not ended" }),
      state: z
        .enum(["overdue", "blocked", "ready"])
        .optional()
        .meta({ description: "Only open ones that are so, as the rail counts them" }),
      ...pageQuery,
    }),
    answer: z.object({ builds: z.array(buildRow), ...pageEnd }),
  }),
  build: ask("/api/builds/:id", {
    permission: "look",
    summary: "One build, with its parts and what it cost",
    ...byId,
    answer: buildSheet,
  }),
  newBuild: command("/api/builds", {
    permission: "plan",
    summary: "Make a draft build",
    body: newBuild,
    answer: buildSummary,
  }),
  changeBuild: replace("/api/builds/:id", {
    permission: "plan",
    summary: "Change a draft; of a build that is queued, all but its quantity, list and options",
    ...byId,
    body: newBuild.omit({ product: true, parts: true }),
    answer: buildSummary,
  }),
  changeParts: replace("/api/builds/:id/parts", {
    permission: "plan",
    summary: "Say what parts this build alone takes, before any is handed out; its parts list stays as it is",
    ...byId,
    body: z.object({
      parts: ownParts.meta({ description: "All parts it takes; a line left out is dropped" }),
    }),
    answer: buildSummary,
  }),
  followList: command("/api/builds/:id/follow-list", {
    permission: "plan",
    summary: "Take the parts by the product's parts list again, instead of parts of the build's own",
    ...byId,
    answer: buildSummary,
  }),
  recordBuild: command("/api/builds/record", {
    permission: "build",
    summary: "Record a build that is done: planned, its parts taken as planned, and finished, in one step",
    body: newBuild.pick({ product: true, quantity: true, list: true, note: true, costTag: true }).extend({
      ...finishBody.pick({ day: true, store: true, bin: true, lot: true, expiry: true, serials: true }).shape,
      line: ref.nullable().default(null).meta({ description: "The line of an order that it is for" }),
    }),
    answer: buildSummary,
  }),
  nextNumbers: ask("/api/next-numbers", {
    permission: "look",
    summary:
      "The lot and serial numbers that the next finished units of a product would get, and where they go",
    query: z.object({ product: id }),
    answer: nextNumbers.extend({ store: z.string(), bin: z.string() }),
  }),
  copyBuild: command("/api/builds/:id/copy", {
    permission: "plan",
    summary: "Make a draft like an earlier build",
    ...byId,
    body: z.object({
      quantity,
      due: day.nullable(),
      actual: z
        .boolean()
        .meta({ description: "Plan what that build really used, instead of the parts list" }),
    }),
    answer: buildSummary,
  }),
  splitBuild: command("/api/builds/:id/split", {
    permission: "plan",
    summary: "Split so many off into a build of their own; answers with the new one",
    ...byId,
    body: z.object({ quantity }),
    answer: buildSummary,
  }),
  joinBuilds: command("/api/builds/:id/join", {
    permission: "plan",
    summary: "Put another draft of the same product into this one",
    ...byId,
    body: z.object({ other: ref }),
    answer: buildSummary,
  }),
  queueBuild: command("/api/builds/:id/queue", {
    permission: "plan",
    summary: "Queue a draft: its parts are reserved",
    ...byId,
    answer: buildSummary,
  }),
  unqueueBuild: command("/api/builds/:id/unqueue", {
    permission: "plan",
    summary: "Move a queued build back to draft, where nothing is made or handed out",
    ...byId,
    answer: buildSummary,
  }),
  handOut: command("/api/builds/:id/hand-out", {
    permission: "build",
    summary: "Hand out the parts drawn at pick: from their bins to the bench, or to the subcontractor",
    ...byId,
    body: z.object({
      day,
      some: z.boolean().default(false).meta({ description: "Hand out what there is, where it is not all" }),
      units: quantity
        .nullable()
        .default(null)
        .meta({ description: "Parts for so many units more; null: for all that are open" }),
      note: note.default(""),
    }),
    answer: buildSummary,
  }),
  handOuts: ask("/api/builds/:id/hand-outs", {
    permission: "look",
    summary: "What was handed out for a build, by its own steps or in pick rounds, the latest first",
    ...byId,
    answer: z.object({ handOuts: z.array(handOut) }),
  }),
  handOutSlip: ask("/api/builds/:id/hand-outs/:n/slip", {
    permission: "look",
    summary: "A hand-out as a slip to go along with it, as PDF or XLSX",
    params: z.object({ id, n: id }),
    query: z.object({ format: z.enum(["pdf", "xlsx"]).default("pdf") }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
  undoHandOut: command("/api/builds/:id/hand-outs/:n/undo", {
    permission: "build",
    summary: "Undo one hand-out: its parts are back in their bins and reserved again",
    params: z.object({ id, n: id }),
    answer: buildSummary,
  }),
  returnToStock: command("/api/builds/:id/return-to-stock", {
    permission: "build",
    summary: "Put what lies on the bench back to its bins; it is reserved again",
    ...byId,
    body: z.object({ day }),
    answer: buildSummary,
  }),
  cancelBuild: command("/api/builds/:id/cancel", {
    permission: "plan",
    summary: "Cancel a build: its reservations and handed-out parts go back",
    ...byId,
    answer: buildSummary,
  }),
  previewFinish: askWith("/api/builds/:id/finish-preview", {
    permission: "look",
    summary: "What a finish would take and cost; records nothing",
    ...byId,
    body: finishBody.pick({
      good: true,
      rejected: true,
      lines: true,
      extra: true,
      work: true,
      counts: true,
      day: true,
      returnToStock: true,
      closeRest: true,
    }),
    answer: finishPreview,
  }),
  finishBuild: command("/api/builds/:id/finish", {
    permission: "build",
    summary: "Finish all or some of a build: the product arrives with its cost, the parts leave",
    ...byId,
    body: finishBody,
    answer: buildSummary,
  }),
  undoFinish: command("/api/builds/:id/undo-finish", {
    permission: "build",
    summary: "Take the last finish back, or all of them, exactly mirrored",
    ...byId,
    body: z.object({ all: z.boolean().default(false) }),
    answer: buildSummary,
  }),
  linkableOrders: ask("/api/builds/:id/orders", {
    permission: "look",
    summary: "Lines of open orders that ask for its product and that it does not serve yet",
    ...byId,
    answer: z.object({ lines: z.array(orderLink.omit({ quantity: true }).extend({ open: figure })) }),
  }),
  linkOrder: command("/api/builds/:id/orders", {
    permission: "plan",
    summary: "Let a build work for a line of an order; also once it is queued, on the bench or finished",
    ...byId,
    body: z.object({
      line: ref,
      quantity: quantity
        .nullable()
        .default(null)
        .meta({ description: "null: as many as the line still asks for, as far as the build goes" }),
    }),
    answer: buildSummary,
  }),
  unlinkOrder: command("/api/builds/:id/orders/unlink", {
    permission: "plan",
    summary: "Let a build work for a line no more",
    ...byId,
    body: z.object({ line: ref }),
    answer: buildSummary,
  }),
  usedSerials: ask("/api/builds/:id/used-serials", {
    permission: "look",
    summary: "Which serial numbers of its product are used already",
    ...byId,
    answer: z.object({ serials: z.array(z.string()) }),
  }),
  buildPaper: ask("/api/build-sheets", {
    permission: "look",
    summary: "Build sheets as PDF, one after the other",
    query: z.object({ ids }),
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
