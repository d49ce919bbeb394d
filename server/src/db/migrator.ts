import { migrate } from "./migrations.ts";

// Brings the file named to the newest schema; says when it begins, for a test that kills it meanwhile.
console.log("ready");
await migrate(process.argv[2] ?? "");
console.log("done");
