import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useLists = (product: number) => useQuery(asking(routes.lists, { params: { id: product } }));
