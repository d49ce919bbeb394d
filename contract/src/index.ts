import { buildRoutes } from "./builds.ts";
import { buyingRoutes } from "./buying.ts";
import { catalogRoutes } from "./catalog.ts";
import { coverRoutes } from "./cover.ts";
import { fileRoutes } from "./files.ts";
import { findRoutes } from "./find.ts";
import { firmRoutes } from "./firms.ts";
import { importRoutes } from "./imports.ts";
import { jobRoutes } from "./jobs.ts";
import { kitRoutes } from "./kits.ts";
import { labelRoutes } from "./labels.ts";
import { listRoutes } from "./lists.ts";
import { orderRoutes } from "./orders.ts";
import { ownFieldRoutes } from "./ownfields.ts";
import { peopleRoutes } from "./people.ts";
import { repeatRoutes } from "./repeats.ts";
import { stockRoutes } from "./stock.ts";

export * from "./brief.ts";
export * from "./builds.ts";
export * from "./buying.ts";
export * from "./catalog.ts";
export * from "./cover.ts";
export * from "./errors.ts";
export * from "./fields.ts";
export * from "./files.ts";
export * from "./find.ts";
export * from "./firms.ts";
export * from "./imports.ts";
export * from "./jobs.ts";
export * from "./kits.ts";
export * from "./labels.ts";
export * from "./lists.ts";
export * from "./orders.ts";
export * from "./ownfields.ts";
export * from "./people.ts";
export * from "./repeats.ts";
export * from "./route.ts";
export * from "./stock.ts";

/** All that the API can do. */
export const routes = {
  ...peopleRoutes,
  ...catalogRoutes,
  ...listRoutes,
  ...kitRoutes,
  ...firmRoutes,
  ...ownFieldRoutes,
  ...fileRoutes,
  ...coverRoutes,
  ...buyingRoutes,
  ...orderRoutes,
  ...buildRoutes,
  ...repeatRoutes,
  ...labelRoutes,
  ...stockRoutes,
  ...importRoutes,
  ...jobRoutes,
  ...findRoutes,
};
