import { Worker } from "node:worker_threads";
import { Refusal } from "@yosegi/contract";

/** What a workbook may come to. A file of the largest size that an import takes stays well below. */
export const SHEET_LIMITS = {
  /** Bytes of all that is packed in it. */
  unpacked: 200_000_000,
  rows: 100_000,
  columns: 200,
  seconds: 60,
  megabytes: 768,
} as const;

/** What the thread answers: the cells of the first sheet as text, or why there are none. */
export type SheetAnswer = { rows: string[][] } | { why: string } | { tooLarge: true };

/** Where the thread begins: beside the bundle where there is one, else the source itself. */
function threadUrl(): URL {
  const here = import.meta.url;
  return new URL(here.endsWith(".ts") ? "./sheetthread.mjs" : "./sheetthread.js", here);
}

/**
 * The cells of the first sheet of a workbook as text. It is read in a thread of its own, with limits on memory and time:
 * a few bytes can stand for more cells than there is room for, and nobody else waits while it is read. Refused at `field`.
 */
export function readWorkbook(field: string, content: Buffer): Promise<string[][]> {
  const tooLarge = () =>
    Refusal.at(field, "sheet-too-large", { rows: SHEET_LIMITS.rows, columns: SHEET_LIMITS.columns });
  return new Promise((resolve, reject) => {
    const thread = new Worker(threadUrl(), {
      workerData: { content, limits: SHEET_LIMITS },
      resourceLimits: { maxOldGenerationSizeMb: SHEET_LIMITS.megabytes },
    });
    const timer = setTimeout(() => end(tooLarge()), SHEET_LIMITS.seconds * 1000);
    const end = (refusal: Error | null, rows: string[][] = []) => {
      clearTimeout(timer);
      void thread.terminate();
      if (refusal) reject(refusal);
      else resolve(rows);
    };
    thread.once("message", (answer: SheetAnswer) => {
      if ("rows" in answer) end(null, answer.rows);
      else end("why" in answer ? Refusal.at(field, "file-shape", { why: answer.why }) : tooLarge());
    });
    thread.once("error", (error: NodeJS.ErrnoException) =>
      end(error.code === "ERR_WORKER_OUT_OF_MEMORY" ? tooLarge() : error),
    );
  });
}
