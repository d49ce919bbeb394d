import { Refusal } from "@yosegi/contract";
import type { Store } from "../db/index.ts";

/** Rows that are worked on between two looks at whether somebody has cancelled. */
const YIELD_EVERY = 250;

/** Long work while it runs: how far it has come, and whether it is to stop. */
export class Job {
  step = "Reading";
  done = 0;
  of = 0;
  #cancelled = false;
  /** What else ends the work, where it does not look by itself. */
  onCancel: () => void = () => {};

  cancel(): void {
    this.#cancelled = true;
    this.onCancel();
  }

  /** Begins the next step of so many rows. */
  async begin(step: string, of: number): Promise<void> {
    Object.assign(this, { step, of, done: 0 });
    await this.#breathe();
  }

  /** Says how many rows of the step are done; lets the server answer others now and then. Throws once it is cancelled. */
  async at(done: number): Promise<void> {
    this.done = done;
    if (done % YIELD_EVERY === 0) await this.#breathe();
  }

  async #breathe(): Promise<void> {
    await new Promise((resolve) => setImmediate(resolve));
    if (this.#cancelled) throw new Refusal("cancelled");
  }
}

/** What runs now on a store, by the name its caller gave it. */
export function jobsOf(store: Store): Jobs {
  const known = running.get(store) ?? new Jobs();
  running.set(store, known);
  return known;
}
const running = new WeakMap<Store, Jobs>();

class Jobs {
  readonly #running = new Map<string, Job>();

  async run<T>(name: string, work: (job: Job) => Promise<T>): Promise<T> {
    if (this.#running.has(name)) throw new Refusal("job-running", { job: name });
    const job = new Job();
    this.#running.set(name, job);
    try {
      return await work(job);
    } finally {
      this.#running.delete(name);
    }
  }

  progress(name: string): { step: string; done: number; of: number } | null {
    const job = this.#running.get(name);
    return job ? { step: job.step, done: job.done, of: job.of } : null;
  }

  /** Whether there was anything of that name to cancel. */
  cancel(name: string): boolean {
    const job = this.#running.get(name);
    job?.cancel();
    return job !== undefined;
  }
}
