import { ask } from "./route.ts";
import { z } from "./zod.ts";

export const reachRoutes = {
  reach: ask("/api/reach", {
    permission: "look",
    summary: "How other devices reach this server: its addresses, with codes to scan",
    answer: z.object({
      addresses: z.array(
        z.object({
          address: z.string(),
          svg: z.string().meta({ description: "A QR code that opens the picks there" }),
        }),
      ),
      certificate: z
        .boolean()
        .meta({ description: "It answers with a certificate of its own, which devices have to trust" }),
    }),
  }),
  authority: ask("/api/reach/certificate", {
    permission: "look",
    summary:
      "The authority that a device has to trust so that this server's address is secure, as a certificate",
    answer: z.string().meta({ description: "The bytes of the file" }),
  }),
};
