import { useQuery } from "@tanstack/react-query";
import { routes } from "@yosegi/contract";
import { asking } from "../api/index.ts";

export const useGroups = () => useQuery(asking(routes.groups, {}));

/** Units of measure, as they are kept under Settings. */
export const useUnitList = () => useQuery(asking(routes.units, {}));
