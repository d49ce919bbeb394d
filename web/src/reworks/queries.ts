import { keepPreviousData, useQuery } from "@tanstack/react-query";
import { type QueryOf, reworkRoutes } from "@yosegi/contract";
import { asking, usePages } from "../api/index.ts";

type ReworkQuery = Partial<QueryOf<typeof reworkRoutes.reworks>>;
type StepQuery = Partial<QueryOf<typeof reworkRoutes.reworkSteps>>;

export const useReworks = (query: ReworkQuery) =>
  usePages(reworkRoutes.reworks, query, (page) => page.reworks);
export const useRework = (id: number) => useQuery(asking(reworkRoutes.rework, { params: { id } }));
export const useReworkSteps = (query: StepQuery) =>
  usePages(reworkRoutes.reworkSteps, query, (page) => page.steps);
export const useReworkPlans = () =>
  useQuery({ ...asking(reworkRoutes.reworkPlans, {}), placeholderData: keepPreviousData });
export const useHeldUnits = (customer: number) =>
  useQuery(asking(reworkRoutes.heldUnits, { params: { id: customer } }));
