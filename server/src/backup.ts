import { existsSync } from "node:fs";
import { openDb } from "./db/index.ts";

/** Copies a database, also while it is in use, into a new file that is whole in itself. Never writes over a file. */
const [file, copy] = process.argv.slice(2);
if (!file || !copy) {
  console.error("Name the file to copy into: npm run backup -- data/backup.db");
  process.exit(2);
}
if (!existsSync(file)) {
  console.error(`There is no database at ${file}.`);
  process.exit(2);
}
if (existsSync(copy)) {
  console.error(`${copy} is there already; it stays as it is.`);
  process.exit(2);
}
const db = openDb(file);
await db.query("VACUUM INTO $copy", { bind: { copy } });
await db.close();
console.log(`${file} is copied into ${copy}.`);
