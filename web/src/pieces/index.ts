export { PieceFacts, usePiece } from "./piecefacts.tsx";
