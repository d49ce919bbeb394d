import { createContext } from "react";
import type { DraftFigures } from "./figures.ts";

/** What the list costs and how far stock reaches, as it is typed, for every cell that shows a part of it. */
export const FiguresContext = createContext<{ figures: DraftFigures | null; usual: string }>({
  figures: null,
  usual: "",
});
