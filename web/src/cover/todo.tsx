import {
  type BodyOf,
  buyingRoutes,
  type CoverAnswer,
  type CoverQuestion,
  coverRoutes,
} from "@yosegi/contract";
import { decimal, min } from "@yosegi/core";
import { lazy, Suspense } from "react";
import { useNavigate } from "react-router";
import styled from "styled-components";
import { useCommand } from "../api/index.ts";
import {
  Actions,
  Button,
  color,
  type Format,
  Named,
  Notice,
  Section,
  SheetTable,
  Short,
  sayDone,
  useFormat,
  WebLink,
} from "../ui/index.ts";

export interface TodoProps {
  cover: CoverAnswer;
  question: CoverQuestion;
}

/** Loaded when something is short: the check is the first page of many. */
const TakeApartWays = lazy(async () => ({
  default: (await import("../takeaparts/index.ts")).TakeApartWays,
}));

/** What can be done about the answer: build, build first, order what is short. */
export function Todo({ cover, question }: TodoProps) {
  const format = useFormat();
  const navigate = useNavigate();
  const make = useCommand(coverRoutes.makeBuilds, ({ builds }) => {
    const [first, ...more] = builds;
    sayDone(`${format.list(builds.map((b) => b.number))} created.`);
    if (first) void navigate(more.length === 0 ? `/builds/${first.id}` : "/builds");
  });
  const buy = useCommand(buyingRoutes.buyNeeds, ({ purchases }) => {
    const [first, ...more] = purchases;
    sayDone(`Shortages added to ${format.list(purchases.map((p) => p.number))}.`);
    if (first) void navigate(more.length === 0 ? `/buying/${first.id}` : "/buying");
  });
  const bodyOf = (quantityOf: (at: number) => string) =>
    question.demands.flatMap((demand, at) => {
      const { item, day, list, options, instead, build } = demand;
      const quantity = quantityOf(at);
      const built = cover.demands[at]?.item.kind === "built" && build === null;
      return built && decimal(quantity).gt(0) ? [{ item, quantity, day, list, options, instead }] : [];
    });
  const some = bodyOf((at) => {
    const { makesNow = null, wanted = "0" } = cover.demands[at] ?? {};
    return makesNow === null ? wanted : min(decimal(makesNow), decimal(wanted)).toFixed();
  });
  const all = bodyOf((at) => cover.demands[at]?.wanted ?? "0");
  const only = cover.demands.length === 1 ? cover.demands[0] : undefined;
  const filled = only?.item.kind === "built" ? only.filled : null;
  const partly = some.length > 0 && JSON.stringify(some) !== JSON.stringify(all);
  const orders = cover.orders.filter((o) => o.supplier !== null && decimal(o.quantity).gt(0));
  const suppliers = new Set(orders.map((order) => order.supplier?.id)).size;
  const build = (demands: typeof all) =>
    void make.run({ body: { demands, store: question.store, queue: false } });
  const order = () =>
    void buy.run({
      body: {
        lines: orders.map((o) => ({
          item: o.item.id,
          supplier: o.supplier?.id ?? null,
          quantity: o.quantity,
          price: null,
          pricePer: "",
          expected: null,
          costTag: "",
          for: o.for.map((f) => ({
            build: question.demands[f.demand]?.build ?? null,
            product: question.demands[f.demand]?.item ?? null,
            orderLine: null,
            quantity: f.quantity,
          })),
        })),
      },
    });
  const refusal = make.refusal ?? buy.refusal;
  const one = cover.demands.length === 1;
  return (
    <>
      {refusal && <Notice>{refusal.fields[0]?.message ?? refusal.message}</Notice>}
      <Actions>
        {partly && (
          <Button look="main" isPending={make.busy} onPress={() => build(some)}>
            Build {one ? `${format.amount(some[0]?.quantity ?? "")} now` : "what can be made now"}
          </Button>
        )}
        {all.length > 0 && (
          <Button look={partly ? "quiet" : "main"} isPending={make.busy} onPress={() => build(all)}>
            Build all {one ? format.amount(all[0]?.quantity ?? "") : all.length}
          </Button>
        )}
        {filled && (
          <Button isPending={make.busy} onPress={() => build(bodyOf(() => filled.quantity))}>
            Build {format.amount(filled.quantity)} ({format.count(Number(filled.batches), "batch", "batches")}
            )
          </Button>
        )}
        {orders.length > 0 && (
          <Button isPending={buy.busy} onPress={order}>
            Order what is short · {format.count(suppliers, "supplier", "suppliers")}
          </Button>
        )}
      </Actions>
      {cover.parts.some(({ shortNow }) => decimal(shortNow).gt(0)) && (
        <Suspense>
          <TakeApartWays question={question} />
        </Suspense>
      )}
      {cover.builds.length > 0 && <First cover={cover} onBuild={build} busy={make.busy} />}
      {cover.orders.length > 0 && <Orders cover={cover} />}
    </>
  );
}

type Builds = BodyOf<typeof coverRoutes.makeBuilds>["demands"];

/** Short parts that are built here: one press puts their build before this one. */
function First({
  cover,
  onBuild,
  busy,
}: {
  cover: CoverAnswer;
  onBuild: (demands: Builds) => void;
  busy: boolean;
}) {
  const format = useFormat();
  return (
    <Section title="Build first">
      <SheetTable
        label="Build first"
        rows={cover.builds}
        rowId={(b) => b.item.id}
        columns={[
          { header: "Part", cell: (b) => <Named name={b.item.name} more={[b.item.code]} /> },
          {
            header: "Short",
            end: true,
            cell: (b) => (
              <>
                <Short>{format.amount(b.short, b.item.unit)}</Short>
                <OnDrafts drafts={b.onDrafts} unit={b.item.unit} />
              </>
            ),
          },
          {
            header: "Can be made now",
            end: true,
            cell: (b) => (b.makesNow === null ? "no limit" : format.amount(b.makesNow, b.item.unit)),
          },
          {
            header: "Done by",
            end: true,
            cell: (b) => (b.finish === null ? "unknown" : format.day(b.finish)),
          },
          {
            header: "",
            end: true,
            cell: (b) =>
              decimal(b.quantity).gt(0) && (
                <Button
                  isPending={busy}
                  onPress={() =>
                    onBuild([
                      {
                        item: b.item.id,
                        quantity: b.quantity,
                        day: b.needed,
                        list: null,
                        options: [],
                        instead: [],
                      },
                    ])
                  }
                >
                  Build {format.amount(b.quantity)} first
                </Button>
              ),
          },
        ]}
      />
    </Section>
  );
}

/** What stands on drafts already, so that nobody orders or builds it again. */
function OnDrafts({ drafts, unit }: { drafts: CoverAnswer["orders"][number]["onDrafts"]; unit: string }) {
  const format = useFormat();
  return drafts.map(({ document, quantity }) => (
    <small key={document}>
      {format.amount(quantity, unit)} on draft {document}
    </small>
  ));
}

function Orders({ cover }: { cover: CoverAnswer }) {
  const format = useFormat();
  const { today } = format.settings;
  return (
    <Section title="Order">
      <SheetTable
        label="Order"
        rows={cover.orders}
        rowId={(o) => o.item.id}
        columns={[
          { header: "Part", cell: (o) => <Named name={o.item.name} more={[o.item.code]} /> },
          {
            header: "Supplier",
            cell: (o) => (
              <>
                {o.supplier?.name ?? <Short>no supplier</Short>}
                <WebLink address={o.web} item={o.item.code} />
              </>
            ),
          },
          {
            header: "Short",
            end: true,
            cell: (o) => (
              <>
                {format.amount(o.short, o.item.unit)}
                <OnDrafts drafts={o.onDrafts} unit={o.item.unit} />
              </>
            ),
          },
          {
            header: "Order",
            end: true,
            cell: (o) =>
              decimal(o.quantity).eq(0) ? "nothing more" : <b>{format.amount(o.quantity, o.item.unit)}</b>,
          },
          { header: "Cost", end: true, cell: (o) => costOf(o, format) },
          {
            header: "Order by",
            end: true,
            cell: (o) => {
              if (o.orderBy === null) return "–";
              return o.orderBy < today ? <Short>{format.day(o.orderBy)}, late</Short> : format.day(o.orderBy);
            },
          },
          { header: "Arrives", end: true, cell: (o) => (o.arrives === null ? "–" : format.day(o.arrives)) },
        ]}
        {...(cover.spending !== null && {
          sum: { words: "Total", figure: <Sum>{format.money(cover.spending)}</Sum> },
        })}
      />
    </Section>
  );
}

function costOf({ quantity, cost }: CoverAnswer["orders"][number], format: Format): string {
  if (decimal(quantity).eq(0)) return "–";
  return cost === null ? "no price" : format.money(cost);
}

const Sum = styled.b`
  color: ${color.ink};
`;
