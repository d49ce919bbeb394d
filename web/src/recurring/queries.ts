import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useRecurring = () => useQuery(asking(routes.recurring, {}));
