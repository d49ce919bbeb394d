import { lazy } from "react";

/** Loaded where there is no company yet. */
export const SetUpPage = lazy(async () => ({ default: (await import("./setuppage.tsx")).SetUpPage }));
