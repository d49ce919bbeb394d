export * from "./ask.ts";
export * from "./call.ts";
export * from "./command.ts";
export { useLostAt } from "./connection.ts";
export * from "./failure.tsx";
export { newKey } from "./key.ts";
export * from "./pages.ts";
export { followChanges, isRecording, refresh } from "./refresh.ts";
export { useSettled, useSettledSearch } from "./settled.ts";
