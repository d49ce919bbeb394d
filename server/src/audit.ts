import { existsSync } from "node:fs";
import { audit } from "./audits.ts";
import { read, WrongDatabase } from "./db/index.ts";
import { checkStore, openStore } from "./store.ts";

/** Compares what the screens read with the sum of movements; prints each difference and exits 1 where there is one. */
const file = process.argv[2] ?? process.env.YOSEGI_DB ?? "data/yosegi.db";
if (!existsSync(file)) {
  console.error(`There is no database at ${file}.`);
  process.exit(2);
}
const { current } = await checkStore(file).catch((error: unknown) => {
  if (!(error instanceof WrongDatabase)) throw error;
  console.error(error.message);
  process.exit(2);
});
// An audit changes nothing, the schema neither.
if (!current) {
  console.error(`${file} is of an earlier version. Start the server on it once, then audit it.`);
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
