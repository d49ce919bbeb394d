import { type AnswerOf, orderRoutes } from "@yosegi/contract";
import { decimal } from "@yosegi/core";
import { Hammer } from "lucide-react";
import { useState } from "react";
import { Link, useNavigate } from "react-router";
import { Unanswered, useCommand } from "../api/index.ts";
import { checkAddress } from "../cover/index.ts";
import { BuildsNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  type Column,
  DataTable,
  DueDay,
  type Format,
  Named,
  Notice,
  Page,
  type SpreadsheetOf,
  Sub,
  sayDone,
  useFormat,
} from "../ui/index.ts";
import { useLinesToBuild } from "./queries.ts";

type ToBuild = AnswerOf<typeof orderRoutes.linesToBuild>["lines"][number];

const rowId = ({ line, item }: ToBuild) => `${line} ${item.id}`;

/** What open orders lack that can be built, by the day it is due: several are built by one press. */
export function ToBuildPage() {
  const format = useFormat();
  const navigate = useNavigate();
  const { data, error } = useLinesToBuild();
  const [chosen, setChosen] = useState<ReadonlySet<string | number>>(new Set());
  const build = useCommand(orderRoutes.buildForLines, ({ builds }) => {
    sayDone(`${format.list(builds.map((made) => made.number))} created.`);
    setChosen(new Set());
    const [only, ...others] = builds;
    void navigate(only && others.length === 0 ? `/builds/${only.id}` : "/builds");
  });
  if (!data) return <Unanswered error={error} shape="table" />;
  const picked = data.lines.filter((line) => chosen.has(rowId(line)));
  const demands = picked.map(({ item, missing, due }) => ({ item: item.id, quantity: missing, day: due }));
  return (
    <>
      <BuildsNav />
      <Page>
        <h1>Build for orders</h1>
        <Sub>
          What open orders lack and no build covers yet, by due date. Lines for the same product become one
          build.
        </Sub>
        <Actions style={{ marginTop: 0, marginBottom: 12 }}>
          <Button
            look="main"
            isDisabled={picked.length === 0}
            isPending={build.busy}
            onPress={() => void build.run({ body: { lines: [...new Set(picked.map(({ line }) => line))] } })}
          >
            <Hammer />
            {picked.length === 0
              ? "Build selected"
              : `Build for ${format.count(picked.length, "line", "lines")}`}
          </Button>
          <Button isDisabled={picked.length === 0} onPress={() => void navigate(checkAddress(demands))}>
            Check the parts first
          </Button>
        </Actions>
        {build.refusal && <Notice>{build.refusal.message}</Notice>}
        <DataTable
          label="Lines to build"
          rows={data.lines}
          rowId={rowId}
          selection={{
            chosen,
            onChange: setChosen,
            words: ({ number, item }) => `${item.code} for ${number}`,
          }}
          spreadsheet={SPREADSHEET}
          empty="No open order lacks anything that could be built."
          columns={columnsOf(format)}
        />
      </Page>
    </>
  );
}

const SPREADSHEET: SpreadsheetOf<ToBuild> = {
  name: "build-for-orders",
  columns: [
    { header: "Due", value: (line) => line.due ?? "" },
    { header: "Order", value: (line) => line.number },
    { header: "Customer", value: (line) => line.customer.name },
    { header: "Product", value: (line) => line.item.code },
    { header: "Name", value: (line) => line.item.name },
    { header: "Missing", value: (line) => line.missing },
    { header: "Unit", value: (line) => line.item.unit },
  ],
};

const columnsOf = (format: Format): Column<ToBuild>[] => [
  {
    id: "item",
    header: "Product",
    compare: (a, b) => a.item.name.localeCompare(b.item.name),
    cell: ({ item }) => <Named name={item.name} to={`/catalog/${item.id}`} more={[item.code]} />,
  },
  {
    id: "due",
    header: "Due",
    compare: (a, b) => (a.due ?? "9999").localeCompare(b.due ?? "9999"),
    cell: ({ due, overdue }) => <DueDay day={due} late={overdue} />,
  },
  {
    id: "order",
    header: "Order",
    compare: (a, b) => a.order - b.order,
    cell: ({ order, number }) => <Link to={`/orders/${order}`}>{number}</Link>,
  },
  {
    id: "customer",
    header: "Customer",
    compare: (a, b) => a.customer.name.localeCompare(b.customer.name),
    cell: ({ customer }) => customer.name,
  },
  {
    id: "missing",
    header: "Missing",
    end: true,
    compare: (a, b) => decimal(a.missing).cmp(decimal(b.missing)),
    cell: ({ missing, item }) => format.amount(missing, item.unit),
  },
];
