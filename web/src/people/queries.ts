import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useCompany = () => useQuery(asking(routes.company, {}));
export const usePeople = () => useQuery(asking(routes.people, {}));
