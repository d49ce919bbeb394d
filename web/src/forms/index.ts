export { FormDialog, FormOf, Save, useErrorOf, useRefusal } from "./form.tsx";
export { type FormSetup, type FormState, useCommandForm, useSchemaForm } from "./formstate.ts";
export { useGrid } from "./grid.ts";
export { type InputOf, type Inputs, inputOf, inputsOf } from "./inputs.tsx";
export { sentLines } from "./sentlines.ts";
export { wholeNumber } from "./wholenumber.ts";
