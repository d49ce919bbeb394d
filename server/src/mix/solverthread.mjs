// The solver of integer programmes, in a thread of its own. It is plain JavaScript, so that a thread can begin with it
// whether or not the rest is bundled. A programme comes in as LP text; the value of each variable goes out, or null.
import { parentPort } from "node:worker_threads";
import loadHighs from "highs";

/** Seconds that one programme may take; the best found until then counts. */
const TIME_LIMIT = 20;

const highs = await loadHighs();
parentPort?.on("message", (programme) => {
  const { Columns } = highs.solve(programme, { time_limit: TIME_LIMIT });
  const found = Object.entries(Columns).map(([name, column]) => [name, column.Primal]);
  parentPort?.postMessage(found.every(([, value]) => Number.isFinite(value)) ? found : null);
});
