export { CountsPage } from "./countspage.tsx";
export { countOfBin } from "./words.ts";
