import { buildRoutes } from "./builds.ts";
import { catalogRoutes } from "./catalog.ts";
import { coverRoutes } from "./cover.ts";
import { findRoutes } from "./find.ts";
import { importRoutes } from "./imports.ts";
import { peopleRoutes } from "./people.ts";
import { stockRoutes } from "./stock.ts";

export * from "./builds.ts";
export * from "./catalog.ts";
export * from "./cover.ts";
export * from "./errors.ts";
export * from "./fields.ts";
export * from "./find.ts";
export * from "./imports.ts";
export * from "./people.ts";
export * from "./route.ts";
export * from "./stock.ts";

/** All that the API can do. */
export const routes = {
  ...peopleRoutes,
  ...catalogRoutes,
  ...coverRoutes,
  ...buildRoutes,
  ...stockRoutes,
  ...importRoutes,
  ...findRoutes,
};
