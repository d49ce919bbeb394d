export { CustomFields } from "./customfields.tsx";
export { CustomValues } from "./customvalues.tsx";
