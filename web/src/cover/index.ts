export { checkAddress } from "./checkinput.ts";
export * from "./checkpage.tsx";
