import { hostname, networkInterfaces } from "node:os";

/** The addresses of this machine on its networks, for other devices. */
export const networkAddresses = (): string[] =>
  Object.values(networkInterfaces())
    .flatMap((own) => own ?? [])
    .filter(({ family, internal }) => family === "IPv4" && !internal)
    .map(({ address }) => address);

/** All names by which this machine may be called, `more` among them. */
export function ownNames(more: readonly string[]): string[] {
  const machine = hostname().toLowerCase();
  return [
    ...new Set(["localhost", machine, `${machine}.local`, ...more, "127.0.0.1", ...networkAddresses()]),
  ];
}
