/** Where the solver's thread begins: beside the bundle where there is one, else the source itself. */
export function solverUrl(): URL {
  const here = import.meta.url;
  return new URL(here.endsWith(".ts") ? "./solverthread.mjs" : "./solverthread.js", here);
}
