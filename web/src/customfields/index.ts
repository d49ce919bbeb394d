export { OwnFields } from "./customfields.tsx";
export { OwnValues } from "./customvalues.tsx";
