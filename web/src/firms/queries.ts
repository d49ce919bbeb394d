import { useQuery } from "@tanstack/react-query";
import { type FirmKind, firmRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

/** Suppliers or customers page by page, by name. */
export const useFirmPages = (kind: FirmKind, search: string) =>
  usePages(firmRoutes.firms, { kind, search }, (page) => page.firms);
export const useFirm = (id: number) => useQuery(asking(firmRoutes.firm, { params: { id } }));
