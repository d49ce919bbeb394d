import { existsSync, renameSync, rmSync } from "node:fs";
import { playDemo } from "./play.ts";

/**
 * Makes the demo company's database where there is none, as if it were started now or at the moment named. It appears
 * under its name only when it is whole.
 */
const [file, folder, started] = process.argv.slice(2);
if (!file || !folder) throw new Error("seed FILE FOLDER [MOMENT]");
if (existsSync(file)) {
  console.log(`${file} is there; it stays as it is.`);
} else {
  const unfinished = `${file}.unfinished`;
  for (const end of ["", "-wal", "-shm"]) rmSync(unfinished + end, { force: true });
  const store = await playDemo(unfinished, new URL(`file://${folder}/`), new Date(started ?? Date.now()));
  await store.db.query("PRAGMA wal_checkpoint(TRUNCATE)");
  await store.close();
  for (const end of ["-wal", "-shm"]) rmSync(unfinished + end, { force: true });
  renameSync(unfinished, file);
  console.log(`Made the demo company in ${file}.`);
}
