import { useQuery } from "@tanstack/react-query";
import { itemRoutes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useGroups = () => useQuery(asking(itemRoutes.groups, {}));

/** Units of measure, as they are kept under Settings. */
export const useUnitList = () => useQuery(asking(itemRoutes.units, {}));
