import type { SourceLine } from "../stock/index.ts";

/** A line of a build as what its movements are for; without a line the build's finished units. */
export const buildLine = (build: number, line = 0): SourceLine => ({ document: "build", id: build, line });
