import type { ShipInput, ShipPreview } from "@yosegi/contract";
import { byTurn, expired, expiredOf, sum, ZERO } from "@yosegi/core";
import type { Reading } from "../db/index.ts";
import { locationNames } from "../ledger/index.ts";
import { setsLeft, setsOpen } from "../orders/index.ts";
import { costOfAll, moneyAnswer, type Planned, type PlannedComponent, planShipment } from "./plan.ts";

/** What a shipment of an order would take, bring and cost; records nothing. */
export async function previewShipment(ctx: Reading, id: number, body: ShipInput): Promise<ShipPreview> {
  const planned = await planShipment(ctx, id, body);
  const names = await locationNames(ctx);
  const { lines, brief, takesFrom, stop, rest } = planned;
  const store = (location: number) => names.get(location) ?? "";
  return {
    lines: lines.map(({ line, after, revenue, units, components }) => {
      const { marginPercent: _, ...money } = moneyAnswer(ctx, revenue, costOfAll([{ components }]));
      return {
        line: line.id,
        quantity: (line.components.length === 0 ? units : setsLeft(after).minus(setsLeft(line))).toFixed(),
        open: setsOpen(after).toFixed(),
        ...money,
        components: components.map((own) => componentAnswer(planned, own, body, store)),
      };
    }),
    ...moneyAnswer(ctx, sum(lines.map(({ revenue }) => revenue)), costOfAll(lines)),
    rest,
    takesFrom: takesFrom.map(({ item, quantity, documents }) => ({
      item: brief(item),
      quantity: quantity.toFixed(),
      documents,
    })),
    stop,
  };
}

function componentAnswer(
  { brief, ready }: Planned,
  { item, quantity, picked }: PlannedComponent,
  { day }: ShipInput,
  store: (location: number) => string,
): ShipPreview["lines"][number]["components"][number] {
  const of = brief(item);
  const shown = ({ location, bin, lot, serial, quantity: amount }: Shown) => ({
    store: store(location),
    bin,
    lot,
    serial,
    quantity: amount.toFixed(),
  });
  return {
    item: of,
    quantity: quantity.toFixed(),
    short: (picked?.short ?? ZERO).toFixed(),
    expired: (picked ? expiredOf(ready, { item, only: [] }, day) : ZERO).toFixed(),
    taken: (picked?.taken ?? []).map((one) => shown({ ...one, ...one.from })),
    choices:
      of.tracking === "none"
        ? []
        : ready
            .filter((b) => b.item === item && b.quantity.gt(0) && !expired(b.expiry, day))
            .sort(byTurn)
            .map((b) => ({ ...shown(b), expiry: b.expiry })),
  };
}

type Shown = Pick<Planned["ready"][number], "location" | "bin" | "lot" | "serial" | "quantity">;
