export { CustomerWords } from "./customerwords.tsx";
export { MessageDialog } from "./messagedialog.tsx";
export type { TakenLine } from "./settling.ts";
