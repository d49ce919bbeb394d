import { DATA_AREAS, type DataArea } from "@yosegi/contract";
import owners from "./tableowners.json" with { type: "json" };

/** The area of each table, by the first that owns it; tables of the server's own are of none. */
const AREA_OF = new Map<string, DataArea>(
  Object.entries(owners).flatMap(([areas, tables]) => {
    const owner = areas.split(", ")[0];
    const area = DATA_AREAS.find((one) => one === owner);
    return area ? tables.map((table): [string, DataArea] => [table, area]) : [];
  }),
);

/** The areas of tables, each once. */
export const areasOf = (tables: Iterable<string>): DataArea[] => [
  ...new Set([...tables].flatMap((table) => AREA_OF.get(table) ?? [])),
];

/** What a command changed. */
export interface Change {
  areas: readonly DataArea[];
  /** The idempotency key that it came with; "" for what the server does by itself. */
  key: string;
}

/** Lets others know what changed, as soon as it is committed. */
export class Changes {
  readonly #listeners = new Set<(change: Change) => void>();

  /** Calls `listener` with each change from now on; gives how to stop. */
  listen(listener: (change: Change) => void): () => void {
    this.#listeners.add(listener);
    return () => this.#listeners.delete(listener);
  }

  tell(change: Change): void {
    if (change.areas.length > 0) for (const listener of this.#listeners) listener(change);
  }
}
