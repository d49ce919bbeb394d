import { type Decimal, decimal, divideDown, min, step, sum, ZERO } from "../amounts/index.ts";
import { linesByItem, mostThatFits } from "../cover/index.ts";
import {
  goodFrom,
  itemNeed,
  type ListLine,
  needOfOne,
  needUnit,
  type PartsList,
  startFor,
} from "../lists/index.ts";

/** A product that may be built now, and what one of it brings. */
export interface MixProduct {
  item: number;
  list: PartsList;
  /** The most that is wanted, in good units. */
  wanted: Decimal;
  /** What one good unit brings; more is better, and below zero nobody builds it. */
  value: Decimal;
}

export interface MixProblem {
  products: readonly MixProduct[];
  /** Free stock of each part that is kept on the books. */
  free: (item: number) => Decimal;
}

/** How many to build of each product, in the order of the products. */
export type Mix = Decimal[];

/** What a solver of integer programmes answers: the value of each variable by its name; null where it found nothing. */
export type Solver = (programme: string) => Promise<ReadonlyMap<string, number> | null>;

/** What a mix brings in all. */
export const mixValue = ({ products }: MixProblem, mix: Mix): Decimal =>
  sum(products.map(({ value }, i) => value.times(mix[i] ?? ZERO)));

/** What a mix takes of each part. */
export function mixNeeds({ products }: MixProblem, mix: Mix): Map<number, Decimal> {
  const needs = new Map<number, Decimal>();
  for (const [i, { list }] of products.entries())
    for (const [item, lines] of counted(list)) {
      const need = itemNeed(lines, list.makes, startFor(list, mix[i] ?? ZERO));
      needs.set(item, (needs.get(item) ?? ZERO).plus(need));
    }
  return needs;
}

/** Whether stock suffices for a mix, figured exactly. */
export const mixFits = (problem: MixProblem, mix: Mix): boolean =>
  [...mixNeeds(problem, mix)].every(([item, need]) => need.eq(0) || need.lte(problem.free(item)));

const counted = (list: PartsList): Map<number, ListLine[]> =>
  linesByItem(list.lines.filter((line) => line.stocked));

/** The product that brings most first, as many as fit, then the next: what a person would do by hand. */
export function greedyMix(problem: MixProblem): Mix {
  const { products } = problem;
  const mix: Mix = products.map(() => ZERO);
  const order = products.map((_, i) => i).sort((a, b) => valueAt(products, b).cmp(valueAt(products, a)));
  for (const i of order) {
    const product = products[i];
    if (!product || product.value.lte(0)) continue;
    mix[i] = mostThatFits(product.wanted, product.list, (n) => mixFits(problem, replaced(mix, i, n)));
  }
  return mix;
}

const valueAt = (products: readonly MixProduct[], i: number): Decimal => products[i]?.value ?? ZERO;

const replaced = (mix: Mix, at: number, n: Decimal): Mix => mix.map((q, i) => (i === at ? n : q));

/**
 * The choice as an integer programme, in the LP format that solvers read. Counts are in whole steps of the units, so
 * that all variables are integers: g0 good units of the first product, s0 started, z0 whether any are, and y0_1 the
 * rounded need of its second line where it does not come out even. Values and bounds are exact as far as the solver's
 * own numbers are; what it answers is figured anew with exact decimals.
 */
export function mixProgramme({ products, free }: MixProblem): string {
  const value: string[] = [];
  const rows: string[] = [];
  const bounds: string[] = [];
  const integers: string[] = [];
  const binaries: string[] = [];
  const takes = new Map<number, string[]>();
  for (const [i, { list, wanted, value: each }] of products.entries()) {
    const size = step(list.decimals);
    const most = startFor(list, wanted).div(size);
    value.push(term(each.times(size), `g${i}`));
    bounds.push(`0 <= g${i} <= ${text(wanted.div(size))}`, `0 <= s${i} <= ${text(most)}`);
    integers.push(`g${i}`, `s${i}`);
    binaries.push(`z${i}`);
    rows.push(`100 g${i} - ${text(list.yield)} s${i} <= 0`, `s${i} - ${text(most)} z${i} <= 0`);
    for (const [at, line] of list.lines.entries()) {
      if (!line.stocked) continue;
      const into = takes.get(line.item) ?? [];
      takes.set(line.item, into);
      const unit = needUnit(line);
      const stockStep = step(unit.decimals);
      if (line.oncePerBuild) {
        const need = itemNeed([line], list.makes, size).div(stockStep);
        into.push(term(need, `z${i}`));
        continue;
      }
      const one = needOfOne(line, list.makes);
      const [numerator, denominator] = [one.numerator.times(size), one.denominator.times(stockStep)];
      const each = numerator.div(denominator);
      if (each.times(denominator).eq(numerator) && each.eq(each.round(0))) {
        into.push(term(each, `s${i}`));
        continue;
      }
      const rounded = `y${i}_${at}`;
      rows.push(`${text(each)} s${i} - ${rounded} <= 0`);
      integers.push(rounded);
      bounds.push(`0 <= ${rounded} <= ${text(each.times(most).plus(1).round(0, 3))}`);
      into.push(term(decimal(1), rounded));
    }
  }
  for (const [item, terms] of takes) {
    const decimals = decimalsOf(products, item);
    const there = free(item);
    rows.push(`${terms.join(" ")} <= ${there.lte(0) ? "0" : text(divideDown(there, step(decimals), 0))}`);
  }
  return [
    "Maximize",
    ` obj: ${value.join(" ")}`,
    "Subject To",
    ...rows.map((row, i) => ` r${i}: ${row}`),
    "Bounds",
    ...bounds.map((bound) => ` ${bound}`),
    "General",
    ` ${integers.join(" ")}`,
    "Binary",
    ` ${binaries.join(" ")}`,
    "End",
    "",
  ].join("\n");
}

const text = (value: Decimal): string => value.round(15, 1).toFixed();

const term = (value: Decimal, name: string): string =>
  value.lt(0) ? `- ${text(value.abs())} ${name}` : `+ ${text(value)} ${name}`;

function decimalsOf(products: readonly MixProduct[], item: number): number {
  const line = products.flatMap(({ list }) => list.lines).find((l) => l.item === item);
  return line ? needUnit(line).decimals : 0;
}

/** Reads a solver's answer as a mix, and takes back what its rounding put above what really fits. */
function readMix(problem: MixProblem, found: ReadonlyMap<string, number>): Mix {
  const { products } = problem;
  const mix = products.map(({ list, wanted }, i) => {
    const count = decimal(Math.max(0, Math.round(found.get(`g${i}`) ?? 0)));
    return min(wanted, count.times(step(list.decimals)));
  });
  const cheapest = products.map((_, i) => i).sort((a, b) => valueAt(products, a).cmp(valueAt(products, b)));
  for (const i of cheapest) {
    if (mixFits(problem, mix)) break;
    const product = products[i];
    if (product)
      mix[i] = mostThatFits(mix[i] ?? ZERO, product.list, (n) => mixFits(problem, replaced(mix, i, n)));
  }
  return mix;
}

export interface Binding {
  /** A part of which one more would be needed to build any more. */
  item: number;
  /** What one more stock unit of it would bring. */
  brings: Decimal;
}

export interface BestMix {
  mix: Mix;
  value: Decimal;
  binding: Binding[];
}

/**
 * The mix that brings most with the stock there is, never less than by hand, and what one more of each part that binds
 * would bring. `told` hears how many of how many programmes are solved.
 */
export async function bestMix(
  problem: MixProblem,
  solve: Solver,
  onProgress: (done: number, of: number) => void = () => {},
): Promise<BestMix> {
  onProgress(0, 1);
  const mix = await solved(problem, solve);
  const value = mixValue(problem, mix);
  const parts = bindingParts(problem, mix);
  const binding: Binding[] = [];
  for (const [i, item] of parts.entries()) {
    onProgress(1 + i, 1 + parts.length);
    const richer: MixProblem = {
      ...problem,
      free: (other) => (other === item ? problem.free(other).plus(1) : problem.free(other)),
    };
    const better = mixValue(problem, await solved(richer, solve));
    binding.push({ item, brings: better.gt(value) ? better.minus(value) : ZERO });
  }
  onProgress(1 + parts.length, 1 + parts.length);
  return { mix, value, binding };
}

async function solved(problem: MixProblem, solve: Solver): Promise<Mix> {
  const found = await solve(mixProgramme(problem));
  const byHand = greedyMix(problem);
  if (found === null) return byHand;
  const mix = readMix(problem, found);
  return mixFits(problem, mix) && mixValue(problem, mix).gte(mixValue(problem, byHand)) ? mix : byHand;
}

/** Parts that stand in the way of one step more of a product that is wanted and brings something. */
export function bindingParts(problem: MixProblem, mix: Mix): number[] {
  const binding = new Set<number>();
  for (const [i, { list, wanted, value }] of problem.products.entries()) {
    const now = mix[i] ?? ZERO;
    if (value.lte(0) || now.gte(wanted)) continue;
    const more = replaced(mix, i, goodFrom(list, startFor(list, now.plus(step(list.decimals)))));
    for (const [item, need] of mixNeeds(problem, more))
      if (counted(list).has(item) && need.gt(problem.free(item))) binding.add(item);
  }
  return [...binding];
}

/**
 * What one of each product counts where only the order matters: one of a priority counts more than all that is wanted
 * of those after it. 1 is served first.
 */
export function priorityValues(wanted: readonly { priority: number; quantity: Decimal }[]): Decimal[] {
  const values = new Map<number, Decimal>();
  let below = ZERO;
  for (const priority of [...new Set(wanted.map((w) => w.priority))].sort((a, b) => b - a)) {
    const value = below.plus(1);
    values.set(priority, value);
    const all = sum(wanted.filter((w) => w.priority === priority).map((w) => w.quantity));
    below = below.plus(value.times(all));
  }
  return wanted.map(({ priority }) => values.get(priority) ?? ZERO);
}
