export * from "./errors.ts";
export { serveEvents } from "./events.ts";
export * from "./origin.ts";
export * from "./serve.ts";
export * from "./tables.ts";
export { refuseUnreadableText } from "./text.ts";
