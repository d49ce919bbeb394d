import type { SchemaConnection } from "./schemaconnection.ts";

/** One step of the schema. */
export interface Migration {
  name: string;
  sql?: string;
  /** What SQL alone cannot do; in the same transaction, after it. */
  fill?: (db: SchemaConnection) => Promise<void>;
}
