import loadHighs from "highs";
import type { Solver } from "../mix/index.ts";

/** The solver as the server uses it, for tests. */
export async function solver(): Promise<Solver> {
  const highs = await loadHighs();
  return async (programme) => {
    const { Status, Columns } = highs.solve(programme);
    if (Status !== "Optimal") return null;
    return new Map(
      Object.entries(Columns).map(([name, column]) => [name, "Primal" in column ? column.Primal : 0]),
    );
  };
}
