import { openStore } from "../store.ts";

// Opens the database file named, which brings it to the newest schema; says when it begins, for a test that kills it meanwhile.
console.log("ready");
const store = await openStore(process.argv[2] ?? "");
console.log("done");
await store.close();
