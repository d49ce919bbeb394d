export { orderPromise, promiseAnswer } from "./answer.ts";
export * from "./demand.ts";
export * from "./moves.ts";
export * from "./promises.ts";
