import { useQuery } from "@tanstack/react-query";
import { customFieldRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useCustomFields = () => useQuery(asking(customFieldRoutes.customFields, {}));
