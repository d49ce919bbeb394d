import { Worker } from "node:worker_threads";
import { type MixAnswer, type ParsedBody, Refusal, type routes } from "@yosegi/contract";
import {
  bestMix,
  type Demand,
  decimal,
  eachAt,
  free,
  greedyMix,
  type MixProblem,
  margin,
  mixValue,
  priorityValues,
  type Solver,
  sum,
  ZERO,
} from "@yosegi/core";
import { type LoadedQuestion, readQuestion } from "../cover/index.ts";
import { type Reading, read, type Store } from "../db/index.ts";
import type { Job } from "../jobs/index.ts";
import { currentCosts } from "../lists/index.ts";
import { solverUrl } from "./solver.ts";

/**
 * Figures the best mix of what is asked for. What it is asked of is read in one question; then the solver works, in a
 * thread of its own that is ended when it is stopped, and nobody else waits for it.
 */
export async function mixOf(
  store: Store,
  { question, by }: Pick<ParsedBody<typeof routes.mix>, "question" | "by">,
  job: Job,
): Promise<MixAnswer> {
  const { loaded, problem, decimals } = await read(store, async (ctx) => {
    const loaded = await readQuestion(ctx, question);
    return { loaded, problem: await problemOf(ctx, loaded, by), decimals: ctx.currencyDecimals };
  });
  const thread = new SolverThread();
  job.onCancel = () => thread.stop();
  try {
    await job.begin("Solving", 1);
    const best = await bestMix(problem, thread.solve, (done, of) => Object.assign(job, { done, of }));
    return answer(loaded, problem, best, by, decimals);
  } finally {
    thread.stop();
  }
}

/** The solver in a thread of its own: it blocks while it works, and a thread can be ended. */
class SolverThread {
  readonly #worker = new Worker(solverUrl());
  #refuse: ((error: Error) => void) | null = null;
  #stopped = false;

  readonly solve: Solver = (programme) =>
    new Promise((resolve, reject) => {
      if (this.#stopped) return reject(new Refusal("cancelled"));
      this.#refuse = reject;
      this.#worker.once("message", (found: [string, number][] | null) => {
        this.#worker.off("error", reject);
        this.#refuse = null;
        resolve(found === null ? null : new Map(found));
      });
      this.#worker.once("error", reject);
      this.#worker.postMessage(programme);
    });

  stop(): void {
    this.#stopped = true;
    this.#refuse?.(new Refusal("cancelled"));
    this.#refuse = null;
    void this.#worker.terminate();
  }
}

type Basis = ParsedBody<typeof routes.mix>["by"];

async function problemOf(ctx: Reading, { demands, factsOf }: LoadedQuestion, by: Basis): Promise<MixProblem> {
  const cost = await currentCosts(
    ctx,
    demands.map((d) => d.item),
  );
  const ranks = priorityValues(demands.map(({ priority, quantity }) => ({ priority, quantity })));
  const marginOf = (demand: Demand) => {
    const { price } = factsOf(demand.item);
    const each = cost(demand.item);
    return price === null || each === null ? ZERO : margin(eachAt(price), eachAt(each)).money;
  };
  return {
    products: demands.map((demand, i) => ({
      item: demand.item,
      list: demand.list,
      wanted: demand.quantity,
      value: by === "margin" ? marginOf(demand) : (ranks[i] ?? ZERO),
    })),
    free: (item) => free(factsOf(item).stock),
  };
}

function answer(
  { factsOf }: LoadedQuestion,
  problem: MixProblem,
  best: Awaited<ReturnType<typeof bestMix>>,
  by: Basis,
  decimals: number,
): MixAnswer {
  const byHand = greedyMix(problem);
  // By priority, the values only order; what is told then is how many units are built in all.
  const valueText = (mix: typeof byHand) =>
    by === "margin" ? mixValue(problem, mix).toFixed(decimals) : sum(mix).toFixed();
  return {
    mix: problem.products.map(({ item, wanted, value }, i) => ({
      item: factsOf(item).brief,
      wanted: wanted.toFixed(),
      quantity: (best.mix[i] ?? ZERO).toFixed(),
      byHand: (byHand[i] ?? ZERO).toFixed(),
      brings: by === "margin" ? value.toFixed(decimals) : null,
    })),
    value: valueText(best.mix),
    byHand: valueText(byHand),
    binding: best.binding.map(({ item, brings }) => ({
      item: factsOf(item).brief,
      brings: by === "margin" ? decimal(brings.toFixed()).toFixed(decimals) : brings.toFixed(),
    })),
  };
}
