import type { ReworkPart, ReworkSheet, ReworkStep, ReworkUnit } from "@yosegi/contract";
import {
  type Decimal,
  free,
  moneyFromScaled,
  quantityFromScaled,
  reworkState,
  substituteFor,
  sum,
  valueAt,
  valuesOut,
  ZERO,
} from "@yosegi/core";
import { asJson, type Reading, rateFromScaled } from "../db/index.ts";
import { briefs, itemsById } from "../items/index.ts";
import { locationNames, stockFigures } from "../ledger/index.ts";
import { currentCosts } from "../lists/index.ts";
import { taxRates } from "../orders/index.ts";
import { personNames } from "../people/index.ts";
import { listPrices } from "../prices/index.ts";
import { taxOn } from "./charge.ts";
import { reworkRows } from "./list.ts";
import { substitutesIn } from "./parts.ts";
import { costOf, partsOf, reworkById, stepsOf, unitsOf } from "./rows.ts";
import {
  REWORK_RECOVERED,
  type ReworkPartRow,
  type ReworkRecoveredRow,
  type ReworkStepRow,
  type ReworkTableRow,
  type ReworkUnitRow,
} from "./tables.ts";

/** What the lines of a rework name. */
interface Names {
  brief: Awaited<ReturnType<typeof briefs>>;
  place: (location: number | null, bin: string) => string;
  person: ReadonlyMap<number, string>;
  firm: ReadonlyMap<number, { id: number; code: string; name: string }>;
  purchase: ReadonlyMap<number, string>;
  cost: Awaited<ReturnType<typeof currentCosts>>;
  substitutes: Awaited<ReturnType<typeof substitutesIn>>;
  freeOf: (item: number) => Decimal;
  /** What the customer's lists say for so many, else the item's own price; null without one. */
  priceOf: (item: number, quantity: Decimal) => Decimal | null;
  /** The tax rate of an item or a service for the customer; of text and other work, null, the company's. */
  taxRate: (item: number | null) => Decimal;
  currencyDecimals: number;
}

const money = (value: Decimal) => value.toFixed(4);

/** An amount as somebody types it, and finds it in its field again: with the currency's decimals, or all it has. */
function typedMoney(scaled: number, decimals: number): string {
  const value = moneyFromScaled(scaled);
  return value.eq(value.round(decimals)) ? value.toFixed(decimals) : value.toFixed();
}

/** One rework: its units, parts and steps, what it costs so far, and what it will. */
export async function reworkSheet(ctx: Reading, id: number): Promise<ReworkSheet> {
  const row = await reworkById(ctx, id);
  const [units, parts, steps] = [await unitsOf(ctx, id), await partsOf(ctx, id), await stepsOf(ctx, id)];
  const recovered = (
    await ctx.model(REWORK_RECOVERED).findAll({ where: { rework_id: id }, order: ["unit", "line"] })
  ).map((found) => found.get({ plain: true }));
  const names = await namesOf(ctx, row, units, parts, steps, recovered);
  const [listed] = await reworkRows(ctx, [id]);
  if (!listed) throw new Error(`${row.number} is there`);
  const partAnswers = parts.map((part) => partAnswer(part, names));
  const stepAnswers = steps.map((step) => stepAnswer(step, names, ctx.today));
  const isDone = ({ state }: ReworkStepRow) => state === "done" || row.out_at !== null;
  const soFar = [
    ...parts.flatMap((part) =>
      isPlanned(part) ? [] : [{ unit: part.unit, value: moneyFromScaled(part.value) }],
    ),
    ...steps.flatMap((step) => (isDone(step) ? [{ unit: step.unit, value: costOf(step) }] : [])),
  ];
  const toCome = [
    ...parts.flatMap((part) => (isPlanned(part) ? [plannedCost(part, names)] : [])),
    ...steps.flatMap((step) => (isDone(step) ? [] : [costOf(step)])),
  ];
  const values = valuesOut(
    units.map((unit) => ({
      quantity: quantityFromScaled(unit.quantity),
      valueIn: moneyFromScaled(unit.value_in),
    })),
    soFar.map(({ unit, value }) => ({ unit: placeOf(units, unit), value })),
  );
  const charges = [
    ...parts.map((part) => ({ ...part, charge: partCharge(part, names) })),
    ...steps.map((step) => ({ ...step, charge: stepCharge(step, names) })),
  ];
  const notFixed = charges.flatMap(({ fixed_charge, charge }) => (fixed_charge === null ? [charge] : []));
  const person = (who: number | null) => names.person.get(who ?? 0) ?? "";
  return {
    ...listed,
    version: row.version,
    at: names.firm.get(row.subcontractor_id ?? 0)?.name ?? "Bench",
    day: row.day,
    person: person(row.person_id),
    moment: row.moment,
    costTag: row.cost_tag,
    finished:
      row.out_at === null ? null : { day: row.out_day ?? "", person: person(row.out_by), moment: row.out_at },
    agreed:
      row.agreed_at === null
        ? null
        : { person: person(row.agreed_by), moment: row.agreed_at, since: money(sum(notFixed)) },
    valueIn: money(sum(units.map((unit) => moneyFromScaled(unit.value_in)))),
    soFar: money(sum(soFar.map(({ value }) => value))),
    toCome: money(sum(toCome)),
    price: row.price === null ? null : typedMoney(row.price, ctx.currencyDecimals),
    charge: money(sum(charges.map(({ charge }) => charge))),
    ...taxOn(ctx, [...partAnswers, ...stepAnswers]),
    units: units.map((unit, i) =>
      unitAnswer(
        unit,
        row.out_at === null ? (values[i] ?? ZERO) : moneyFromScaled(unit.value_out),
        recovered.filter((part) => part.unit === unit.unit),
        names,
      ),
    ),
    parts: partAnswers,
    steps: stepAnswers,
    state: reworkState(
      row.out_at !== null,
      steps.map(({ state }) => state),
    ),
  };
}

const isPlanned = ({ item_id, posting_id }: ReworkPartRow) => item_id !== null && posting_id === null;

const placeOf = (units: readonly ReworkUnitRow[], unit: number | null) =>
  unit === null ? null : units.findIndex((own) => own.unit === unit);

async function namesOf(
  ctx: Reading,
  {
    item_id: item,
    customer_id: customer,
    subcontractor_id: subcontractor,
  }: Pick<ReworkTableRow, "item_id" | "customer_id" | "subcontractor_id">,
  units: readonly ReworkUnitRow[],
  parts: readonly ReworkPartRow[],
  steps: readonly ReworkStepRow[],
  recovered: readonly ReworkRecoveredRow[],
): Promise<Names> {
  const partItems = parts.flatMap(({ item_id }) => item_id ?? []);
  const substitutes = await substitutesIn(ctx, item);
  const spares = partItems.flatMap((part) => substitutes(part).map((own) => own.item));
  const stock = await stockFigures(ctx, spares);
  const brief = await briefs(ctx, [
    item,
    ...partItems,
    ...spares,
    ...units.flatMap(({ item_id }) => item_id ?? []),
    ...steps.flatMap(({ service_id }) => service_id ?? []),
    ...recovered.map(({ item_id }) => item_id),
  ]);
  const locations = await locationNames(ctx);
  const firms = await ctx.sql.all<{ id: number; code: string; name: string }>(
    "SELECT id, code, name FROM firm_head WHERE id IN (SELECT value FROM json_each($ids))",
    { ids: asJson([subcontractor ?? 0, ...steps.flatMap(({ supplier_id }) => supplier_id ?? [])]) },
  );
  const purchases = await ctx.sql.all<{ id: number; number: string }>(
    "SELECT id, number FROM purchase_head WHERE id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(steps.flatMap(({ purchase_id }) => purchase_id ?? [])) },
  );
  const prices = await ctx.sql.all<{ id: number; price: number; price_per: number }>(
    "SELECT item_id AS id, price, price_per FROM item_price WHERE price IS NOT NULL AND item_id IN (SELECT value FROM json_each($ids))",
    { ids: asJson(partItems) },
  );
  const rates = new Map(prices.map((own) => [own.id, rateFromScaled(own.price, own.price_per)]));
  const listed = await listPrices(ctx, customer, partItems);
  const taxRate = await taxRates(ctx, customer);
  const sold = await itemsById(ctx, [...partItems, ...steps.flatMap(({ service_id }) => service_id ?? [])]);
  return {
    brief,
    place: (location, bin) => (location === null ? "" : `${locations.get(location) ?? ""} ${bin}`.trim()),
    person: await personNames(ctx),
    firm: new Map(firms.map((firm) => [firm.id, firm])),
    purchase: new Map(purchases.map((own) => [own.id, own.number])),
    cost: await currentCosts(ctx, partItems),
    substitutes,
    freeOf: (spare) => free(stock(spare)),
    priceOf: (part, quantity) => {
      const rate = listed(part, quantity)?.rate ?? rates.get(part);
      return rate ? valueAt(quantity, rate, ctx.currencyDecimals) : null;
    },
    taxRate: (own) => {
      const rate = own === null ? null : sold(own).tax_rate;
      return taxRate({ taxRate: rate === null ? null : quantityFromScaled(rate).toFixed() });
    },
    currencyDecimals: ctx.currencyDecimals,
  };
}

/** What a planned part costs now; nothing where no cost is known. */
function plannedCost({ item_id, quantity }: ReworkPartRow, { cost }: Names): Decimal {
  const rate = cost(item_id ?? 0);
  return rate ? valueAt(quantityFromScaled(quantity), rate) : ZERO;
}

/** What a customer pays for a part: as agreed or billed, else as typed, else its price, else what it costs. */
function partCharge(part: ReworkPartRow, names: Names): Decimal {
  if (part.fixed_charge !== null) return moneyFromScaled(part.fixed_charge);
  if (part.charge !== null) return moneyFromScaled(part.charge);
  const price = part.item_id === null ? null : names.priceOf(part.item_id, quantityFromScaled(part.quantity));
  const cost = isPlanned(part) ? plannedCost(part, names) : moneyFromScaled(part.value);
  return price ?? cost.round(names.currencyDecimals);
}

/** What a customer pays for a step: as agreed or billed, else as typed, else what it costs. */
function stepCharge(step: ReworkStepRow, { currencyDecimals }: Names): Decimal {
  const said = step.fixed_charge ?? step.charge;
  return said === null ? costOf(step).round(currencyDecimals) : moneyFromScaled(said);
}

/** The tax rate of a line, as it was agreed or billed, else as it is for what it is sold as. */
const rateOfLine = ({ fixed_tax }: Pick<ReworkPartRow, "fixed_tax">, item: number | null, names: Names) =>
  (fixed_tax === null ? names.taxRate(item) : quantityFromScaled(fixed_tax)).toFixed();

const partAnswer = (part: ReworkPartRow, names: Names): ReworkPart => ({
  id: part.id,
  item: part.item_id === null ? null : names.brief(part.item_id),
  text: part.text,
  quantity: quantityFromScaled(part.quantity).toFixed(),
  lot: part.lot,
  serial: part.serial,
  from: names.place(part.location_id, part.bin),
  isTaken: !isPlanned(part),
  value: money(isPlanned(part) ? plannedCost(part, names) : moneyFromScaled(part.value)),
  unit: part.unit,
  step: part.step_id,
  charge: money(partCharge(part, names)),
  taxRate: rateOfLine(part, part.item_id, names),
  substitutes: !isPlanned(part)
    ? []
    : names.substitutes(part.item_id ?? 0).map(({ item, quantity }) => ({
        item: names.brief(item),
        quantity: substituteFor(
          quantityFromScaled(part.quantity),
          quantity,
          names.brief(item).decimals,
        ).toFixed(),
        free: names.freeOf(item).toFixed(),
      })),
});

const stepAnswer = (step: ReworkStepRow, names: Names, today: string): ReworkStep => ({
  id: step.id,
  version: step.version,
  what: step.what,
  person:
    step.person_id === null ? null : { id: step.person_id, name: names.person.get(step.person_id) ?? "" },
  supplier: names.firm.get(step.supplier_id ?? 0) ?? null,
  service: step.service_id === null ? null : names.brief(step.service_id),
  purchase:
    step.purchase_id === null
      ? null
      : { id: step.purchase_id, number: names.purchase.get(step.purchase_id) ?? "" },
  due: step.due,
  hour: step.hour,
  state: step.state,
  isLate: step.state !== "done" && step.due !== null && step.due < today,
  planned: typedMoney(step.planned, names.currencyDecimals),
  actual: step.actual === null ? null : typedMoney(step.actual, names.currencyDecimals),
  unit: step.unit,
  charge: money(stepCharge(step, names)),
  taxRate: rateOfLine(step, step.service_id, names),
  agreedCharge: step.charge === null ? null : typedMoney(step.charge, names.currencyDecimals),
});

const unitAnswer = (
  unit: ReworkUnitRow,
  value: Decimal,
  recovered: readonly ReworkRecoveredRow[],
  names: Names,
): ReworkUnit => ({
  unit: unit.unit,
  lot: unit.lot,
  serial: unit.serial,
  quantity: quantityFromScaled(unit.quantity).toFixed(),
  from: names.place(unit.location_id, unit.bin),
  valueIn: money(moneyFromScaled(unit.value_in)),
  value: money(value),
  outcome: unit.outcome,
  item: unit.item_id === null ? null : names.brief(unit.item_id),
  place: names.place(unit.out_location_id, unit.out_bin),
  reason: unit.reason,
  price: unit.price === null ? null : money(moneyFromScaled(unit.price)),
  recovered: recovered.map((part) => ({
    item: names.brief(part.item_id),
    quantity: quantityFromScaled(part.quantity).toFixed(),
    lot: part.lot,
    serial: part.serial,
    place: names.place(part.location_id, part.bin),
    value: money(moneyFromScaled(part.value)),
  })),
});
