import { type Decimal, divideRounded, max, ONE, split, sum, ZERO } from "../amounts/index.ts";

/** What a rework costs, as far as it is known, and what its units are to be sold for. */
export interface ReworkMoney {
  valueIn: Decimal;
  /** Parts taken, lines of text, and steps that are done. */
  soFar: Decimal;
  /** Parts and steps still to come, as planned. */
  toCome: Decimal;
  price: Decimal;
}

export interface Paying {
  cost: Decimal;
  margin: Decimal;
  /** Of the price, in percent with one decimal; null without a price. */
  percent: Decimal | null;
  /** The highest sum that is still worth spending from now on; never below zero. */
  worthSpending: Decimal;
}

/** Whether a rework pays (docs/rules.md § 18): the price less value in, cost so far and cost still to come. */
export function doesItPay({ valueIn, soFar, toCome, price }: ReworkMoney): Paying {
  const cost = sum([valueIn, soFar, toCome]);
  const margin = price.minus(cost);
  return {
    cost,
    margin,
    percent: price.eq(0) ? null : divideRounded(margin.times(100), price, 1),
    worthSpending: max(price.minus(valueIn).minus(soFar), ZERO),
  };
}

/** One price for several units, shared out by what each costs, so that each pays alike; equally where none costs anything. null: not known. */
export const sharePriceByCost = (
  price: Decimal | null,
  costs: readonly Decimal[],
  decimals: number,
): (Decimal | null)[] =>
  price === null
    ? costs.map(() => null)
    : split(price, costs.every((cost) => cost.eq(0)) ? costs.map(() => ONE) : costs, decimals);
