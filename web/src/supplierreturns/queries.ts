import { useQuery } from "@tanstack/react-query";
import { supplierReturnRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

export const useSupplierReturns = (search: string) =>
  usePages(supplierReturnRoutes.supplierReturns, { search }, (page) => page.supplierReturns);
export const useSupplierReturn = (id: number) =>
  useQuery(asking(supplierReturnRoutes.supplierReturn, { params: { id } }));
