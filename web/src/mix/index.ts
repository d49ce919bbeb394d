import { lazy } from "react";

/** Loaded when it is opened. */
export const MixDialog = lazy(async () => ({ default: (await import("./mixdialog.tsx")).MixDialog }));
