/** Runs that are thrown away before any counts: the first ones fill caches and compile. */
export const WARM = 5;

export interface Measured {
  what: string;
  /** Median milliseconds of what is measured and of its floor. */
  ours: number;
  floor: number;
  ratio: number;
}

/** Measures a use case against the bare work that answers the same question, turn about, so that both meet the same machine; `before` runs ahead of each and is not measured. */
export async function against(
  what: string,
  runs: number,
  ours: () => Promise<unknown>,
  floor: () => Promise<unknown>,
  before: () => Promise<unknown> = async () => {},
): Promise<Measured> {
  const times: [number[], number[]] = [[], []];
  for (let i = 0; i < runs + WARM; i++)
    for (const [at, work] of [ours, floor].entries()) {
      await before();
      const began = performance.now();
      await work();
      if (i >= WARM) times[at]?.push(performance.now() - began);
    }
  const [a, b] = [median(times[0]), median(times[1])];
  return { what, ours: a, floor: b, ratio: a / b };
}

function median(values: readonly number[]): number {
  const sorted = [...values].sort((x, y) => x - y);
  return sorted[Math.floor(sorted.length / 2)] ?? Number.NaN;
}

/** Prints what was measured, and what of it is above the most that is allowed; gives whether all is within. */
export function report(measured: readonly Measured[], most: number): boolean {
  for (const { what, ours, floor, ratio } of measured) {
    const mark = ratio > most ? `  above ${most}` : "";
    console.log(
      `${what.padEnd(46)} ${ours.toFixed(2).padStart(9)} ms ${floor.toFixed(2).padStart(9)} ms  ratio ${ratio.toFixed(2)}${mark}`,
    );
  }
  return measured.every(({ ratio }) => ratio <= most);
}
