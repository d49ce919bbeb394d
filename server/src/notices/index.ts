export * from "./routes.ts";
export { tellPeople } from "./telling.ts";
