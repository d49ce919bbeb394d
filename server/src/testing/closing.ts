import { afterEach } from "vitest";
import { closeWorlds } from "./world.ts";

afterEach(closeWorlds);
