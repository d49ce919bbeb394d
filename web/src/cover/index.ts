export { checkAddress } from "./asked.ts";
export * from "./checkpage.tsx";
