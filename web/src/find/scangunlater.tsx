import { lazy } from "react";

/** Loaded when it is first taken out. */
export const ScanGun = lazy(async () => ({ default: (await import("./scangun.tsx")).ScanGun }));
