import { Refusal, routes } from "@yosegi/contract";
import type { FastifyInstance } from "fastify";
import type { Store } from "../db/index.ts";
import { serveAsk, serveBytes } from "../http/index.ts";
import { codeSvg } from "../labels/index.ts";

/** How this server is reached from other devices. */
export interface Reach {
  /** Its addresses for other devices, once it listens; none where it listens for this machine alone. */
  addresses: () => readonly string[];
  /** The authority that a device has to trust; null where the server answers without a certificate of its own. */
  authority: string | null;
}

/** Tells how a handheld comes in: the addresses with codes to scan, and what it has to trust. */
export const secureRoutes =
  ({ addresses, authority }: Reach) =>
  (app: FastifyInstance, store: Store): void => {
    serveAsk(app, store, routes.reach, async () => ({
      addresses: addresses().map((address) => ({
        address,
        svg: codeSvg({ code: `${address}/pick`, shape: "qr" }),
      })),
      certificate: authority !== null,
    }));
    serveBytes(app, store, routes.authority, async () => {
      if (authority === null) throw new Refusal("no-certificate");
      return {
        name: "yosegi-authority.crt",
        type: "application/x-x509-ca-cert",
        content: Buffer.from(authority),
        forever: false,
      };
    });
  };
