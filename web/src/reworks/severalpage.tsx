import { type ReworkRow, reworkRoutes } from "@yosegi/contract";
import { useState } from "react";
import { Link } from "react-router";
import { type Step, StepResults, sendOnce, Unanswered, useOneByOne } from "../api/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  type Column,
  DataTable,
  type Format,
  Page,
  ShowMore,
  type SpreadsheetOf,
  Sub,
  useFormat,
  useTitle,
} from "../ui/index.ts";
import { useReworks } from "./queries.ts";
import { reworkGroup } from "./words.ts";

/** Finishing several reworks at once. */
export function SeveralReworksPage() {
  useTitle("Finish several reworks");
  const format = useFormat();
  const { data, error } = useReworks({ state: "open" });
  const [chosen, setChosen] = useState<ReadonlySet<string | number>>(new Set());
  const { doAll, busy, results } = useOneByOne<ReworkRow>();
  if (!data) return <Unanswered error={error} shape="table" />;
  const picked = data.rows.filter((one) => chosen.has(one.id));
  // What could not be finished stays selected.
  const finish = async () => {
    const done = await doAll(picked, finishGood(format.settings.today));
    setChosen(new Set(done.flatMap((result) => (result.why === null ? [] : result.id))));
  };
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>Finish several reworks at once</h1>
        <Sub>
          All their units are good and go where they are usually kept; a customer's own go back to them.
          Reworks with a unit that became something else, or is scrapped, are finished one by one.
        </Sub>
        <Actions style={{ marginTop: 0, marginBottom: 12 }}>
          <Button look="main" isDisabled={picked.length === 0} isPending={busy} onPress={() => void finish()}>
            Finish {format.count(picked.length, "rework", "reworks")} as good
          </Button>
        </Actions>
        <StepResults results={results} path="/reworks" />
        <DataTable
          label="Open reworks"
          rows={data.rows}
          rowId={(one) => one.id}
          selection={{ chosen, onChange: setChosen, words: (one) => one.number }}
          spreadsheet={SPREADSHEET}
          empty="No rework is open."
          columns={columnsOf(format)}
        />
        <ShowMore listed={data.rows.length} total={data.total} onMore={data.onMore} />
      </Page>
    </>
  );
}

const finishGood = (day: string): Step<ReworkRow> => ({
  run: ({ id }) =>
    sendOnce(reworkRoutes.finishReworkGood, { params: { id }, body: { day } }, async () => null),
  done: "finished.",
});

const whose = ({ customer, isTheirs }: ReworkRow) =>
  customer === null ? "–" : `${customer.name}${isTheirs ? " (their own)" : ""}`;

const SPREADSHEET: SpreadsheetOf<ReworkRow> = {
  name: "reworks",
  columns: [
    { header: "Rework", value: (one) => one.number },
    { header: "Item", value: (one) => one.item.code },
    { header: "Name", value: (one) => one.item.name },
    { header: "Quantity", value: (one) => one.quantity },
    { header: "Unit", value: (one) => one.item.unit },
    { header: "Serial numbers", value: (one) => one.serials.join(" ") },
    { header: "Customer", value: (one) => one.customer?.name ?? "" },
    { header: "Due", value: (one) => one.due ?? "" },
    { header: "State", value: (one) => one.state },
    { header: "Assigned to", value: (one) => one.assigned?.name ?? "" },
  ],
};

const columnsOf = (format: Format): Column<ReworkRow>[] => [
  {
    id: "number",
    header: "Rework",
    cell: (one) => <Link to={`/reworks/${one.id}`}>{one.number}</Link>,
    compare: (a, b) => a.id - b.id,
  },
  {
    id: "item",
    header: "Item",
    cell: ({ item, serials }) => [item.name, ...serials.slice(0, 2)].join(" · "),
    compare: (a, b) => a.item.name.localeCompare(b.item.name),
  },
  {
    id: "quantity",
    header: "Quantity",
    end: true,
    cell: (one) => format.amount(one.quantity, one.item.unit),
  },
  { id: "customer", header: "Customer", cell: whose, compare: (a, b) => whose(a).localeCompare(whose(b)) },
  {
    id: "due",
    header: "Due",
    cell: ({ due }) => (due ? format.day(due) : "–"),
    compare: (a, b) => (a.due ?? "9999").localeCompare(b.due ?? "9999"),
  },
  {
    id: "state",
    header: "State",
    cell: (one) => (one.isLate ? `${one.state} · overdue` : one.state),
    compare: (a, b) => reworkGroup(a).localeCompare(reworkGroup(b)),
  },
  { id: "who", header: "Assigned to", cell: ({ assigned }) => assigned?.name ?? "–" },
];
