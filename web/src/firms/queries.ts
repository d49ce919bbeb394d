import { useQuery } from "@tanstack/react-query";
import { type FirmKind, routes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

/** Suppliers or customers page by page, by name. */
export const useFirmPages = (kind: FirmKind, search: string) =>
  usePages(routes.firms, { kind, search }, (page) => page.firms);
export const useFirm = (id: number) => useQuery(asking(routes.firm, { params: { id } }));
