import { useQuery } from "@tanstack/react-query";
import { peopleRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useCompany = () => useQuery(asking(peopleRoutes.company, {}));
export const usePeople = () => useQuery(asking(peopleRoutes.people, {}));
