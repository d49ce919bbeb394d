import { type Day, type Decimal, type PickDocument, type PickLine, quantityFromScaled } from "@yosegi/core";
import { asJson, groupBy, type Reading } from "../db/index.ts";
import { briefs } from "../items/index.ts";
import { type Line, linesOf, openOrders, setsOpen } from "../orders/index.ts";

/** What is fetched for: a build or an order, with what of it can be fetched now and what can't. */
export interface Pickable extends PickDocument {
  /** The customer, or the product that is built. */
  name: string;
  reference: string;
  /** Still to be fetched, and in stock for it. */
  lines: PickLine[];
  /** Still to be fetched, and not in stock for it. */
  missing: { item: number; quantity: Decimal }[];
  /** The set that a line of an order is, with how many; "" where it is none. */
  setOf: (line: number) => string;
}

export type PickRef = Pick<PickDocument, "kind" | "id">;

export const refKey = ({ kind, id }: PickRef): string => `${kind} ${id}`;

/** All that something is to be fetched for, or those named of it. */
export async function pickables(ctx: Reading, only: readonly PickRef[] | null): Promise<Pickable[]> {
  const ids = (kind: PickRef["kind"]) =>
    only?.filter((ref) => ref.kind === kind).map((ref) => ref.id) ?? null;
  return [...(await ordersToPick(ctx, ids("order"))), ...(await buildsToPick(ctx, ids("build")))];
}

interface PartRow {
  id: number;
  number: string;
  due: Day | null;
  product: number;
  line: number;
  item: number;
  open: number;
  store: number | null;
}

/** Builds whose parts are still to be handed out. */
async function buildsToPick(ctx: Reading, only: readonly number[] | null): Promise<Pickable[]> {
  const rows = await ctx.sql.all<PartRow>(
    `SELECT build_id AS id, number, due, product_id AS product, line, item_id AS item, open, location_id AS store
       FROM to_hand_out WHERE $all = 1 OR build_id IN (SELECT value FROM json_each($only)) ORDER BY build_id, line`,
    { all: only === null ? 1 : 0, only: asJson(only ?? []) },
  );
  const brief = await briefs(
    ctx,
    rows.map((row) => row.product),
  );
  return [...groupBy(rows, (row) => row.id).values()].flatMap((own): Pickable[] => {
    const [first] = own;
    if (!first) return [];
    const { id, number, due } = first;
    const document: PickDocument = { kind: "build", id, number, due };
    return [
      {
        ...document,
        name: brief(first.product).name,
        reference: "",
        lines: own.map(({ line, item, open, store }) => ({
          document,
          line,
          item,
          quantity: quantityFromScaled(open),
          only: [],
          store,
        })),
        missing: [],
        setOf: () => "",
      },
    ];
  });
}

/** Open orders that something is to be packed for: what is in stock for each in its turn. */
async function ordersToPick(ctx: Reading, only: readonly number[] | null): Promise<Pickable[]> {
  if (only?.length === 0) return [];
  const orders = (await openOrders(ctx)).filter(({ id }) => only === null || only.includes(id));
  const lines = groupBy(
    await linesOf(
      ctx,
      orders.map(({ id }) => id),
    ),
    (line) => line.order,
  );
  const brief = await briefs(
    ctx,
    [...lines.values()].flatMap((own) => own.map((line) => line.item)),
  );
  return orders.map(({ id, number, due, name, reference }) => {
    const document: PickDocument = { kind: "order", id, number, due };
    const own = (lines.get(id) ?? []).filter((line) => !line.bySupplier);
    const isSet = (line: Line) => line.components.some((component) => component.item !== line.item);
    const sets = new Map(
      own.filter(isSet).map((line) => [line.id, `${setsOpen(line).toFixed()} ${brief(line.item).name}`]),
    );
    return {
      ...document,
      name,
      reference,
      lines: own.flatMap((line) => linesToPack(document, line)),
      missing: own.flatMap(({ components }) =>
        components.flatMap(({ item, open, ready }) =>
          open > ready ? [{ item, quantity: quantityFromScaled(open - ready) }] : [],
        ),
      ),
      setOf: (line) => sets.get(line) ?? "",
    };
  });
}

const linesToPack = (document: PickDocument, { id, item: sold, serial, components }: Line): PickLine[] =>
  components.flatMap(({ item, ready, packed }) =>
    ready > packed
      ? [
          {
            document,
            line: id,
            item,
            quantity: quantityFromScaled(ready - packed),
            only: serial !== "" && item === sold ? [serial] : [],
            store: null,
          },
        ]
      : [],
  );

/** How many builds have parts in stock to be handed out, and how many rounds are walked. */
export async function pickCounts(ctx: Reading): Promise<{ builds: number; rounds: number }> {
  const row = await ctx.sql.one<{ builds: number; rounds: number }>(
    `SELECT (SELECT COUNT(DISTINCT h.build_id) FROM to_hand_out h
              WHERE EXISTS (SELECT 1 FROM usable_stock u WHERE u.item_id = h.item_id)) AS builds,
            (SELECT COUNT(*) FROM pick_round WHERE ended_at IS NULL) AS rounds`,
  );
  return row ?? { builds: 0, rounds: 0 };
}
