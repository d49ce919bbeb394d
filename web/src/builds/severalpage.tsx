import { useQueryClient } from "@tanstack/react-query";
import { type BuildRow, buildRoutes, PLAIN_FINISH } from "@yosegi/contract";
import { isWorked } from "@yosegi/core";
import { useState } from "react";
import { Link } from "react-router";
import { call, NoAnswer, Refused, refresh, sendOnce, Unanswered } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  type Column,
  DataTable,
  type Format,
  Notice,
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
  const client = useQueryClient();
  const { data, error } = useOpenBuilds();
  const [chosen, setChosen] = useState<ReadonlySet<string | number>>(new Set());
  const [busy, setBusy] = useState(false);
  const [results, setResults] = useState<{ id: number; number: string; why: string | null; done: string }[]>(
    [],
  );
  if (!data) return <Unanswered error={error} shape="table" />;
  const { builds } = data;
  const picked = builds.filter((build) => chosen.has(build.id));
  const ready = picked.filter((build) => isWorked(build.stage));
  const drafts = picked.filter((build) => build.stage === "draft");
  // One after the other, each by itself: what can't be done is named and keeps none of the others back.
  const doAll = async (which: readonly BuildRow[], step: Step) => {
    setBusy(true);
    const done: typeof results = [];
    for (const build of which) {
      const why = await refusalOf(() => step.run(build, format.settings.today));
      done.push({ id: build.id, number: build.number, why, done: step.done });
      setResults([...done]);
    }
    await refresh(client, null);
    setChosen(new Set(done.filter((result) => result.why !== null).map((result) => result.id)));
    setBusy(false);
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
          <Button isDisabled={drafts.length === 0} isPending={busy} onPress={() => void doAll(drafts, QUEUE)}>
            Queue {format.count(drafts.length, "build", "builds")}
          </Button>
          <Button
            look="main"
            isDisabled={ready.length === 0}
            isPending={busy}
            onPress={() => void doAll(ready, FINISH)}
          >
            Finish {format.count(ready.length, "build", "builds")} as planned
          </Button>
        </Actions>
        {results.length > 0 && (
          <Notice role="status">
            {results.map((result) => (
              <div key={result.id}>
                <Link to={`/builds/${result.id}`}>{result.number}</Link>: {result.why ?? result.done}
              </div>
            ))}
          </Notice>
        )}
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

/** What is done to each of several builds; `run` gives null, or why it can't be done. */
interface Step {
  run: (build: BuildRow, today: string) => Promise<string | null>;
  done: string;
}

const QUEUE: Step = {
  run: ({ id }) => sendOnce(buildRoutes.queueBuild, { params: { id } }, async () => null),
  done: "queued.",
};

const FINISH: Step = { run: finishAsPlanned, done: "finished." };

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

/** Why a step is refused; null where it was done. */
async function refusalOf(step: () => Promise<string | null>): Promise<string | null> {
  try {
    return await step();
  } catch (error) {
    if (error instanceof Refused || error instanceof NoAnswer) return error.message;
    throw error;
  }
}
