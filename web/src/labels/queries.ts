import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useLabels = () => useQuery(asking(routes.labels, {}));

/** Labels that were printed, latest first. */
export const usePrintedLabels = (search: string) =>
  usePages(routes.printedLabels, { search }, (page) => page.labels);
