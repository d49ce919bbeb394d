export { EMPTY_KIT, kitAnswer } from "./answer.ts";
export { costsWithKits } from "./costs.ts";
export { loadKits, type StoredKit } from "./kits.ts";
export { kitPrice } from "./price.ts";
export { kitRoutes } from "./routes.ts";
export { copyKit, type KeptContent, removeKit, writeContents, writeKits } from "./writing.ts";
