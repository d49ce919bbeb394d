import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useCustomFields = () => useQuery(asking(routes.customFields, {}));
