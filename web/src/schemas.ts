import { config } from "zod";

// The page's policy allows no code made from text, which Zod would try for speed.
config({ jitless: true });
