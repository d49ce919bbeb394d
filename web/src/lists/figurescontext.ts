import { createContext } from "react";
import type { DraftFigures } from "./figures.ts";

/** Cost and reach of the list as it is typed, for the cells that show them. */
export const FiguresContext = createContext<{ figures: DraftFigures | null; usual: string }>({
  figures: null,
  usual: "",
});
