import { Refusal } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";

/**
 * Refuses text that could not be given back as it came: half of a surrogate pair, which no encoding can write, and the NUL
 * character, at which SQL functions stop reading. The page cannot send either; another program can.
 */
export function refuseUnreadableText(app: FastifyInstance): void {
  app.addHook("preValidation", async ({ body, query, params }) => {
    for (const part of [body, query, params]) {
      const field = unreadable(part);
      if (field !== null) throw Refusal.at(field, "text-unreadable");
    }
  });
}

/** No schema goes deeper; what does is refused by it, and must not be followed until the stack is full. */
const DEEPEST = 30;

/** The path of the first such text, such as "lines.0.note"; null where there is none. */
function unreadable(value: unknown, depth = 0): string | null {
  if (typeof value === "string") return value.includes("\u0000") || !value.isWellFormed() ? "" : null;
  if (value === null || typeof value !== "object" || depth === DEEPEST) return null;
  for (const [key, inner] of Object.entries(value)) {
    const path = unreadable(inner, depth + 1);
    if (path !== null) return path === "" ? key : `${key}.${path}`;
  }
  return null;
}
