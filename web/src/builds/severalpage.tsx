import { type BuildRow, buildRoutes, PLAIN_FINISH } from "@yosegi/contract";
import { isWorked } from "@yosegi/core";
import { useState } from "react";
import { Link } from "react-router";
import { call, type Step, StepResults, sendOnce, Unanswered, useOneByOne } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  type Column,
  DataTable,
  type Format,
  Page,
  type SpreadsheetOf,
  Sub,
  useFormat,
} from "../ui/index.ts";
import { useOpenBuilds } from "./queries.ts";
import { paperAddress } from "./steps.tsx";
import { stateWords } from "./words.ts";

/** Queueing, printing or finishing several builds at once. */
export function SeveralPage() {
  const format = useFormat();
  const { data, error } = useOpenBuilds();
  const [chosen, setChosen] = useState<ReadonlySet<string | number>>(new Set());
  const { doAll, busy, results } = useOneByOne<BuildRow>();
  if (!data) return <Unanswered error={error} shape="table" />;
  const { builds } = data;
  const picked = builds.filter((build) => chosen.has(build.id));
  const ready = picked.filter((build) => isWorked(build.stage));
  const drafts = picked.filter((build) => build.stage === "draft");
  // What could not be done stays selected.
  const run = async (rows: readonly BuildRow[], step: Step<BuildRow>) => {
    const done = await doAll(rows, step);
    setChosen(new Set(done.flatMap((result) => (result.why === null ? [] : result.id))));
  };
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>Queue, print or finish several at once</h1>
        <Sub>
          Finishes with planned quantities and the next lot number. Builds that need serial numbers or lack
          parts must be finished one by one.
        </Sub>
        <Actions style={{ marginTop: 0, marginBottom: 12 }}>
          <Button
            isDisabled={picked.length === 0}
            onPress={() => window.open(paperAddress(picked.map((b) => b.id)), "_blank", "noopener")}
          >
            Print {format.count(picked.length, "sheet", "sheets")}
          </Button>
          <Button isDisabled={drafts.length === 0} isPending={busy} onPress={() => void run(drafts, QUEUE)}>
            Queue {format.count(drafts.length, "build", "builds")}
          </Button>
          <Button
            look="main"
            isDisabled={ready.length === 0}
            isPending={busy}
            onPress={() => void run(ready, finishStep(format.settings.today))}
          >
            Finish {format.count(ready.length, "build", "builds")} as planned
          </Button>
        </Actions>
        <StepResults results={results} path="/builds" />
        <DataTable
          label="Open builds"
          rows={builds}
          rowId={(build) => build.id}
          selection={{ chosen, onChange: setChosen, words: (build) => build.number }}
          spreadsheet={SPREADSHEET}
          empty="No build is open."
          columns={columnsOf(format)}
        />
      </Page>
    </>
  );
}

const SPREADSHEET: SpreadsheetOf<BuildRow> = {
  name: "builds",
  columns: [
    { header: "Build", value: (build) => build.number },
    { header: "Product", value: (build) => build.product.code },
    { header: "Name", value: (build) => build.product.name },
    { header: "Quantity", value: (build) => build.quantity },
    { header: "Unit", value: (build) => build.product.unit },
    { header: "Good", value: (build) => build.good },
    { header: "Due", value: (build) => build.due ?? "" },
    { header: "Stage", value: (build) => build.stage },
    { header: "Assigned to", value: (build) => build.subcontractor?.name ?? build.assigned?.name ?? "" },
    { header: "Cost tag", value: (build) => build.costTag },
  ],
};

const columnsOf = (format: Format): Column<BuildRow>[] => [
  {
    id: "number",
    header: "Build",
    cell: (build) => <Link to={`/builds/${build.id}`}>{build.number}</Link>,
    compare: (a, b) => a.id - b.id,
  },
  {
    id: "product",
    header: "Product",
    cell: (build) => build.product.name,
    compare: (a, b) => a.product.name.localeCompare(b.product.name),
  },
  {
    id: "quantity",
    header: "Quantity",
    end: true,
    cell: (build) => format.amount(build.quantity, build.product.unit),
  },
  {
    id: "due",
    header: "Due",
    cell: (build) => (build.due ? format.day(build.due) : "–"),
    compare: (a, b) => (a.due ?? "9999").localeCompare(b.due ?? "9999"),
  },
  {
    id: "stage",
    header: "Stage",
    cell: (build) => [build.stage, stateWords(build, format)].filter(Boolean).join(" · "),
    compare: (a, b) => a.stage.localeCompare(b.stage),
  },
  {
    id: "who",
    header: "Assigned to",
    cell: (build) => build.subcontractor?.name ?? build.assigned?.name ?? "–",
  },
];

const QUEUE: Step<BuildRow> = {
  run: ({ id }) => sendOnce(buildRoutes.queueBuild, { params: { id } }, async () => null),
  done: "queued.",
};

const finishStep = (today: string): Step<BuildRow> => ({
  run: (build) => finishAsPlanned(build, today),
  done: "finished.",
});

/** Finishes what is open of a build as planned. Gives null, or why not. */
async function finishAsPlanned(row: BuildRow, today: string): Promise<string | null> {
  const params = { id: row.id };
  const build = await call(buildRoutes.build, { params });
  if (build.product.tracking === "serial") return "needs serial numbers.";
  const body = {
    ...PLAIN_FINISH,
    good: build.open,
    day: today,
    store: build.store,
    bin: build.bin,
    lot: build.suggestedLot,
    expiry: build.suggestedExpiry,
  };
  return sendOnce(buildRoutes.finishBuild, { params, body }, async () => null);
}
