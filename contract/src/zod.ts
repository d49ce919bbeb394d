import { config, z } from "zod";
import { plainWords } from "./plainwords.ts";

// Set before any schema is made, wherever a bundler puts it. The page's policy allows no code made from text, which Zod would
// try for speed.
config({ customError: plainWords, jitless: "document" in globalThis });

export { z };
