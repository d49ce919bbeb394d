import { useQuery } from "@tanstack/react-query";
import { recurringRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useRecurring = () => useQuery(asking(recurringRoutes.recurring, {}));
