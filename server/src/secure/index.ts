export { networkAddresses, ownNames } from "./addresses.ts";
export { type Certificate, serverCertificate } from "./certificate.ts";
export { type Reach, secureRoutes } from "./routes.ts";
