import { spawn } from "node:child_process";
import { once } from "node:events";
import { createInterface } from "node:readline";
import { fileURLToPath } from "node:url";

/**
 * Runs a script of this folder that records one thing after the other and says each one's number, and kills it after it has said
 * `after` numbers and a moment more, in milliseconds. Gives the last number it said.
 */
export async function killed(
  script: string,
  args: readonly (string | number)[],
  { after, moment }: { after: number; moment: number },
): Promise<number> {
  const path = fileURLToPath(new URL(script, import.meta.url));
  const child = spawn(process.execPath, ["--import", "tsx", path, ...args.map(String)], {
    stdio: ["ignore", "pipe", "inherit"],
  });
  const exited = once(child, "exit");
  let said = 0;
  let killing = false;
  for await (const line of createInterface(child.stdout)) {
    if (line !== "ready") said = Number(line);
    if (killing || said < after) continue;
    killing = true;
    setTimeout(() => child.kill("SIGKILL"), moment);
  }
  const [code, signal] = await exited;
  if (signal !== "SIGKILL" && code !== 0) throw new Error(`${script} ended by itself: ${code}`);
  return said;
}
