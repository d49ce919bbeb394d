export { makeStanding, writeStanding } from "./recurring.ts";
export { repeatRoutes } from "./routes.ts";
export { keepRules, setKeepRule } from "./targets.ts";
