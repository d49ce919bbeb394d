import { existsSync } from "node:fs";
import { openStore, read } from "./db/index.ts";
import { audit } from "./ledger/index.ts";

/** Compares what the screens read with the sum of movements; prints each difference and exits 1 where there is one. */
const file = process.argv[2] ?? process.env.YOSEGI_DB ?? "data/yosegi.db";
if (!existsSync(file)) {
  console.error(`There is no database at ${file}.`);
  process.exit(2);
}
const store = await openStore(file);
const differences = await read(store, audit);
for (const d of differences)
  console.log(`${d.what} of ${d.where.trim()}: books ${d.books}, ledger ${d.ledger}`);
console.log(
  differences.length === 0 ? `${file}: books and ledger agree.` : `${differences.length} differences.`,
);
await store.close();
process.exit(differences.length === 0 ? 0 : 1);
