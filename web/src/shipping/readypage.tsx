import { type AnswerOf, PLAIN_SHIPMENT, shippingRoutes } from "@yosegi/contract";
import { Truck } from "lucide-react";
import { useState } from "react";
import { type Step, StepResults, sendOnce, Unanswered, useOneByOne } from "../api/index.ts";
import { OrdersNav } from "../nav/index.ts";
import {
  Actions,
  Button,
  type Column,
  DataTable,
  DueDay,
  type Format,
  Named,
  Page,
  Section,
  type SpreadsheetOf,
  Sub,
  useFormat,
} from "../ui/index.ts";
import { useReadyToShip } from "./queries.ts";

type Ready = AnswerOf<typeof shippingRoutes.readyToShip>["ready"][number];
type Waiting = AnswerOf<typeof shippingRoutes.readyToShip>["waiting"][number];

/** All orders that can leave complete today, to be looked over and shipped in one go; and what can't, with the reason. */
export function ReadyPage() {
  const format = useFormat();
  const { data, error } = useReadyToShip();
  const { doAll, busy, results } = useOneByOne<Ready>();
  // All are shipped but those that are taken out.
  const [left, setLeft] = useState<ReadonlySet<string | number>>(new Set());
  if (!data) return <Unanswered error={error} shape="table" />;
  const chosen = new Set(data.ready.flatMap(({ id }) => (left.has(id) ? [] : [id])));
  const picked = data.ready.filter(({ id }) => chosen.has(id));
  return (
    <>
      <OrdersNav />
      <Page>
        <h1>Ready to ship</h1>
        <Sub>
          {data.ready.length === 0
            ? "No order can leave complete today."
            : `${format.count(data.ready.length, "order", "orders")} can leave complete today. Each is shipped by itself, with the suggested lots and serial numbers.`}
        </Sub>
        <Actions style={{ marginTop: 0, marginBottom: 12 }}>
          <Button
            look="main"
            isDisabled={picked.length === 0 || busy}
            onPress={() => void doAll(picked, shipStep(format.settings.today))}
          >
            <Truck /> {busy ? "Shipping …" : `Ship ${format.count(picked.length, "order", "orders")}`}
          </Button>
        </Actions>
        <StepResults results={results} path="/orders" />
        <DataTable
          label="Orders ready to ship"
          rows={data.ready}
          rowId={(order) => order.id}
          selection={{
            chosen,
            onChange: (next) => setLeft(new Set(data.ready.flatMap(({ id }) => (next.has(id) ? [] : [id])))),
            words: ({ number }) => number,
          }}
          spreadsheet={SPREADSHEET}
          empty="No order can leave complete today."
          columns={readyColumns(format)}
        />
        {data.waiting.length > 0 && (
          <Section title="Can't leave complete">
            <DataTable
              label="Orders that can't leave complete"
              rows={data.waiting}
              rowId={(order) => order.id}
              spreadsheet={WAITING_SPREADSHEET}
              empty=""
              columns={waitingColumns(format)}
            />
          </Section>
        )}
      </Page>
    </>
  );
}

/** Ships all that is open of an order, as it stands; one that was changed meanwhile is refused. */
const shipStep = (today: string): Step<Ready> => ({
  run: ({ id, version, leaves }) =>
    sendOnce(
      shippingRoutes.shipOrder,
      {
        params: { id },
        version,
        body: {
          ...PLAIN_SHIPMENT,
          day: today,
          lines: leaves.map(({ line }) => ({ line, quantity: null, pieces: [], only: [] })),
        },
      },
      async () => null,
    ),
  done: "shipped.",
});

const WHY: Record<Waiting["why"], string> = {
  short: "short",
  "on its way": "the rest is on its way",
  "price missing": "price missing",
  "customer on hold": "customer on hold",
};

const whyWords = ({ why, short, readyInPart }: Waiting, format: Format): string =>
  [
    why === "short" ? `${format.count(short, "line", "lines")} short` : WHY[why],
    readyInPart && short > 0 && "ready in part",
  ]
    .filter(Boolean)
    .join(", ");

const leavesWords = ({ leaves }: Ready, format: Format): string =>
  format.list(leaves.map(({ item, quantity }) => `${format.amount(quantity)} ${item.code}`));

const headColumns = <Row extends Ready | Waiting>(): Column<Row>[] => [
  {
    id: "customer",
    header: "Order",
    cell: ({ id, number, customer, reference }) => (
      <Named name={customer.name} to={`/orders/${id}`} more={[number, reference]} />
    ),
    compare: (a, b) => a.customer.name.localeCompare(b.customer.name),
  },
  {
    id: "due",
    header: "Due",
    cell: ({ due, overdue }) => <DueDay day={due} late={overdue} />,
    compare: (a, b) => (a.due ?? "9999").localeCompare(b.due ?? "9999"),
  },
];

const readyColumns = (format: Format): Column<Ready>[] => [
  ...headColumns<Ready>(),
  { id: "leaves", header: "Leaves", cell: (order) => leavesWords(order, format) },
];

const waitingColumns = (format: Format): Column<Waiting>[] => [
  ...headColumns<Waiting>(),
  {
    id: "why",
    header: "Why",
    cell: (order) => whyWords(order, format),
    compare: (a, b) => a.why.localeCompare(b.why),
  },
];

const HEAD_SHEET = [
  { header: "Order", value: (order: Ready | Waiting) => order.number },
  { header: "Customer", value: (order: Ready | Waiting) => order.customer.name },
  { header: "Due", value: (order: Ready | Waiting) => order.due ?? "" },
];

const SPREADSHEET: SpreadsheetOf<Ready> = {
  name: "ready-to-ship",
  columns: [
    ...HEAD_SHEET,
    {
      header: "Leaves",
      value: ({ leaves }) => leaves.map(({ item, quantity }) => `${quantity} ${item.code}`).join("; "),
    },
  ],
};

const WAITING_SPREADSHEET: SpreadsheetOf<Waiting> = {
  name: "not-ready-to-ship",
  columns: [...HEAD_SHEET, { header: "Why", value: ({ why }) => why }],
};
