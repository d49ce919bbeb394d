export { CountsPage } from "./countspage.tsx";
export { useCountNext } from "./queries.ts";
export { countOfBin } from "./words.ts";
