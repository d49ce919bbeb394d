/** Chance that can be repeated: the same seed gives the same numbers (mulberry32). */
export class Chance {
  #state: number;

  constructor(seed: number) {
    this.#state = seed >>> 0;
  }

  /** At least 0, below 1. */
  next(): number {
    this.#state = (this.#state + 0x6d2b79f5) >>> 0;
    let t = this.#state;
    t = Math.imul(t ^ (t >>> 15), t | 1);
    t ^= t + Math.imul(t ^ (t >>> 7), t | 61);
    return ((t ^ (t >>> 14)) >>> 0) / 4_294_967_296;
  }

  /** A whole number, both ends included. */
  int(least: number, most: number): number {
    return least + Math.floor(this.next() * (most - least + 1));
  }

  /** True so many times of a hundred. */
  percent(of: number): boolean {
    return this.next() * 100 < of;
  }

  pick<T>(from: readonly T[]): T {
    const found = from[this.int(0, from.length - 1)];
    if (found === undefined) throw new RangeError("There is nothing to pick from");
    return found;
  }
}
