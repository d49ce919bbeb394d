import { useQuery } from "@tanstack/react-query";
import { labelRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useLabels = () => useQuery(asking(labelRoutes.labels, {}));

/** Labels that were printed, latest first. */
export const usePrintedLabels = (search: string) =>
  usePages(labelRoutes.printedLabels, { search }, (page) => page.labels);
