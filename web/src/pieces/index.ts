export { PieceFacts } from "./piecefacts.tsx";
